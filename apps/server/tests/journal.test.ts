import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { checkChange, invertChange, newLayer } from '@true-nib/core/page';
import { checkParts, entitiesIn, PACKED_TYPE, type PackedParts } from '@true-nib/core/wire';
import { DatabaseError, QueryTypes } from 'sequelize';
import sharp from 'sharp';
import request from 'supertest';
import { createApp } from '../src/app';
import { renamePage } from '../src/keeping/pages';
import type { Store } from '../src/keeping/store';
import {
  change,
  drawing,
  entitiesOf,
  folioWithPage,
  layer,
  packedBody,
  replayed,
  sendChanges,
  start,
  startService,
  stroke,
  type Service,
} from './service';

let service: Service;
let pageId: string;
beforeEach(async () => {
  service = await startService();
  ({ pageId } = await folioWithPage(service.app));
});
afterEach(() => service.close());

/** The body of an answer as bytes. */
const asBytes = (asked: request.Test) =>
  asked.buffer().parse((response, done) => {
    const parts: Buffer[] = [];
    response.on('data', (part: Buffer) => parts.push(part));
    response.on('end', () => done(null, Buffer.concat(parts)));
  });

const send = (since: number, changes: readonly unknown[], lastId?: string) =>
  sendChanges(service.app, pageId, since, changes, lastId);
const revision = async () => (await request(service.app).get(`/api/pages/${pageId}`)).body.revision;

describe('the journal', () => {
  it('keeps changes in order and the page that they make', async () => {
    const changes = [start(), drawing('a'), drawing('b', 40)];
    await send(0, changes).expect(200, { revision: 3, added: 3 });
    const expected = replayed(changes);
    expect([...(await entitiesOf(service.app, pageId)).keys()].sort()).toEqual(
      [...expected.entities].map(({ id }) => id).sort(),
    );
  });

  it('takes a change that comes twice only once', async () => {
    const first = [start(), drawing('a')];
    await send(0, first).expect(200);
    await send(0, first).expect(200, { revision: 2, added: 0 });
    await send(2, [first[1], drawing('b')]).expect(200, { revision: 3, added: 1 });
  });

  it('tells who sends a change again what others saved since, and does not let him stand where he has not been', async () => {
    await send(0, [start()]).expect(200);
    const mine = drawing('a');
    await send(1, [mine]).expect(200);
    await send(2, [drawing('b')]).expect(200);
    const { body } = await send(1, [mine]).expect(409);
    expect(body).toMatchObject({ revision: 3, changes: [{ id: mine.id }, { label: 'Stroke' }] });
    await send(3, [mine]).expect(200, { revision: 3, added: 0 });
  });

  it('takes a change back and does it again, and never rewrites itself', async () => {
    const [layerChange, draw] = [start(), drawing('a')];
    const undo = invertChange(draw, { id: 'u1' });
    await send(0, [layerChange, draw, undo]).expect(200);
    expect((await entitiesOf(service.app, pageId)).has('a')).toBe(false);
    await send(3, [invertChange(undo, { id: 'r1' })]).expect(200);
    expect((await entitiesOf(service.app, pageId)).has('a')).toBe(true);
    const { body } = await request(service.app).get(`/api/pages/${pageId}/changes?only=headers`).expect(200);
    expect(body.changes.map(({ undoes }: { undoes?: string }) => undoes ?? null)).toEqual([null, null, draw.id, 'u1']);
  });

  it('sends a page’s picture with the document, and has the page fetched along with the app, packed by its address alone', async () => {
    await send(0, [start(), drawing('a')]).expect(200);
    const web = mkdtempSync(join(tmpdir(), 'true-nib-web-'));
    writeFileSync(join(web, 'index.html'), '<!doctype html><title>True Nib</title><div id="root"></div>');
    const app = createApp({ store: service.store, web, version: 'test' });
    const document = await request(app).get(`/page/${pageId}`).expect(200);
    const [, address] = /^<([^>]+)>; rel=preload; as=fetch; crossorigin=anonymous$/.exec(document.headers.link) ?? [];
    expect(address).toBe(`/api/pages/${pageId}?form=packed`);
    const page = await request(app).get(address).expect(200);
    expect(page.headers['content-type']).toMatch(PACKED_TYPE);
    expect(document.text).not.toContain('<img');
    const small = await sharp({ create: { width: 4, height: 5, channels: 3, background: 'white' } })
      .png()
      .toBuffer();
    const at = `/api/pages/${pageId}/thumbnail`;
    await request(app).put(`${at}?revision=2`).type('image/png').send(small).expect(204);
    const again = await request(app).get(`/page/${pageId}`).expect(200);
    expect(again.text).toContain(`<img id="first-picture" src="${at}" alt=""><div id="root">`);
    const shelf = await request(app).get('/').expect(200);
    expect([shelf.headers.link, shelf.text]).toEqual([undefined, expect.not.stringContaining('<img')]);
    rmSync(web, { recursive: true, force: true });
  });

  it('sends a page packed as it stands, also when it was asked for before', async () => {
    const opened = async () => {
      const answer = await asBytes(request(service.app).get(`/api/pages/${pageId}?form=packed`)).expect(200);
      // A tab that goes back asks for it anew.
      expect(answer.headers['cache-control']).toBe('no-cache');
      const [page, parts] = packedBody(answer) as [{ name: string; revision: number }, PackedParts];
      return { name: page.name, revision: page.revision, ids: [...entitiesIn(checkParts(parts))].map(({ id }) => id) };
    };
    await send(0, [start(), drawing('a')]).expect(200);
    const first = await opened();
    expect(first.ids).toEqual(expect.arrayContaining(['inks', 'a']));
    expect(await opened()).toEqual(first);
    await request(service.app).patch(`/api/pages/${pageId}`).send({ name: 'Another name' }).expect(200);
    await send(2, [drawing('b')]).expect(200);
    const next = await opened();
    expect([next.name, next.revision]).toEqual(['Another name', 3]);
    expect(next.ids).toEqual(expect.arrayContaining(['inks', 'a', 'b']));
  });

  it('answers a stale sender with what came between, and saves nothing of his', async () => {
    await send(0, [start(), drawing('a')]).expect(200);
    const stale = drawing('b');
    const answer = await request(service.app)
      .post(`/api/pages/${pageId}/changes`)
      .send({ since: 1, changes: [{ ...stale, edits: [] }] })
      .expect(400);
    expect(answer.body.detail).toMatch(/at least one edit/);
    const packed = await asBytes(send(1, [stale]).set('accept', PACKED_TYPE)).expect(200);
    const [at, between] = packedBody(packed) as [number, unknown[]];
    expect(at).toBe(2);
    expect(between.map(checkChange)).toMatchObject([{ label: 'Stroke' }]);
    expect((await entitiesOf(service.app, pageId)).has('b')).toBe(false);
    const json = await send(1, [stale]).expect(409);
    expect(json.body).toMatchObject({ status: 409, revision: 2, changes: [{ label: 'Stroke' }] });
  });

  it('answers who has seen nothing with the first thousand changes, and with the rest when he asks again', async () => {
    const named = (k: number) => newLayer({ ...layer, name: `Inks ${k}` });
    const steps = Array.from({ length: 1_200 }, (_, k) => change([{ before: named(k), after: named(k + 1) }]));
    await send(0, [change([{ before: null, after: named(0) }]), ...steps]).expect(200);
    const stale = await send(0, [drawing('late')]).expect(409);
    expect(stale.body.revision).toBe(1_201);
    expect(stale.body.changes).toHaveLength(1_000);
    const rest = await request(service.app).get(`/api/pages/${pageId}/changes?since=1000`).expect(200);
    expect(rest.body.changes).toHaveLength(201);
  });

  it('speaks JSON too', async () => {
    const { id, spine, ...rest } = stroke('j');
    const jsonStroke = { id, ...rest, spine: { closed: false, points: Array.from(spine.points) } };
    const body = {
      since: 0,
      changes: [start(), change([{ before: null, after: jsonStroke as never }], { needs: ['inks'] })],
    };
    await request(service.app).post(`/api/pages/${pageId}/changes`).send(body).expect(200, { revision: 2, added: 2 });
    const one = await request(service.app).get(`/api/pages/${pageId}/changes/${body.changes[1].id}`).expect(200);
    expect(one.body.changes[0].edits[0].after.spine.points).toEqual(Array.from(spine.points));
    await request(service.app).get(`/api/pages/${pageId}/changes/none`).expect(404);
  });

  it('holds what it has answered for when the server is started anew', async () => {
    await send(0, [start(), drawing('a')]).expect(200);
    const again = await startService(service.file);
    expect((await entitiesOf(again.app, pageId)).has('a')).toBe(true);
    await again.close();
  });

  it('lets a write beside a transaction wait, or the transaction would fail when it comes to write', async () => {
    const { store } = service;
    let beside: Promise<unknown> | undefined;
    const read = ({ pages, within }: Store) => pages.findByPk(pageId, within);
    await store.atomically(async (inside) => {
      await read(inside);
      beside = renamePage(store, pageId, 'Beside');
      // Time enough for it, were it let in.
      for (let k = 0; k < 40; k++) await read(inside);
      await inside.pages.update({ revision: 7 }, { where: { id: pageId }, ...inside.within });
    });
    await beside;
    expect((await request(service.app).get(`/api/pages/${pageId}`)).body).toMatchObject({
      name: 'Beside',
      revision: 7,
    });
  });

  it('says that the disk is full, and goes on when there is room again', async () => {
    await send(0, [start()]).expect(200);
    const full = Object.assign(new Error('SQLITE_FULL: database or disk is full'), { code: 'SQLITE_FULL', sql: '' });
    jest.spyOn(console, 'error').mockImplementation(() => undefined);
    jest.spyOn(service.database, 'transaction').mockRejectedValueOnce(new DatabaseError(full));
    const { body } = await send(1, [drawing('a')]).expect(507);
    expect(body).toMatchObject({ title: 'The disk of the server is full' });
    await send(1, [drawing('b')]).expect(200, { revision: 2, added: 1 });
    jest.restoreAllMocks();
  });

  it('syncs every commit to disk before it answers, in transactions as outside', async () => {
    const { store } = service;
    const holds = async ({ database, within }: Store) => {
      const told = (pragma: string) =>
        database.query(`PRAGMA ${pragma}`, { type: QueryTypes.SELECT, plain: true, ...within });
      expect(await told('journal_mode')).toEqual({ journal_mode: 'wal' });
      expect(await told('synchronous')).toEqual({ synchronous: 2 });
      expect(await told('foreign_keys')).toEqual({ foreign_keys: 1 });
      expect(await told('busy_timeout')).toEqual({ timeout: 5_000 });
    };
    await holds(store);
    await store.atomically(holds);
  });
});

describe('what is refused', () => {
  beforeEach(() => send(0, [start(), drawing('a')]).expect(200));

  it.each<[string, unknown, number, RegExp]>([
    ['an unknown kind', change([{ before: null, after: { kind: 'spray', id: 'x' } as never }]), 400, /spray/],
    [
      'not a number',
      change([
        { before: null, after: { ...stroke('n'), spine: { points: new Float64Array(12).fill(NaN), closed: false } } },
      ]),
      400,
      /points of a spine/,
    ],
    [
      'a place 10⁹ px away',
      change([
        { before: null, after: { ...stroke('n'), spine: { points: new Float64Array(12).fill(1e9), closed: false } } },
      ]),
      400,
      /1000000/,
    ],
    ['an id that is there already', change([{ before: null, after: stroke('a') }]), 409, /on the page already/],
    ['a stroke on a layer that is gone', drawing('x', 0, { needs: ['gone'] }), 409, /no longer on the page/],
    [
      'a change of what was changed since',
      change([{ before: { ...stroke('a'), order: 'zz' }, after: null }]),
      409,
      /changed since/,
    ],
    ['a change of nothing', change([]), 400, /at least one edit/],
    ['something else', 'hello', 400, /object with named fields/],
    [
      'a picture that was never sent',
      change([
        {
          before: null,
          after: {
            kind: 'picture',
            id: 'p',
            layerId: 'inks',
            order: 'a0',
            blob: '0'.repeat(64),
            width: 5,
            height: 5,
            placement: { x: 0, y: 0, scale: 1, angle: 0 },
            opacity: 1,
            tint: 'none',
          },
        },
      ]),
      400,
      /bytes were not sent/,
    ],
  ])('%s, in a sentence, with nothing half-written', async (_what, bad, status, detail) => {
    const before = await entitiesOf(service.app, pageId);
    const { body } = await send(2, [drawing('fine'), bad]).expect(status);
    expect(body.detail).toMatch(detail);
    expect(await entitiesOf(service.app, pageId)).toEqual(before);
    expect(await revision()).toBe(2);
  });

  it('a revision that does not exist yet, or is none', async () => {
    await send(99, [drawing('b')]).expect(412);
    await send(-1, [drawing('b')]).expect(400);
    const news = `/api/pages/${pageId}/changes`;
    await request(service.app).get(`${news}?since=x`).expect(400);
    await request(service.app).get(`${news}?since=99`).expect(412);
  });

  it('a revision that is another change than the sender knows, since a copy was put back', async () => {
    const { body } = await request(service.app).get(`/api/pages/${pageId}/changes`).expect(200);
    const { length } = body.changes;
    const { id } = body.changes[length - 1];
    const refused = await send(length, [drawing('b')], 'of-before').expect(412);
    expect(refused.body.detail).toMatch(/is not the change "of-before"/);
    const news = `/api/pages/${pageId}/changes?since=${length}&lastId=`;
    await request(service.app).get(`${news}of-before`).expect(412);
    await request(service.app).get(`${news}${id}`).expect(200);
    await send(length, [drawing('b')], '').expect(400);
    const long = drawing('b', 0, { id: 'x'.repeat(200) });
    await send(length, [long], id).expect(200);
    await send(length + 1, [drawing('c')], long.id).expect(200);
  });

  it('bytes that are not MessagePack, and envelopes without changes', async () => {
    const post = (bytes: Buffer) =>
      request(service.app).post(`/api/pages/${pageId}/changes`).set('content-type', PACKED_TYPE).send(bytes);
    await post(Buffer.from([0xc1, 0xff])).expect(400);
    await request(service.app).post(`/api/pages/${pageId}/changes`).send({ since: 2, changes: [] }).expect(400);
    await request(service.app).post(`/api/pages/${pageId}/changes`).send({ since: 2 }).expect(400);
    await request(service.app)
      .post(`/api/pages/none/changes`)
      .send({ since: 0, changes: [start()] })
      .expect(404);
  });
});

describe('two tabs on one page', () => {
  it('both get their strokes saved when the later one puts the other’s beneath its own', async () => {
    await send(0, [start()]).expect(200);
    const [mine, yours] = [drawing('mine', 0, { by: 'one' }), drawing('yours', 50, { by: 'two' })];
    await send(1, [mine]).expect(200);
    const stale = await send(1, [yours]).expect(409);
    await send(stale.body.revision, [yours]).expect(200);
    const there = await entitiesOf(service.app, pageId);
    expect([there.has('mine'), there.has('yours')]).toEqual([true, true]);
  });

  it('at the same moment save one after the other, never a part of one', async () => {
    await send(0, [start()]).expect(200);
    const answers = await Promise.all(
      Array.from({ length: 6 }, (_, k) => send(1, [drawing(`p${k}`), drawing(`q${k}`)])),
    );
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409, 409, 409, 409, 409]);
    expect(await revision()).toBe(3);
  });
});
