import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Express } from 'express';
import request, { type Response } from 'supertest';
import { invertChange, type Change, type PictureEntity } from '@true-nib/core/page';
import { unpackChange } from '@true-nib/core/wire';
import { changesSince, entityRows } from '../src/keeping/rows';
import { sha256Of } from '../src/keeping/blobs';
import {
  change,
  drawing,
  entitiesOf,
  folioWithPage,
  picture,
  putBlob,
  sendChanges,
  start,
  startService,
  type Service,
} from './service';

let here: Service;
let there: Service;
beforeEach(async () => {
  here = await startService();
  there = await startService();
});
afterEach(async () => {
  await here.close();
  await there.close();
});

const bytesOf = (response: Response): Buffer => response.body as Buffer;
const collected = (response: unknown, done: (error: Error | null, body: Buffer) => void): void => {
  const parts: Buffer[] = [];
  const stream = response as NodeJS.ReadableStream;
  stream.on('data', (part: Buffer) => parts.push(part));
  stream.on('end', () => done(null, Buffer.concat(parts)));
};
const packageOf = (app: Express, folioId: string, journal = 'yes') =>
  request(app).get(`/api/folios/${folioId}/package?journal=${journal}`).buffer(true).parse(collected);
const bringIn = (app: Express, bytes: Buffer) =>
  request(app).post('/api/folios/package').set('content-type', 'application/zip').send(bytes);

/** A folio with lines, one that was taken back, and a rough. */
async function drawnFolio(): Promise<{ folioId: string; pageId: string; changes: readonly Change[] }> {
  const { folioId, pageId } = await folioWithPage(here.app);
  const png = await picture().png().toBuffer();
  await putBlob(here.app, png, 'image/png').expect(201);
  const rough: PictureEntity = {
    ...{ kind: 'picture', id: 'rough', layerId: 'inks', order: 'a9', blob: sha256Of(png), width: 40, height: 30 },
    ...{ opacity: 0.5, tint: 'blue', placement: { x: 20, y: 15, scale: 1, angle: 0 } },
  };
  const second = drawing('b', 50);
  const changes = [
    start(),
    drawing('a'),
    second,
    change([{ before: null, after: rough }], { needs: ['inks'] }),
    invertChange(second, { id: 'undo', by: 'me', at: 2 }),
  ];
  await sendChanges(here.app, pageId, 0, changes).expect(200);
  await request(here.app)
    .put(`/api/pages/${pageId}/thumbnail?revision=5`)
    .set('content-type', 'image/png')
    .send(await picture(32, 48).png().toBuffer())
    .expect(204);
  return { folioId, pageId, changes };
}

const rowsOf = async ({ store }: Service, pageId: string) =>
  new Map((await entityRows(store, pageId)).map(({ id, bytes }) => [id, bytes.toString('hex')]));

describe('a folio as one file', () => {
  it('is the same to the bit on another desk, undo included', async () => {
    const { folioId, pageId } = await drawnFolio();
    const sent = await packageOf(here.app, folioId).expect(200).expect('content-type', /zip/);
    expect(sent.headers['content-disposition']).toContain('saltmarsh-ferry.folio.zip');
    const { body } = await bringIn(there.app, bytesOf(sent)).expect(201);
    const { body: folio } = await request(there.app).get(`/api/folios/${body.id}`).expect(200);
    expect(folio).toMatchObject({
      name: 'Saltmarsh Ferry',
      pages: [{ name: 'Quay', width: 2000, revision: 5, thumbnail: 5 }],
    });
    const [{ id }] = folio.pages as { id: string }[];
    expect(await rowsOf(there, id)).toEqual(await rowsOf(here, pageId));
    const journal = async ({ store }: Service, page: string) =>
      (await changesSince(store, page, 0, 100)).map((bytes) => Buffer.from(bytes).toString('hex'));
    expect(await journal(there, id)).toEqual(await journal(here, pageId));
    // What was taken back is brought back over there.
    const [undo] = (await changesSince(there.store, id, 4, 1)).map(unpackChange);
    await sendChanges(there.app, id, 5, [invertChange(undo, { id: 'redo', by: 'me', at: 3 })]).expect(200);
    expect([...(await entitiesOf(there.app, id)).keys()].sort()).toEqual([
      'a',
      'a:hand',
      'b',
      'b:hand',
      'inks',
      'rough',
    ]);
    await request(there.app)
      .get(`/api/blobs/${sha256Of(await picture().png().toBuffer())}`)
      .expect(200);
  });

  it.each([1])('of version %d, as it was once written, is read for ever', async (version) => {
    const file = readFileSync(join(__dirname, 'kept', `folio-${version}.zip`));
    const { body } = await bringIn(there.app, file).expect(201);
    const { body: folio } = await request(there.app).get(`/api/folios/${body.id}`).expect(200);
    expect(folio).toMatchObject({
      name: 'Saltmarsh Ferry',
      pages: [{ name: 'Quay', width: 2000, revision: 5, thumbnail: 5 }],
    });
    const [{ id }] = folio.pages as { id: string }[];
    expect([...(await entitiesOf(there.app, id)).keys()].sort()).toEqual(['a', 'a:hand', 'inks', 'rough']);
    const [undo] = (await changesSince(there.store, id, 4, 1)).map(unpackChange);
    await sendChanges(there.app, id, 5, [invertChange(undo, { id: 'redo', by: 'me', at: 3 })]).expect(200);
    expect((await entitiesOf(there.app, id)).get('b')).toMatchObject({ kind: 'stroke' });
  });

  it('goes without its past when that is wanted: one change lays all that there is', async () => {
    const { folioId, pageId } = await drawnFolio();
    const sent = await packageOf(here.app, folioId, 'no').expect(200);
    const { body } = await bringIn(there.app, bytesOf(sent)).expect(201);
    const { body: folio } = await request(there.app).get(`/api/folios/${body.id}`).expect(200);
    const [{ id, revision }] = folio.pages as { id: string; revision: number }[];
    expect(revision).toBe(1);
    expect(await rowsOf(there, id)).toEqual(await rowsOf(here, pageId));
  });

  it('brings its templates and nibs along, and changes none that are there', async () => {
    const { folioId } = await drawnFolio();
    const template = (name: string) => ({
      name,
      rings: [{ points: [0, 0, 0, 9, 0, 0, 9, 9, 0, 0, 0, 0], closed: true }],
    });
    for (const [service, name] of [
      [here, 'Gable'],
      [there, 'Another gable'],
    ] as const)
      await request(service.app).put('/api/templates/gable').send(template(name)).expect(200);
    await request(here.app).put('/api/templates/oar').send(template('Oar')).expect(200);
    await bringIn(there.app, bytesOf(await packageOf(here.app, folioId).expect(200))).expect(201);
    const { body } = await request(there.app).get('/api/templates').expect(200);
    expect((body as { name: string }[]).map(({ name }) => name).sort()).toEqual(['Another gable', 'Oar']);
  });

  it('that is damaged or none at all is refused with a reason, and leaves nothing behind', async () => {
    const { folioId } = await drawnFolio();
    const whole = bytesOf(await packageOf(here.app, folioId).expect(200));
    for (const bytes of [whole.subarray(0, whole.length / 2), Buffer.from('no ZIP'), Buffer.alloc(0)]) {
      const { body } = await bringIn(there.app, bytes).expect(422);
      expect(body.title).toBe('This folio cannot be brought in');
      expect(body.detail).toMatch(/\.$/);
    }
    const { body } = await request(there.app).get('/api/folios').expect(200);
    expect(body.folios).toEqual([]);
  });

  it('of no folio is not there', async () => {
    await request(here.app).get('/api/folios/none/package').expect(404);
    await request(here.app).get('/api/folios/none/package?journal=perhaps').expect(400);
  });
});
