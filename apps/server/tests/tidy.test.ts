import { deflateSync } from 'node:zlib';
import { newLayer, WASH_BYTES, WASH_TYPE, washTile } from '@true-nib/core/page';
import request from 'supertest';
import { sha256Of } from '../src/keeping/blobs';
import { KEPT_DAYS, tidy } from '../src/keeping/tidy';
import { change, folioWithPage, picture, putBlob, sendChanges, startService, type Service } from './service';

let service: Service;
beforeEach(async () => {
  service = await startService();
});
afterEach(() => service.close());
const api = () => request(service.app);

const DAY = 24 * 60 * 60 * 1000;
const after = (days: number) => Date.now() + days * DAY;

/** Lays a tile of a wash on a page and takes it off again: its journal alone still names it. */
async function washed(pageId: string, value: number): Promise<string> {
  const bytes = deflateSync(Buffer.alloc(WASH_BYTES, value));
  const blob = sha256Of(bytes);
  await putBlob(service.app, bytes, WASH_TYPE).expect(201);
  const tile = washTile('wash', 0, 0, blob);
  const changes = [
    change([{ before: null, after: newLayer({ id: 'wash', medium: 'wash', name: 'Wash', order: 'a1' }) }]),
    change([{ before: null, after: tile }]),
    change([{ before: tile, after: null }]),
  ];
  await sendChanges(service.app, pageId, 0, changes).expect(200);
  return blob;
}

it('keeps what was deleted for 30 days, then takes it away for good, with the pixels that only it needed', async () => {
  const { folioId, pageId } = await folioWithPage(service.app);
  const other = await folioWithPage(service.app);
  const [own, others] = [await washed(pageId, 1), await washed(other.pageId, 2)];
  await api().delete(`/api/pages/${pageId}`).expect(204);
  expect(await tidy(service.store, after(KEPT_DAYS - 1))).toMatchObject({ pages: 0, pictures: 0 });
  await api().post(`/api/pages/${pageId}/restore`).expect(200);
  expect(await tidy(service.store, after(KEPT_DAYS + 1))).toMatchObject({ pages: 0, pictures: 0 });
  await api().delete(`/api/pages/${pageId}`).expect(204);
  expect(await tidy(service.store, after(KEPT_DAYS + 1))).toMatchObject({ pages: 1, folios: 0, pictures: 1 });
  await api().post(`/api/pages/${pageId}/restore`).expect(404);
  await api().get(`/api/blobs/${own}`).expect(404);
  // Off its page, but its journal could bring it back.
  await api().get(`/api/blobs/${others}`).expect(200);
  await api().get(`/api/folios/${folioId}`).expect(200);
});

it('takes a folio away with its pages, and leaves a copy of one whole', async () => {
  const { folioId, pageId } = await folioWithPage(service.app);
  const blob = await washed(pageId, 3);
  const copy = (await api().post(`/api/pages/${pageId}/duplicate`).expect(201)).body;
  await api().delete(`/api/folios/${folioId}`).expect(204);
  const kept = (await api().post('/api/folios').send({ name: 'Kept' })).body.id;
  await service.store.atomically(({ pages, within }) =>
    pages.unscoped().update({ folioId: kept }, { where: { id: copy.id }, ...within }),
  );
  expect(await tidy(service.store, after(KEPT_DAYS + 1))).toMatchObject({ pages: 1, folios: 1, pictures: 0 });
  await api().get(`/api/blobs/${blob}`).expect(200);
  expect((await api().get(`/api/pages/${copy.id}/changes?only=headers`)).body.changes).toHaveLength(3);
});

it('takes pictures away that nothing ever needed, but for those that came lately, or came again', async () => {
  const [lost, again] = await Promise.all([picture(11, 12).png().toBuffer(), picture(12, 11).png().toBuffer()]);
  for (const bytes of [lost, again]) await putBlob(service.app, bytes, 'image/png').expect(201);
  expect(await tidy(service.store, after(KEPT_DAYS - 1))).toMatchObject({ pictures: 0 });
  await service.store.atomically(({ blobs, within }) => blobs.update({ keptAt: 0 }, { where: {}, ...within }));
  await putBlob(service.app, again, 'image/png').expect(201);
  expect(await tidy(service.store)).toEqual({ folios: 0, pages: 0, pictures: 1, bytes: lost.length });
  await api()
    .get(`/api/blobs/${sha256Of(lost)}`)
    .expect(404);
  await api()
    .get(`/api/blobs/${sha256Of(again)}`)
    .expect(200);
});
