import request from 'supertest';
import { applyChange, newPage } from '@true-nib/core/page';
import { MODEL_TYPE, packModel, turnedRound, type BlockEntity } from '@true-nib/core/set';
import { addBlocks, laySet, setFileOf, setFileText, setsOn } from '@true-nib/core/staging';
import { sha256Of } from '../src/keeping/blobs';
import { tidy } from '../src/keeping/tidy';
import { putBlob, startService } from './service';

const triangle = Buffer.from(
  packModel({ positions: Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0), triangles: Uint32Array.of(0, 1, 2) }),
);

/** A set of one block as a file. */
function file(shape: BlockEntity['shape'] = { kind: 'box', size: [1, 2, 3] }): object {
  let count = 0;
  const newId = () => `id-${++count}`;
  const empty = newPage({ width: 800, height: 600, ppi: 300 });
  const page = applyChange(empty, laySet(empty, newId));
  const block: Omit<BlockEntity, 'id'> = {
    ...{ kind: 'block', setId: 'any', order: 'a0', name: 'Box', shape, at: [0, 0, 0], turn: turnedRound(0) },
    ...{ hidden: false, locked: false, lines: 'all' },
  };
  const [set] = setsOn(page);
  return JSON.parse(setFileText(setFileOf(applyChange(page, addBlocks(page, set.id, [block], newId, 'Box')), set.id)));
}

describe('the library of sets', () => {
  it('keeps a set with its picture, hands it out whole, and lets it go', async () => {
    const { app } = await startService();
    const body = { picture: 'M0 0C1 1 2 2 3 3', file: file() };
    const kept = await request(app).put('/api/sets/one').send(body).expect(200);
    expect(kept.body).toMatchObject({ id: 'one', name: 'Set', blocks: 1, picture: body.picture });
    expect((await request(app).get('/api/sets')).body).toMatchObject([{ id: 'one' }]);
    expect((await request(app).get('/api/sets/one')).body).toEqual(body.file);
    await request(app)
      .put('/api/sets/one')
      .send({ ...body, picture: '' })
      .expect(200);
    expect((await request(app).get('/api/sets')).body).toHaveLength(1);
    await request(app).delete('/api/sets/one').expect(204);
    await request(app).get('/api/sets/one').expect(404);
  });

  it.each([
    ['no set', { picture: '', file: { format: 'other' } }],
    ['a script for a picture', { picture: '<script>', file: file() }],
    ['nothing', {}],
  ])('refuses %s', async (_name, body) => {
    const { app } = await startService();
    await request(app).put('/api/sets/one').send(body).expect(400);
    expect((await request(app).get('/api/sets')).body).toEqual([]);
  });

  it('wants the bytes of a model first, and keeps them as long as the set', async () => {
    const { app, store } = await startService();
    const blob = sha256Of(triangle);
    const body = { picture: '', file: file({ kind: 'mesh', blob, triangles: 1, scale: 1, size: [1, 1, 1] }) };
    await request(app)
      .put('/api/sets/model')
      .send(body)
      .expect(409, /not sent before/);
    await putBlob(app, triangle, MODEL_TYPE).expect(201);
    await request(app).put('/api/sets/model').send(body).expect(200);
    const later = Date.now() + 40 * 24 * 60 * 60 * 1000;
    await tidy(store, later);
    await request(app).get(`/api/blobs/${blob}`).expect(200).expect('content-type', MODEL_TYPE);
    await request(app).delete('/api/sets/model').expect(204);
    await tidy(store, later);
    await request(app).get(`/api/blobs/${blob}`).expect(404);
  });

  it('refuses bytes that call themselves a model and are none', async () => {
    const { app } = await startService();
    await putBlob(app, triangle.subarray(0, 20), MODEL_TYPE).expect(422, /cut short/);
    await putBlob(app, Buffer.from('no model at all'), MODEL_TYPE).expect(422, /no model/);
  });
});
