import request from 'supertest';
import { NAME_LENGTH } from '../src/keeping/models';
import { putEntities } from '../src/keeping/rows';
import type { Store } from '../src/keeping/store';
import { folioWithPage, startService, stroke, type Service } from './service';

let service: Service;
beforeEach(async () => {
  service = await startService();
});
afterEach(() => service.close());

describe('the models', () => {
  const folio = { id: 'f', name: 'Ferry', createdAt: 1 };

  it('let nothing be written outside a transaction', async () => {
    const { pageId } = await folioWithPage(service.app);
    const { folios, pages, rack } = service.store;
    const row = await pages.findByPk(pageId);
    const writes: (() => Promise<unknown> | undefined)[] = [
      () => folios.create(folio),
      () => folios.bulkCreate([folio]),
      () => rack.upsert({ id: 1, revision: 1, nibs: '[]' }),
      () => row?.update({ name: 'Pier' }),
      () => pages.update({ name: 'Pier' }, { where: { id: pageId } }),
      () => pages.destroy({ where: { id: pageId } }),
      () => row?.destroy(),
      () => putEntities(service.store, pageId, [stroke('a')]),
    ];
    for (const write of writes)
      await expect(Promise.resolve().then(write)).rejects.toThrow('A write needs a transaction');
    expect(await folios.count()).toBe(1);
    expect((await pages.findByPk(pageId))?.name).toBe('Quay');
  });

  it.each<[string, (inside: Store) => Promise<unknown>]>([
    ['a folio without a name', ({ folios, within }) => folios.create({ ...folio, name: '' }, within)],
    [
      'a folio whose name is too long',
      ({ folios, within }) => folios.create({ ...folio, name: 'x'.repeat(NAME_LENGTH + 1) }, within),
    ],
    [
      'a page without a folio',
      ({ pages, within }) =>
        pages.create(
          {
            id: 'p',
            folioId: '',
            name: 'Quay',
            position: 'a0',
            width: 1,
            height: 1,
            ppi: 72,
            createdAt: 1,
            changedAt: 1,
          },
          within,
        ),
    ],
    [
      'a fingerprint that is none',
      ({ blobs, within }) =>
        blobs.create(
          { sha256: 'abc', type: 'image/png', width: 1, height: 1, keptAt: 1, bytes: Buffer.alloc(1) },
          within,
        ),
    ],
    [
      'an unknown type',
      ({ blobs, within }) =>
        blobs.create(
          { sha256: 'a'.repeat(64), type: 'text/html', width: 1, height: 1, keptAt: 1, bytes: Buffer.alloc(1) },
          within,
        ),
    ],
    ['a second rack', ({ rack, within }) => rack.create({ id: 2, revision: 1, nibs: '[]' }, within)],
    ['a rack that is no JSON', ({ rack, within }) => rack.create({ id: 1, revision: 1, nibs: '{' }, within)],
    [
      'a picture of a page that is not there',
      ({ thumbnails, within }) =>
        thumbnails.create({ pageId: 'none', revision: 1, type: 'image/png', bytes: Buffer.alloc(1) }, within),
    ],
  ])('refuse %s', async (_name, write) => {
    await expect(service.store.atomically((inside) => write(inside))).rejects.toThrow(
      /[Vv]alidation|cannot be null|FOREIGN KEY/,
    );
  });

  it('leave out what is deleted, unless asked for all', async () => {
    const { pageId } = await folioWithPage(service.app);
    await request(service.app).delete(`/api/pages/${pageId}`).expect(204);
    expect(await service.store.pages.findByPk(pageId)).toBeNull();
    expect(await service.store.pages.unscoped().findByPk(pageId)).not.toBeNull();
  });
});

it('names a copy as long as a name may be, whatever the original is called', async () => {
  const { pageId } = await folioWithPage(service.app);
  const name = '🌊'.repeat(NAME_LENGTH);
  await request(service.app).patch(`/api/pages/${pageId}`).send({ name }).expect(200);
  const { body } = await request(service.app).post(`/api/pages/${pageId}/duplicate`).expect(201);
  expect(body.name).toMatch(/ copy$/);
  expect([...body.name]).toHaveLength(NAME_LENGTH);
  expect(body.name.isWellFormed()).toBe(true);
});
