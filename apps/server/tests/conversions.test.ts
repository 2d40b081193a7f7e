import type { Express } from 'express';
import sharp from 'sharp';
import request from 'supertest';
import { decode, decodeImage } from 'utif2';
import { BitSheet, PngWriter } from '@true-nib/core/formats';
import { picture, startService, type Service } from './service';

let service: Service;
beforeAll(async () => {
  service = await startService();
});
afterAll(() => service.close());

const converted = (app: Express, kind: string, png: Buffer, query = 'ppi=350') =>
  request(app).post(`/api/conversions/${kind}?${query}`).set('content-type', 'image/png').send(png).buffer(true);

/** A sheet with ink in a pattern that no two rows share, as a PNG of one bit. */
function bits(): { readonly sheet: BitSheet; readonly png: Buffer } {
  const sheet = new BitSheet(203, 61);
  for (let y = 0; y < sheet.height; y++)
    for (let x = 0; x < sheet.width; x++) sheet.set(x, y, (x * x + 3 * y * x + y) % 7 < 3);
  const writer = new PngWriter({ width: sheet.width, height: sheet.height, ppi: 600, isOneBit: true });
  return { sheet, png: Buffer.concat([...writer.addBits(sheet.bits), ...writer.finish()]) };
}

describe('pictures in other formats', () => {
  it('TIFF is of one bit, Group 4, with its px an inch; every px as it was, by two readers (libtiff by sharp, utif2 4.1)', async () => {
    const { sheet, png } = bits();
    const { body } = await converted(service.app, 'tiff', png, 'ppi=600')
      .expect(200)
      .expect('content-type', 'image/tiff');
    const tiff = body as Buffer;
    const expected = Array.from({ length: 203 * 61 }, (_, k) => (sheet.at(k % 203, Math.floor(k / 203)) ? 0 : 255));
    expect(await sharp(tiff).metadata()).toMatchObject({ bitsPerSample: 1, density: 600, width: 203, height: 61 });
    const { data } = await sharp(tiff).greyscale().raw().toBuffer({ resolveWithObject: true });
    expect([...data]).toEqual(expected);
    const [page] = decode(tiff);
    // Tag 259, compression: 4 is T.6 (TIFF 6.0, section 11).
    expect(page.t259).toEqual([4]);
    decodeImage(tiff, page);
    const stride = Math.ceil(203 / 8);
    // Tag 262: whether 0 is white or black.
    const isZeroWhite = (page.t262 as number[])[0] === 0;
    const read = expected.map((_, k) => {
      const bit = (page.data[Math.floor(k / 203) * stride + ((k % 203) >> 3)] >> (7 - ((k % 203) & 7))) & 1;
      return (bit === 1) === isZeroWhite ? 0 : 255;
    });
    expect(read).toEqual(expected);
  });

  it('JPEG has its px an inch where JFIF has them (ISO/IEC 10918-5), and is as large as it was', async () => {
    const { body } = await converted(service.app, 'jpeg', await picture(40, 30).png().toBuffer()).expect(200);
    const jpeg = body as Buffer;
    expect(jpeg.subarray(0, 11).toString('latin1')).toBe('\xff\xd8\xff\xe0\x00\x10JFIF\x00');
    expect([jpeg[13], jpeg.readUInt16BE(14), jpeg.readUInt16BE(16)]).toEqual([1, 350, 350]);
    expect(await sharp(jpeg).metadata()).toMatchObject({ format: 'jpeg', width: 40, height: 30, density: 350 });
  });

  it('WebP keeps what is transparent, and its px an inch', async () => {
    const clear = await sharp({ create: { width: 8, height: 6, channels: 4, background: '#00000000' } })
      .png()
      .toBuffer();
    const { body } = await converted(service.app, 'webp', clear).expect(200);
    const { format, hasAlpha, exif } = await sharp(body as Buffer).metadata();
    expect([format, hasAlpha]).toEqual(['webp', true]);
    // A WebP says it in Exif alone: tag 282, XResolution, after the six bytes that say what follows (Exif 2.32, 4.6.4).
    const tiff = exif?.subarray(6) ?? Buffer.alloc(0);
    const first = tiff.readUInt32LE(4);
    const count = tiff.readUInt16LE(first);
    const entry = Array.from({ length: count }, (_, k) => first + 2 + 12 * k).find(
      (at) => tiff.readUInt16LE(at) === 282,
    );
    const at = tiff.readUInt32LE((entry ?? 0) + 8);
    expect(tiff.readUInt32LE(at) / tiff.readUInt32LE(at + 4)).toBeCloseTo(350, 1);
  });

  it.each([
    ['no picture', Buffer.from('hello'), 'tiff', 422],
    ['nothing', Buffer.alloc(0), 'jpeg', 422],
    [
      'a picture that is no PNG',
      Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"/>'),
      'jpeg',
      422,
    ],
    ['a kind that there is none of', Buffer.from('x'), 'gif', 400],
  ])('is refused with a reason: %s', async (_what, bytes, kind, status) => {
    await converted(service.app, kind, bytes).expect(status);
  });

  it('that is cut short is refused', async () => {
    const { png } = bits();
    const { body } = await converted(service.app, 'jpeg', png.subarray(0, png.length - 60)).expect(422);
    expect(body.detail).toMatch(/not a whole PNG/);
  });

  it('needs to be told its px an inch, and takes a quality from 1 to 100', async () => {
    const { png } = bits();
    await converted(service.app, 'jpeg', png, '').expect(400);
    await converted(service.app, 'jpeg', png, 'ppi=300&quality=0').expect(400);
  });

  it('of more than a WebP can have is refused with what to do', async () => {
    const wide = await sharp({ create: { width: 16_400, height: 4, channels: 3, background: '#ffffff' } })
      .png()
      .toBuffer();
    const { body } = await converted(service.app, 'webp', wide).expect(422);
    expect(body.detail).toContain('16,383');
  });
});
