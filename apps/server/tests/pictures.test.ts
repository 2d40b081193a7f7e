import { deflateSync } from 'node:zlib';
import { newLayer, WASH_BYTES, WASH_TYPE, washTile, type PictureEntity } from '@true-nib/core/page';
import request from 'supertest';
import { createApp } from '../src/app';
import { keepBlob, sha256Of } from '../src/keeping/blobs';
import { Examiner } from '../src/keeping/examiner';
import { blobBytes } from '../src/keeping/rows';
import {
  change,
  entitiesOf,
  folioWithPage,
  picture,
  putBlob,
  sendChanges,
  startService,
  type Service,
} from './service';

let service: Service;
beforeAll(async () => {
  service = await startService();
});
afterAll(() => service.close());

const svg = (inner: string) =>
  Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" width="40" height="30">${inner}</svg>`);

describe('pictures', () => {
  it.each(['png', 'jpeg', 'webp'] as const)('as %s are kept and given back byte for byte', async (kind) => {
    const bytes = await picture()[kind]().toBuffer();
    const { body } = await putBlob(service.app, bytes, `image/${kind}`).expect(201);
    expect(body).toEqual({ sha256: sha256Of(bytes), type: `image/${kind}`, width: 40, height: 30 });
    const back = await request(service.app)
      .get(`/api/blobs/${body.sha256}`)
      .expect(200)
      .expect('cache-control', /immutable/);
    expect(Buffer.compare(back.body, bytes)).toBe(0);
    await putBlob(service.app, bytes, `image/${kind}`).expect(201);
  });

  it('as SVG are kept, and served so that nothing in them can run', async () => {
    const bytes = svg('<path d="M0 0L40 30" stroke="black"/>');
    const { body } = await putBlob(service.app, bytes, 'image/svg+xml').expect(201);
    expect(body).toMatchObject({ type: 'image/svg+xml', width: 40, height: 30 });
    await request(service.app)
      .get(`/api/blobs/${body.sha256}`)
      .expect('content-security-policy', /default-src 'none'.*sandbox/);
  });

  it('count as they are seen when EXIF turns them', async () => {
    const bytes = await picture(40, 30).withMetadata({ orientation: 6 }).jpeg().toBuffer();
    expect((await putBlob(service.app, bytes, 'image/jpeg')).body).toMatchObject({ width: 30, height: 40 });
  });
});

describe('the pixels of wash tiles', () => {
  const tile = (bytes = WASH_BYTES) => deflateSync(Buffer.alloc(bytes, 7));

  it('are kept as they are, byte for byte', async () => {
    const bytes = tile();
    const { body } = await putBlob(service.app, bytes, WASH_TYPE).expect(201);
    expect(body).toEqual({ sha256: sha256Of(bytes), type: WASH_TYPE, width: 256, height: 256 });
    const back = await request(service.app)
      .get(`/api/blobs/${body.sha256}`)
      .buffer(true)
      .parse((response, done) => {
        const parts: Buffer[] = [];
        response.on('data', (part: Buffer) => parts.push(part));
        response.on('end', () => done(null, Buffer.concat(parts)));
      })
      .expect('content-type', WASH_TYPE);
    expect(Buffer.compare(back.body as Buffer, bytes)).toBe(0);
  });

  it('are refused when they are too few, too many, cut short or none', async () => {
    // A stream that would unpack to 300 MB is given up where a tile ends.
    const bomb = deflateSync(Buffer.alloc(300_000_000));
    for (const bytes of [tile(WASH_BYTES - 4), tile(WASH_BYTES + 4), tile().subarray(0, 40), Buffer.from('none'), bomb])
      await putBlob(service.app, bytes, WASH_TYPE).expect(422, /zlib stream of 256 × 256 px/);
  });

  it('must be there before the change that lays them on a page', async () => {
    const { pageId } = await folioWithPage(service.app);
    const bytes = deflateSync(Buffer.alloc(WASH_BYTES, 9));
    const wash = newLayer({ id: 'wash', medium: 'wash', name: 'Wash', order: 'a1' });
    const laying = change([
      { before: null, after: wash },
      { before: null, after: washTile('wash', 2, 1, sha256Of(bytes)) },
    ]);
    await sendChanges(service.app, pageId, 0, [laying]).expect(400, /itself is missing/);
    expect((await entitiesOf(service.app, pageId)).size).toBe(0);
    await putBlob(service.app, bytes, WASH_TYPE).expect(201);
    await sendChanges(service.app, pageId, 0, [laying]).expect(200);
    expect((await entitiesOf(service.app, pageId)).get('wash~2~1')).toMatchObject({ kind: 'wash', column: 2, row: 1 });
  });
});

describe('what a page takes bytes for', () => {
  it('pixels of a wash are no picture, and a picture is no pixels', async () => {
    const { pageId } = await folioWithPage(service.app);
    const png = await picture(256, 256).png().toBuffer();
    const tile = deflateSync(Buffer.alloc(WASH_BYTES, 3));
    await putBlob(service.app, png, 'image/png').expect(201);
    await putBlob(service.app, tile, WASH_TYPE).expect(201);
    const layers = change([
      { before: null, after: newLayer({ id: 'wash', medium: 'wash', name: 'Wash', order: 'a1' }) },
      { before: null, after: newLayer({ id: 'rough', medium: 'rough', name: 'Rough', order: 'a0' }) },
    ]);
    await sendChanges(service.app, pageId, 0, [layers]).expect(200);
    const asTile = change([{ before: null, after: washTile('wash', 0, 0, sha256Of(png)) }]);
    await sendChanges(service.app, pageId, 1, [asTile]).expect(400, /are no pixels/);
    const rough: PictureEntity = {
      kind: 'picture',
      ...{ id: 'p', layerId: 'rough', order: 'a0', width: 256, height: 256, opacity: 1 },
      tint: 'none',
      ...{ blob: sha256Of(tile), placement: { x: 0, y: 0, scale: 1, angle: 0 } },
    };
    await sendChanges(service.app, pageId, 1, [change([{ before: null, after: rough }])]).expect(400, /are no picture/);
    await sendChanges(service.app, pageId, 1, [
      change([{ before: null, after: { ...rough, blob: sha256Of(png) } }]),
    ]).expect(200);
  });
});

describe('room for pictures', () => {
  it('is half of what they take up and what is free, said in words', async () => {
    const { store } = service;
    const bytes = await picture(64, 64).png().toBuffer();
    const kept = await blobBytes(store);
    const app = (free: number) => createApp({ store, version: 'test', free: () => Promise.resolve(free) });
    const least = kept + 2 * bytes.length;
    const { body } = await putBlob(app(least - 1), bytes, 'image/png').expect(507);
    expect(body.detail).toMatch(/half of both.*npm run tidy/);
    await putBlob(app(least), bytes, 'image/png').expect(201);
    // What is there already needs none.
    await putBlob(app(0), bytes, 'image/png').expect(201);
  });
});

describe('hostile pictures', () => {
  it('an SVG is never drawn here, however long that would take', async () => {
    const blurs = '<filter id="f"><feGaussianBlur stdDeviation="500"/><feGaussianBlur stdDeviation="500"/></filter>';
    const bytes = Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="8900" height="8900">${blurs}<rect width="8900" height="8900" filter="url(#f)"/></svg>`,
    );
    const examine = jest.fn();
    const kept = await keepBlob(
      service.store,
      { sha256: sha256Of(bytes), bytes, type: 'image/svg+xml' },
      { examiner: { examine } },
    );
    expect(kept).toMatchObject({ type: 'image/svg+xml', width: 8900, height: 8900 });
    expect(examine).not.toHaveBeenCalled();
    const large = Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><!--${'x'.repeat(8_400_000)}--></svg>`,
    );
    await putBlob(service.app, large, 'image/svg+xml').expect(413, /8 MB of SVG/);
    await putBlob(service.app, large, 'image/png').expect(415, /calls itself/);
  });

  it('one that takes too long is given up, the next is looked at by a fresh process', async () => {
    const slow = new Examiner({ side: 30_000, area: 80e6, patience: 1 });
    const bytes = await picture(2_000, 2_000).png().toBuffer();
    expect(await slow.examine(bytes)).toBeUndefined();
    const patient = new Examiner({ side: 30_000, area: 80e6 });
    const both = await Promise.all([patient.examine(bytes), patient.examine(Buffer.from('none'))]);
    expect(both).toEqual([
      { format: 'png', width: 2_000, height: 2_000, orientation: 1, isTooLarge: false, isWhole: true },
      { format: undefined, width: 0, height: 0, orientation: 1, isTooLarge: false, isWhole: false },
    ]);
    const refused = { examine: () => Promise.resolve(undefined) };
    await expect(
      keepBlob(service.store, { sha256: sha256Of(bytes), bytes, type: 'image/png' }, { examiner: refused }),
    ).rejects.toThrow(/takes too long to read/);
  });
});

describe('what is refused', () => {
  async function refuse(bytes: Buffer, type: string, status: number, detail: RegExp): Promise<void> {
    const { body } = await putBlob(service.app, bytes, type)
      .expect(status)
      .expect('content-type', /problem\+json/);
    expect(body.detail).toMatch(detail);
    await request(service.app)
      .get(`/api/blobs/${sha256Of(bytes)}`)
      .expect(404);
  }

  it('a picture that is cut short', async () => {
    const bytes = await picture(400, 300).png({ compressionLevel: 0 }).toBuffer();
    await refuse(bytes.subarray(0, bytes.length / 2), 'image/png', 422, /end is missing/);
    const jpeg = await sharpNoise();
    await refuse(jpeg.subarray(0, jpeg.length / 2), 'image/jpeg', 422, /end is missing/);
  });

  it('a picture 40,000 px wide', async () => {
    await refuse(await picture(40_000, 20).png().toBuffer(), 'image/png', 413, /40000 × 20 px/);
  });

  it('a picture of more than 80 million px, told by its header alone', async () => {
    await refuse(await picture(9_500, 9_500).png().toBuffer(), 'image/png', 413, /80 million/);
  });

  it('a picture that is not what it calls itself', async () => {
    await refuse(
      await picture(41, 31).webp().toBuffer(),
      'image/png',
      415,
      /calls itself image\/png but holds image\/webp/,
    );
  });

  it('files that are no pictures', async () => {
    await refuse(Buffer.from('%PDF-1.7 hello'), 'image/png', 415, /none of these/);
    await refuse(await picture().gif().toBuffer(), 'image/gif', 415, /PNG, a JPEG, a WebP or an SVG/);
  });

  it('an SVG with a script or a link to elsewhere', async () => {
    await refuse(svg('<script>fetch("/")</script>'), 'image/svg+xml', 422, /<script>/);
    await refuse(svg('<image href="https://example.org/x.png"/>'), 'image/svg+xml', 422, /outside itself/);
  });

  it('bytes that do not match their fingerprint, no bytes, and no fingerprint', async () => {
    const bytes = await picture().png().toBuffer();
    await putBlob(service.app, bytes, 'image/png', '0'.repeat(64)).expect(400);
    await putBlob(service.app, Buffer.alloc(0), 'image/png').expect(400);
    await putBlob(service.app, bytes, 'image/png', 'abc').expect(400);
  });

  it('200 MB, before they are read', async () => {
    const { body } = await putBlob(service.app, Buffer.alloc(200_000_000), 'image/png').expect(413);
    expect(body.detail).toMatch(/64 MB/);
  });
});

/** A JPEG with enough in it to be cut. */
async function sharpNoise(): Promise<Buffer> {
  const { default: sharp } = await import('sharp');
  return sharp({
    create: {
      width: 300,
      height: 300,
      channels: 3,
      background: '#888',
      noise: { type: 'gaussian', mean: 128, sigma: 60 },
    },
  })
    .jpeg()
    .toBuffer();
}
