import { decode, encode } from 'fast-png';
import { zipSync, unzipSync } from 'fflate';
import { oraToPage, pageToOra, pageWalk, type Pixels } from '../../src/formats';
import { fullSheet } from './fullSheet';

const png = (width: number, height: number, shade = 0): Uint8Array =>
  encode({
    width,
    height,
    channels: 4,
    depth: 8,
    data: new Uint8Array(4 * width * height).fill(255).fill(shade, 0, 3),
  });
const decoded = (bytes: Uint8Array): Promise<Pixels> => {
  const { width, height, data } = decode(bytes);
  return Promise.resolve({ width, height, rgba: Uint8Array.from(data) });
};

async function written(): Promise<Uint8Array> {
  const parts: Uint8Array[] = [];
  const files = pageToOra(pageWalk(fullSheet()), {
    layer: (id) => Promise.resolve(id === 'inner' ? undefined : png(700, 500, id.length)),
    merged: () => Promise.resolve(png(700, 500)),
    thumbnail: () => Promise.resolve(png(256, 183)),
  });
  for await (const part of files) parts.push(part);
  return Buffer.concat(parts);
}

const utf8 = (text: string) => new TextEncoder().encode(text);
const MIME = utf8('image/openraster');
const file = (xml: string, more: Record<string, Uint8Array> = {}) =>
  zipSync({ mimetype: [MIME, { level: 0 }], 'stack.xml': utf8(xml), 'data/a.png': png(40, 30, 9), ...more });
const layers = (inside: string) =>
  `<?xml version="1.0"?><image w="400" h="300" xres="300"><stack>${inside}</stack></image>`;

describe('OpenRaster', () => {
  it('has its type first and stored, the stack, the page and a small picture (OpenRaster 0.0.6)', async () => {
    const bytes = await written();
    expect(Buffer.from(bytes.subarray(30, 54)).toString('latin1')).toBe('mimetypeimage/openraster');
    // Stored, with its size before it.
    const view = new DataView(bytes.buffer, bytes.byteOffset);
    expect([view.getUint16(8, true), view.getUint32(18, true), view.getUint16(6, true) & 8]).toEqual([0, 16, 0]);
    const files = unzipSync(bytes);
    expect(Object.keys(files)).toEqual(
      expect.arrayContaining([
        'mimetype',
        'stack.xml',
        'mergedimage.png',
        'Thumbnails/thumbnail.png',
        'data/layer001.png',
      ]),
    );
    const small = decode(files['Thumbnails/thumbnail.png']);
    expect(Math.max(small.width, small.height)).toBeLessThanOrEqual(256);
  });

  it('is read back: its layers in their order, their fades and groups', async () => {
    const { size, layers: read, said } = await oraToPage(await written(), decoded);
    expect(size).toEqual({ width: 700, height: 500, ppi: 350 });
    expect(said).toEqual([]);
    expect(read.map(({ name, opacity, children }) => [name, opacity, children?.length])).toEqual([
      ['Layer flats', 1, undefined],
      ['Layer inks', 1, undefined],
      ['Layer faded', 0.5, undefined],
      ['Layer group', 0.6, 0],
    ]);
    expect(read[0].pixels).toMatchObject({ width: 700, height: 500 });
  });

  it('of another hand is read as far as it goes, and what there is none of here is said', async () => {
    const { layers: read, said } = await oraToPage(
      file(
        layers(
          '<layer name="Glow" src="data/a.png" x="-5" y="7" composite-op="svg:screen" opacity="0.25" visibility="hidden"/><layer name="Shade &amp; more" src="data/a.png" composite-op="svg:multiply"/><layer name="Gone" src="data/b.png"/><text/>',
        ),
      ),
      decoded,
    );
    expect(read.map(({ name, multiplies }) => [name, multiplies])).toEqual([
      ['Shade & more', true],
      ['Glow', false],
    ]);
    expect(read[1]).toMatchObject({ x: -5, y: 7, opacity: 0.25, hidden: true });
    expect(said).toEqual([expect.stringContaining('“Gone”'), expect.stringContaining('screen')]);
  });

  it.each([
    ['something else', utf8('hello'), 'cut short or damaged'],
    ['another ZIP', zipSync({ 'a.txt': utf8('a') }), 'not an OpenRaster'],
    ['no layers', file('<image w="400" h="300"/>'), 'no layers'],
    ['damaged XML', file('<image w="400"><stack>'), 'damaged'],
    ['entities of its own', file(`<!DOCTYPE image [<!ENTITY a "b">]>${layers('')}`), 'not plain XML'],
    ['no size', file('<image w="0" h="300"><stack/></image>'), 'at least 16'],
    ['a page of 5 m', file('<image w="59055" h="59055" xres="300"><stack/></image>'), 'too large'],
    ['layers in layers in layers', file(layers(`${'<stack>'.repeat(20)}${'</stack>'.repeat(20)}`)), 'too deeply'],
    ['too many layers', file(layers('<layer src="data/a.png"/>'.repeat(501))), 'more than 500'],
  ])('is refused with a reason: %s', async (_what, bytes, reason) => {
    await expect(oraToPage(bytes, decoded)).rejects.toThrow(reason);
  });

  it('that is cut short is refused', async () => {
    const bytes = await written();
    await expect(oraToPage(bytes.subarray(0, bytes.length - 40), decoded)).rejects.toThrow('cut short or damaged');
  });
});
