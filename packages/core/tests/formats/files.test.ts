import { XMLParser } from 'fast-xml-parser';
import { decode } from 'fast-png';
import paper from 'paper/dist/paper-core';
import sharp from 'sharp';
import SvgPath from 'svgpath';
import { checkSvgPicture, chunk, crc32, pageToSvg, PngWriter } from '../../src/formats';
import { drawStroke, outlineOf } from '../../src/ink';
import { applyChange, newPage, washTile } from '../../src/page';
import type { StrokeEntity } from '../../src/stroke';
import { areaOf, brush, drawn, even, liner, tapered, wave, zigzag } from '../hands';
import { adding, change, layer, picture } from '../page/entities';

const inked = (id: string, stroke: ReturnType<typeof drawStroke>, layerId = 'inks'): StrokeEntity => ({
  ...stroke,
  kind: 'stroke',
  id,
  layerId,
  order: id,
});
const strokes = [
  inked('a0', drawStroke(drawn(wave, { tremor: 0.5 }), brush, even(30))),
  inked('a1', drawStroke(drawn(zigzag), liner, even(10))),
  inked('a2', drawStroke(drawn(wave), tapered, even(30)), 'more'),
];
const page = applyChange(
  newPage({ width: 700, height: 500, ppi: 350 }),
  change(
    adding(
      layer('rough', 'Zz', 'rough'),
      layer('inks', 'a0'),
      layer('more', 'a1'),
      { ...layer('hid', 'a2'), hidden: true },
      picture('p'),
      ...strokes,
      inked('a9', strokes[0], 'hid'),
    ),
  ),
);

describe('PNG', () => {
  const bytesOf = (parts: readonly Uint8Array[]) => Uint8Array.from(parts.flatMap((part) => [...part]));
  function png(width: number, height: number, ppi: number, band: number): Uint8Array {
    const writer = new PngWriter({ width, height, ppi });
    const parts: Uint8Array[] = [];
    for (let top = 0; top < height; top += band) {
      const rows = Math.min(band, height - top);
      parts.push(
        ...writer.add(
          Uint8Array.from({ length: rows * width * 4 }, (_, i) => (i % 4 === 3 ? 255 : (top * width * 4 + i) * 7)),
        ),
      );
    }
    parts.push(...writer.finish());
    return bytesOf(parts);
  }

  it('of one bit has no grey px: as dark as half of black, or darker, is black', async () => {
    const [width, height] = [19, 3];
    const writer = new PngWriter({ width, height, ppi: 600, isOneBit: true });
    const grey = (k: number) => (k * 13) % 256;
    const rgba = Uint8Array.from({ length: width * height * 4 }, (_, i) => (i % 4 === 3 ? 255 : grey(i >> 2)));
    const bytes = bytesOf([
      ...writer.add(rgba.subarray(0, width * 4)),
      ...writer.add(rgba.subarray(width * 4)),
      ...writer.finish(),
    ]);
    expect(decode(bytes)).toMatchObject({ width, height, depth: 1, channels: 1 });
    // Source of the px: libpng, by sharp.
    const { data } = await sharp(Buffer.from(bytes)).greyscale().raw().toBuffer({ resolveWithObject: true });
    expect([...data]).toEqual(Array.from({ length: width * height }, (_, k) => (grey(k) >= 128 ? 255 : 0)));
  });

  it.each([
    [72, 2835],
    [300, 11811],
    [350, 13780],
    [600, 23622],
  ])('at %i ppi says %i px a metre (ISO/IEC 15948, 11.3.5.3 pHYs)', (ppi, perMetre) => {
    const bytes = png(3, 2, ppi, 1);
    const at = Buffer.from(bytes).indexOf('pHYs');
    const view = new DataView(bytes.buffer);
    expect([view.getUint32(at + 4), view.getUint32(at + 8), bytes[at + 12]]).toEqual([perMetre, perMetre, 1]);
    expect(view.getUint32(at + 13)).toBe(crc32(bytes.subarray(at, at + 13)));
    expect(decode(bytes, { checkCrc: true }).resolution).toEqual({ x: perMetre, y: perMetre, unit: 1 });
  });

  it('ends with the IEND chunk whose CRC the standard gives: AE426082', () => {
    expect(Buffer.from(chunk('IEND', new Uint8Array(0))).toString('hex')).toBe('0000000049454e44ae426082');
    expect(crc32(new TextEncoder().encode('123456789'))).toBe(0xcbf43926);
  });

  it('is read by fast-png 8 as the pixels that went in, whatever the bands', () => {
    const image = decode(png(31, 17, 300, 4), { checkCrc: true });
    expect(image).toMatchObject({ width: 31, height: 17, channels: 3, depth: 8 });
    const sent = Array.from({ length: 31 * 17 * 4 }, (_, i) => (i * 7) & 255).filter((_, i) => i % 4 !== 3);
    expect(Array.from(image.data)).toEqual(sent);
    expect(decode(png(31, 17, 300, 17)).data).toEqual(image.data);
  });

  it('refuses half rows, too many and too few', () => {
    const writer = new PngWriter({ width: 4, height: 2, ppi: 300 });
    expect(() => writer.add(new Uint8Array(15))).toThrow(/Rows of 4 px/);
    expect(() => writer.add(new Uint8Array(48))).toThrow(/at most 2/);
    expect(() => writer.finish()).toThrow(/after 0 of 2 rows/);
    expect(() => new PngWriter({ width: 0, height: 2, ppi: 300 })).toThrow(RangeError);
  });
});

describe('SVG', () => {
  interface Group {
    readonly title: string;
    /** The marks of one colour, in hundredths of a px. */
    readonly g?: readonly {
      readonly fill: string;
      readonly transform: string;
      readonly path: readonly { readonly d: string }[];
    }[];
    readonly image?: readonly Readonly<Record<string, string>>[];
  }
  const parse = (svg: string): { svg: { width: string; height: string; viewBox: string; g: Group[] } } =>
    new XMLParser({
      ignoreAttributes: false,
      attributeNamePrefix: '',
      isArray: (name) => ['g', 'path', 'image'].includes(name),
    }).parse(svg);

  it('is as large as the page is on paper', () => {
    const { svg } = parse(pageToSvg(page));
    expect(svg.width).toBe('50.8mm');
    expect(parseFloat(svg.height)).toBeCloseTo((500 / 350) * 25.4, 3);
    expect(svg.viewBox).toBe('0 0 700 500');
  });

  it('holds a group a layer and a path a stroke, hidden layers left out', () => {
    const { svg } = parse(pageToSvg(page, { title: 'Ferry & <Quay>' }));
    expect(svg.g.map(({ title, g }) => [title, g?.flatMap(({ path }) => path).length])).toEqual([
      ['Layer inks', 2],
      ['Layer more', 1],
    ]);
    expect(pageToSvg(page, { title: 'Ferry & <Quay>' })).toContain('<title>Ferry &amp; &lt;Quay&gt;</title>');
  });

  it('draws what the outlines are: areas by paper.js 0.12 from paths read by svgpath 2.6', () => {
    paper.setup(new paper.Size(700, 500));
    const paths = parse(pageToSvg(page)).svg.g.flatMap(({ g = [] }) =>
      g.flatMap(({ fill, transform, path }) => path.map(({ d }) => ({ fill, transform, d }))),
    );
    for (const [k, { d, fill, transform }] of paths.entries()) {
      const read = SvgPath(d).abs();
      // svgpath cuts bad input silently: it must have read every number that was written.
      let numbers = 0;
      read.iterate((segment) => void (numbers += segment.length - 1));
      expect(numbers).toBe(d.match(/-?\d+/g)?.length ?? 0);
      expect([fill, transform]).toEqual([strokes[k].nib.color, 'scale(0.01)']);
      const theirs = new paper.Path(read.scale(0.01).toString());
      const own = areaOf(outlineOf(strokes[k]).rings[0]);
      expect(Math.abs(Math.abs(theirs.area) - Math.abs(own))).toBeLessThan(0.002 * Math.abs(own) + 1);
    }
  });

  it('lays the pixels of washes where they lie, in the order of the stack, and leaves them out where nobody has them', () => {
    const washed = applyChange(
      page,
      change(adding(layer('sky', 'a0V', 'wash', { opacity: 0.5 }), washTile('sky', 1, -1, 'f'.repeat(64)))),
    );
    const svg = pageToSvg(washed, { washAddress: (blob) => `data:image/png;base64,${blob[0]}` });
    const { svg: root } = new XMLParser({ ignoreAttributes: false, attributeNamePrefix: '' }).parse(svg);
    expect(root.g.map((group: { title: string }) => group.title)).toEqual(['Layer inks', 'Layer sky', 'Layer more']);
    expect(root.g[1]).toMatchObject({
      opacity: '0.5',
      image: { x: '256', y: '-256', width: '256', height: '256', 'xlink:href': 'data:image/png;base64,f' },
    });
    expect(pageToSvg(washed)).not.toContain('Layer sky');
  });

  it('leaves the rough out unless asked for, and then tints and dims it', () => {
    expect(pageToSvg(page)).not.toContain('<image');
    const svg = pageToSvg(page, { pictureAddress: () => 'data:image/png;base64,AAAA' });
    expect(svg).toContain('opacity="0.5"');
    expect(svg).toContain('filter="url(#tint-blue)"');
    expect(svg.indexOf('<image')).toBeLessThan(svg.indexOf('<path'));
  });

  it('lets a rough over the inks multiply', () => {
    const over = applyChange(
      page,
      change([{ before: layer('rough', 'Zz', 'rough'), after: layer('rough', 'b0', 'rough') }]),
    );
    const svg = pageToSvg(over, { pictureAddress: () => 'data:image/png;base64,AAAA' });
    expect(svg).toContain('mix-blend-mode:multiply');
    expect(svg.indexOf('<image')).toBeGreaterThan(svg.lastIndexOf('<path'));
  });
});

describe('an SVG that is brought in', () => {
  const svg = (inner: string, head = 'width="40" height="30"') =>
    `<svg xmlns="http://www.w3.org/2000/svg" ${head}>${inner}</svg>`;

  it('tells its size', () => {
    expect(checkSvgPicture(svg('<path d="M0 0"/>'))).toEqual({ width: 40, height: 30 });
    expect(checkSvgPicture(svg('', 'viewBox="0 0 12 34"'))).toEqual({ width: 12, height: 34 });
    expect(checkSvgPicture(svg('', 'width="25.4mm" height="1in"'))).toEqual({
      width: expect.closeTo(96, 6),
      height: 96,
    });
  });

  it.each([
    ['a script', svg('<script>alert(1)</script>'), /<script>/],
    ['a handler', svg('<rect onload="x()"/>'), /runs a script/],
    ['a page inside', svg('<foreignObject/>'), /<foreignObject>/],
    ['a picture from elsewhere', svg('<image href="https://example.org/a.png"/>'), /outside itself/],
    ['a link that runs', svg('<a href="javascript:x()"/>'), /outside itself/],
    ['a fill from elsewhere', svg('<rect fill="url(https://example.org/#a)"/>'), /outside itself/],
    ['a quoted fill from elsewhere', svg('<rect style="fill:url(\'https://example.org/#a\')"/>'), /outside itself/],
    ['an imported style', svg('<style>@import "https://example.org/a.css";</style>'), /outside itself/],
    ['entities of its own', `<!DOCTYPE svg [<!ENTITY a "b">]>${svg('')}`, /entities/],
    ['half a file', svg('<path d="M0').slice(0, 60), /damaged or cut short/],
    ['no size', svg('', ''), /how large/],
    ['another kind of file', '<html></html>', /not an SVG/],
  ])('is refused for %s', (_what, text, sentence) => {
    expect(() => checkSvgPicture(text)).toThrow(sentence);
  });

  it('may point inside itself', () => {
    expect(() => checkSvgPicture(svg('<rect fill="url(#a)"/><use href="#b"/>'))).not.toThrow();
    expect(() =>
      checkSvgPicture(svg('<rect fill="url(\'#a\')"/><image href="data:image/png;base64,AA"/>')),
    ).not.toThrow();
  });
});
