import request from 'supertest';
import sharp from 'sharp';
import { SHIPPED_NIBS } from '@true-nib/core/rack';
import { seedDemo } from '../src/demo/seed';
import { addFolio } from '../src/keeping/folios';
import { startService } from './service';

describe('the demo folio', () => {
  it('holds five pages with roughs, two of them finished, a comic page, a set on three pages, a photographed sheet and its tracing, and three samplers, and is laid down once', async () => {
    const service = await startService();
    await seedDemo(service.store);
    await seedDemo(service.store);
    const { folios } = (await request(service.app).get('/api/folios')).body;
    expect(folios).toMatchObject([{ name: 'Saltmarsh Ferry', pageCount: 14, cover: { pageId: 'demo-quay' } }]);
    const { pages } = (await request(service.app).get(`/api/folios/${folios[0].id}`)).body;
    expect(pages.map(({ name }: { name: string }) => name)).toEqual([
      'Quay at low tide',
      'Before the tide turns',
      'Down the lamp stair',
      'The heron mask',
      'Heron mask, finished',
      'The crossing',
      'The ferry landing',
      'Up the landing stair',
      'Along the quay',
      'Sketchbook, photographed',
      'Sketchbook, traced',
      'Nib sampler',
      'Guide sampler',
      'Street sampler',
    ]);
    const sampler = (await request(service.app).get('/api/pages/demo-nibs')).body;
    const nibs = new Set(sampler.entities.map(({ nib }: { nib?: { name: string } }) => nib?.name));
    // The clearing nib lays nothing down: it cuts a bar that is there.
    for (const { nib, lays } of SHIPPED_NIBS) if (lays !== 'clearing') expect(nibs).toContain(nib.name);
    const guides = (await request(service.app).get('/api/pages/demo-guides')).body.entities;
    const kindsOf = (kind: string) => guides.filter((one: { kind: string }) => one.kind === kind);
    expect(new Set(kindsOf('guide').map(({ shape }: { shape: { kind: string } }) => shape.kind)).size).toBe(7);
    expect(kindsOf('stroke').length).toBeGreaterThan(120);
    const inDepth = (await request(service.app).get('/api/pages/demo-depth')).body.entities;
    const kindsInDepth = inDepth.map(({ shape }: { shape?: { kind: string } }) => shape?.kind);
    expect(kindsInDepth.filter((kind?: string) => kind === 'frame' || kind === 'plane')).toHaveLength(4);
    const night = (await request(service.app).get('/api/pages/demo-stair')).body.entities;
    const fills = night.flatMap(({ fill }: { fill?: { as: string } }) => fill?.as ?? []);
    expect(fills.filter((as: string) => as === 'nothing').length).toBeGreaterThan(100);
    const comic = (await request(service.app).get('/api/pages/demo-tide')).body.entities;
    const ofComic = (kind: string) => comic.filter((one: { kind: string }) => one.kind === kind);
    expect([ofComic('panel').length, ofComic('balloon').length, ofComic('lettering').length]).toEqual([5, 6, 7]);
    expect(ofComic('stroke').every(({ panelId }: { panelId?: string }) => panelId !== undefined)).toBe(true);
    for (const { style } of ofComic('lettering'))
      await request(service.app)
        .get(`/api/blobs/${style.fonts.plain.sha256}`)
        .expect(200)
        .expect('content-type', 'font/sfnt');
    const quay = (await request(service.app).get('/api/pages/demo-quay')).body;
    const kinds = quay.entities.map(({ kind }: { kind: string }) => kind);
    expect(kinds.filter((kind: string) => kind === 'stroke').length).toBeGreaterThan(100);
    const rough = quay.entities.find(({ kind }: { kind: string }) => kind === 'picture');
    expect(rough).toMatchObject({ opacity: 0.5, tint: 'blue' });
    const scan = await request(service.app).get(`/api/blobs/${rough.blob}`).expect('content-type', 'image/png');
    // A sketch, not a blank sheet: a few in a hundred px are graphite.
    const { channels } = await sharp(scan.body).stats();
    expect(channels[0].mean).toBeLessThan(252);
    expect(channels[0].min).toBeLessThan(120);
    for (const { id } of pages)
      await request(service.app).get(`/api/pages/${id}/thumbnail`).expect(200).expect('content-type', 'image/webp');
    await service.close();
  }, 120_000);

  it('leaves a shelf alone that was ever used', async () => {
    const service = await startService();
    await addFolio(service.store, 'Mine');
    await seedDemo(service.store);
    expect((await request(service.app).get('/api/folios')).body.folios).toMatchObject([{ name: 'Mine' }]);
    await service.close();
  });
});
