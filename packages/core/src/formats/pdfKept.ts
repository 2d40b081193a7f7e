import type * as pdfLib from '@cantoo/pdf-lib';
import { zlibSync } from 'fflate';
import type { Shade } from '../drawn';
import type { Box } from '../math';
import { PDF_PARTS, type PdfResources } from './pdfMarks';

/** Px of a picture, red, green, blue and alpha of 0..255, row by row. */
export interface Pixels {
  readonly width: number;
  readonly height: number;
  readonly rgba: Uint8Array | Uint8ClampedArray;
}

/** The library that knows how a PDF is put together, once it was fetched. */
export type PdfLibrary = typeof pdfLib;

type PDFDict = pdfLib.PDFDict;
type PDFRef = pdfLib.PDFRef;

/** What objects of a PDF are made from: a text is a name. */
interface Literals {
  [key: string]: Literal;
}
type Literal = string | number | boolean | PDFRef | PDFDict | Literals | Literal[];

/** What a page's content refers to. */
export class PdfKept implements PdfResources {
  private readonly names = new Map<string, string>();
  private box: Box = { minX: 0, minY: 0, maxX: 0, maxY: 0 };
  private readonly resources: PDFDict;

  constructor(
    private readonly library: PdfLibrary,
    private readonly document: pdfLib.PDFDocument,
    page: pdfLib.PDFPage,
  ) {
    this.resources = document.context.obj({ ExtGState: {}, XObject: {}, Shading: {} });
    page.node.set(library.PDFName.of('Resources'), this.resources);
  }

  /** Groups lie within this from now on, page px. */
  within(box: Box): void {
    this.box = box;
  }

  private stream(content: string, dict: Literals): PDFRef {
    return this.compressed(latin(content), dict);
  }

  state(opacity: number, blend?: 'Multiply'): string {
    const share = Number(opacity.toFixed(4));
    return this.named('ExtGState', `state ${share} ${blend}`, () =>
      this.register({ Type: 'ExtGState', ca: share, CA: share, BM: blend ?? 'Normal' }),
    );
  }

  masked(content: string): string {
    const group = this.form(content, 'DeviceGray');
    const name = `M${this.names.size}`;
    const state = this.register({ Type: 'ExtGState', SMask: { Type: 'Mask', S: 'Luminosity', G: group } });
    return this.named('ExtGState', name, () => state);
  }

  group(content: string): string {
    return this.named('XObject', `group ${this.names.size}`, () => this.form(content));
  }

  shading({ ramp, stops }: Shade, colours: readonly (readonly number[])[]): string {
    const { shape, from, to } = ramp;
    const [x, y, u, v] = [from.x, from.y, to.x, to.y].map((value) => Math.round(value * PDF_PARTS));
    const isStraight = shape === 'straight';
    return this.named('Shading', `shading ${this.names.size}`, () =>
      this.register({
        ShadingType: isStraight ? 2 : 3,
        ColorSpace: colours[0].length === 1 ? 'DeviceGray' : 'DeviceRGB',
        Coords: isStraight ? [x, y, u, v] : [x, y, 0, x, y, Math.hypot(u - x, v - y)],
        Extend: [true, true],
        Function: stitched(
          stops.map(({ at }) => at),
          colours,
        ),
      }),
    );
  }

  /** A picture of its own pixels: grey where all of it is, with what shows through beside it. */
  pixels(key: string, { width, height, rgba }: Pixels): string {
    return this.named('XObject', `pixels ${key}`, () => {
      const count = width * height;
      let [isGrey, isOpaque] = [true, true];
      for (let i = 0; i < 4 * count; i += 4) {
        isGrey &&= rgba[i] === rgba[i + 1] && rgba[i] === rgba[i + 2];
        isOpaque &&= rgba[i + 3] === 255;
      }
      const channels = isGrey ? 1 : 3;
      const colours = new Uint8Array(channels * count);
      const alpha = new Uint8Array(count);
      for (let k = 0; k < count; k++) {
        for (let c = 0; c < channels; c++) colours[channels * k + c] = rgba[4 * k + c];
        alpha[k] = rgba[4 * k + 3];
      }
      const image = { Type: 'XObject', Subtype: 'Image', Width: width, Height: height, BitsPerComponent: 8 };
      const mask = isOpaque ? undefined : this.compressed(alpha, { ...image, ColorSpace: 'DeviceGray' });
      return this.compressed(colours, {
        ...image,
        ColorSpace: isGrey ? 'DeviceGray' : 'DeviceRGB',
        ...(mask && { SMask: mask }),
      });
    });
  }

  async jpeg(bytes: Uint8Array): Promise<string> {
    const { ref } = await this.document.embedJpg(bytes);
    return this.named('XObject', `jpeg ${this.names.size}`, () => ref);
  }

  private form(content: string, space?: 'DeviceGray'): PDFRef {
    const { minX, minY, maxX, maxY } = this.box;
    return this.stream(content, {
      ...{ Type: 'XObject', Subtype: 'Form', FormType: 1, Resources: this.resources },
      BBox: [minX, minY, maxX, maxY].map((value) => value * PDF_PARTS),
      Group: { S: 'Transparency', ...(space && { CS: space }), I: true },
    });
  }

  /** What lies on a page: far the most of a file, so it is packed by the platform, which is quicker at it. */
  async contents(content: string): Promise<PDFRef> {
    const plain = new Blob([latin(content)]).stream();
    // RFC 1950, which is what FlateDecode means.
    const packed = new Response(plain.pipeThrough(new CompressionStream('deflate')));
    return this.packed(new Uint8Array(await packed.arrayBuffer()), {});
  }

  private compressed(bytes: Uint8Array, dict: Literals): PDFRef {
    return this.packed(zlibSync(bytes, { level: 6 }), dict);
  }

  private packed(packed: Uint8Array, dict: Literals): PDFRef {
    const { context } = this.document;
    const whole = context.obj({ ...dict, Filter: 'FlateDecode', Length: packed.length });
    return context.register(this.library.PDFRawStream.of(whole, packed));
  }

  private register(value: Literals): PDFRef {
    return this.document.context.register(this.document.context.obj(value));
  }

  private named(kind: 'ExtGState' | 'XObject' | 'Shading', key: string, make: () => PDFRef): string {
    const known = this.names.get(key);
    if (known) return known;
    const name = `${kind[0]}${this.names.size}`;
    this.names.set(key, name);
    const made = make();
    const { PDFName, PDFDict } = this.library;
    this.resources.lookup(PDFName.of(kind), PDFDict).set(PDFName.of(name), made);
    return name;
  }
}

/** A function from 0..1 to a colour, from stop to stop (ISO 32000-1, 7.10.4). */
function stitched(places: readonly number[], colours: readonly (readonly number[])[]): Literals {
  const legs = colours.slice(1).map((to, k): Literals => ({
    ...{ FunctionType: 2, Domain: [0, 1], N: 1 },
    ...{ C0: [...colours[k]], C1: [...to] },
  }));
  // Outside the first and the last stop their colours go on; bounds have to rise.
  const bounds: number[] = [];
  for (const at of places.slice(1, -1)) bounds.push(Math.min(1, Math.max(at, (bounds.at(-1) ?? places[0]) + 1e-6)));
  const encode = legs.flatMap(() => [0, 1]);
  return {
    FunctionType: 3,
    Domain: [places[0], Math.max(places[0] + 1e-6, places.at(-1) ?? 1)],
    Functions: legs,
    Bounds: bounds,
    Encode: encode,
  };
}

const latin = (text: string): Uint8Array<ArrayBuffer> => {
  const bytes = new Uint8Array(text.length);
  for (let k = 0; k < text.length; k++) bytes[k] = text.charCodeAt(k);
  return bytes;
};
