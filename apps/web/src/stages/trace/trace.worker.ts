import { areaMarks, strokeMarks } from '@true-nib/core/drawn';
import {
  apply,
  chain,
  invert,
  scaling,
  then,
  translation,
  type Box,
  type Matrix,
  type Point,
} from '@true-nib/core/math';
import type { Said, TraceRecord, TraceSettings } from '@true-nib/core/page';
import {
  inkOf,
  inkPart,
  inkWithin,
  isSameTracing,
  mapSaid,
  mapTraced,
  outlinesOf,
  scaledSettings,
  thingsOf,
  tracedOf,
  tracing,
  type InkRaster,
  type Picture,
  type Traced,
  type TracedEntity,
  type Tracing,
} from '@true-nib/core/trace';
import { expose, transfer } from 'comlink';
import { inSlices } from '../../base/breath';
import { paintMarks } from '../../render/inkPaint';
import { ground } from '../../render/ground';
import { unpackTile } from '../../render/washCode';
import { decodedAs, pixelsOf, type SeenPicture } from '../../render/scanned';

/** Px in which lines are looked for: an A4 at 600 ppi. Larger pictures are made smaller first. */
const MOST_PX = 36e6;
/** Px of the part that is traced while a setting is being changed. */
const PREVIEW_PX = 0.5e6;
/** The share of the work after which lines are fitted. */
const FITTED = 0.65;

/** What is traced, and how. */
export type Asked = Pick<TraceRecord, 'takes' | 'settings' | 'said'> & { readonly within?: readonly Point[] };

interface Size {
  readonly width: number;
  readonly height: number;
}

/** A tile of a Wash layer: where its corner lies on the page, px. */
export interface Tile {
  readonly x: number;
  readonly y: number;
  readonly bytes: ArrayBuffer;
}

/** How much ink there is in a picture. */
export interface Amount {
  readonly hasInk: boolean;
  readonly isAllInk: boolean;
}

/** A picture as it was opened: px of it to one in which lines are looked for. */
interface Opened {
  readonly raster: InkRaster;
  readonly share: number;
}

/** A picture of what is shown over the page, and the view it was made for. */
export interface ShownTrace {
  readonly bitmap: ImageBitmap;
  readonly lines: number;
}

/** What a tracing lacks of the ink it was taken from, and what it has too much, as shares of that ink. */
export interface Compared {
  readonly bitmap: ImageBitmap;
  /** From px of the bitmap to the page. */
  readonly map: Matrix;
  readonly missing: number;
  readonly tooMuch: number;
}

let opened: Opened | undefined;
/** How many previews and tracings were asked for: of each the newest counts. */
let previews = 0;
let traces = 0;
/** The ink within the loop that was asked for last. */
let inside: { readonly of: Opened; readonly within: string; readonly raster: InkRaster } | undefined;
let known:
  | {
      readonly raster: InkRaster;
      readonly settings: TraceSettings;
      readonly said: readonly Said[];
      readonly tracing: Tracing;
    }
  | undefined;

function asked(within: readonly Point[] | undefined): Opened {
  if (!opened) throw new Error('The picture is not open.');
  if (!within) return opened;
  const words = JSON.stringify(within);
  if (inside?.of !== opened || inside.within !== words) {
    const { share } = opened;
    const loop = within.map((at) => apply(scaling(share), at));
    inside = { of: opened, within: words, raster: inkWithin(opened.raster, loop) };
  }
  return { raster: inside.raster, share: opened.share };
}

function taken(pixels: Picture, share = 1): void {
  opened = { raster: inkOf(pixels), share };
  inside = known = undefined;
}

const service = {
  /** Takes a picture in, as its scan has it. Answers whether there is any ink in it. */
  async open(source: Blob | ImageBitmap, seen: SeenPicture): Promise<Amount> {
    const bitmap = await decodedAs(source, seen);
    const pixels = pixelsOf(bitmap, Math.min(1, Math.sqrt(MOST_PX / (bitmap.width * bitmap.height))));
    bitmap.close();
    // Decoded px may be fewer than those of the picture, or more: an SVG has a size of its own.
    taken(pixels, pixels.width / seen.width);
    return amountOf(opened?.raster);
  },

  /** Takes the pixels of a Wash layer in: its tiles' bytes, and where they lie on a page of so many px. */
  async openTiles({ width, height }: Size, tiles: readonly Tile[]): Promise<Amount> {
    const data = new Uint8ClampedArray(4 * width * height);
    for (const { x, y, bytes } of tiles) {
      const image = await unpackTile(bytes);
      for (let row = 0; row < image.height; row++) {
        if (y + row < 0 || y + row >= height) continue;
        const [from, to] = [Math.max(0, -x), Math.min(image.width, width - x)];
        if (to > from)
          data.set(
            image.data.subarray(4 * (row * image.width + from), 4 * (row * image.width + to)),
            4 * ((y + row) * width + x + from),
          );
      }
    }
    taken({ width, height, data });
    return amountOf(opened?.raster);
  },

  /**
   * Traces the picture, or what lies in a loop of it; `tell` hears how far that is. Nothing where it was stopped, or another
   * one was asked for meanwhile. Px of the picture.
   */
  async trace({ takes, settings, said, within }: Asked, tell: (share: number) => void): Promise<Traced | undefined> {
    const own = ++traces;
    const { raster, share } = asked(within);
    const as = { takes, settings: scaledSettings(settings, share), said: mapSaid(said, scaling(share)) };
    const work = { isWanted: () => own === traces, tell };
    const found = await tracedIn(raster, as, work);
    return found && mapTraced(found, scaling(1 / share));
  },

  /** Stops what is being traced. */
  stop(): void {
    traces++;
  },

  /**
   * What a setting comes to where one looks, painted for a view: `map` takes px of the picture to those of the view. A part
   * that is too large is traced from fewer px. Nothing where another one was asked for meanwhile.
   */
  async preview(
    { takes, settings, said, within }: Asked,
    map: Matrix,
    view: Size,
    color: string,
    most = PREVIEW_PX,
  ): Promise<ShownTrace | undefined> {
    const own = ++previews;
    const { raster, share } = asked(within);
    const box = seenBox(raster, then(scaling(1 / share), map), view);
    const by = Math.max(1, Math.ceil(Math.sqrt((box.width * box.height) / most)));
    const few = scaledSettings(settings, share / by);
    const fewer = { ...few, smallMarks: Math.max(few.smallMarks, 1.5), smoothness: Math.max(few.smoothness, 0.3) };
    const toPart = chain(scaling(share), translation(-box.x, -box.y), scaling(1 / by));
    const as = { takes, settings: fewer, said: mapSaid(said, toPart) };
    const found = await tracedAnew(inkPart(raster, box, by), as, { isWanted: () => own === previews });
    if (!found || own !== previews) return undefined;
    const onPicture = mapTraced(found, invert(toPart));
    const context = ground(view.width, view.height);
    paint(context, thingsOf({ name: 'preview', map: [1, 0, 0, 1, 0, 0] }, onPicture, color), map);
    const bitmap = context.canvas.transferToImageBitmap();
    return transfer({ bitmap, lines: found.lines.length + found.blacks.length }, [bitmap]);
  },

  /** Holds what lies on the page against the picture: `map` takes px of the picture to the page. */
  compare(
    things: readonly TracedEntity[],
    map: Matrix,
    within: readonly Point[] | undefined,
    [missing, tooMuch]: readonly [string, string],
  ): Compared {
    const { raster, share } = asked(within);
    const by = Math.max(
      1,
      Math.ceil(Math.sqrt((raster.width * raster.height) / 4e6)),
      Math.ceil(Math.max(raster.width, raster.height) / 4000),
    );
    const part = inkPart(raster, { x: 0, y: 0, width: raster.width, height: raster.height }, by);
    // From px of the small picture to the page.
    const toPage = then(scaling(by / share), map);
    const drawn = ground(part.width, part.height);
    paint(drawn, things, invert(toPage));
    const { data } = drawn.getImageData(0, 0, part.width, part.height);
    const image = new ImageData(part.width, part.height);
    const hues = [missing, tooMuch].map((hue) => [1, 3, 5].map((at) => parseInt(hue.slice(at, at + 2), 16)));
    let [ink, less, more] = [0, 0, 0];
    for (let k = 0, i = 0; k < part.ink.length; k++, i += 4) {
      const off = part.ink[k] - data[i + 3];
      if (part.ink[k] >= 128) ink++;
      // Edges that are a little softer are no difference.
      if (Math.abs(off) < 100) continue;
      if (off > 0) less++;
      else more++;
      const hue = hues[off > 0 ? 0 : 1];
      image.data.set([hue[0], hue[1], hue[2], Math.min(255, 90 + Math.abs(off))], i);
    }
    const canvas = ground(part.width, part.height);
    canvas.putImageData(image, 0, 0);
    const bitmap = canvas.canvas.transferToImageBitmap();
    return transfer({ bitmap, map: toPage, missing: less / Math.max(1, ink), tooMuch: more / Math.max(1, ink) }, [
      bitmap,
    ]);
  },
};

/** How what is slow is gone through: whether to go on, and who hears how far it is. */
interface Work {
  readonly isWanted: () => boolean;
  readonly tell?: (share: number) => void;
}

/** Ink traced in slices. */
async function tracedAnew(raster: InkRaster, asked: Asked, work: Work): Promise<Traced | undefined> {
  const { takes, settings, said } = asked;
  if (takes === 'lines') {
    const made = await inSlices(tracing(raster, settings, said), work);
    return made && inSlices(tracedOf(made, settings, said), work);
  }
  const blacks = await inSlices(outlinesOf(raster, settings), work);
  return blacks && { lines: [], blacks, places: [] };
}

/** The same for the whole picture: what goes by px is kept for the next word or setting that leaves it as it is. */
async function tracedIn(raster: InkRaster, asked: Asked, { isWanted, tell }: Work): Promise<Traced | undefined> {
  const { takes, settings, said } = asked;
  if (takes === 'outlines') return tracedAnew(raster, asked, { isWanted, tell });
  const hear = (from: number, to: number) => ({
    isWanted,
    tell: (share: number) => tell?.(from + share * (to - from)),
  });
  const isKnown = known?.raster === raster && isSameTracing(known.settings, settings, known.said, said);
  if (!isKnown) {
    const made = await inSlices(tracing(raster, settings, said), hear(0, FITTED));
    if (!made) return undefined;
    known = { raster, settings, said, tracing: made };
  }
  return known && inSlices(tracedOf(known.tracing, settings, said), hear(isKnown ? 0 : FITTED, 1));
}

function amountOf(raster: InkRaster | undefined): Amount {
  let dark = 0;
  for (let i = 0; raster && i < raster.ink.length; i += 7) if (raster.ink[i] > 100) dark++;
  const share = raster ? (7 * dark) / raster.ink.length : 0;
  return { hasInk: share > 1e-5, isAllInk: share > 0.9 };
}

/** The part of a picture that is seen in a view, whole px. */
function seenBox({ width, height }: InkRaster, map: Matrix, view: Size) {
  const back = invert(map);
  const corners = [
    [0, 0],
    [view.width, 0],
    [view.width, view.height],
    [0, view.height],
  ].map(([x, y]) => apply(back, { x, y }));
  const [minX, minY] = [Math.min(...corners.map(({ x }) => x)), Math.min(...corners.map(({ y }) => y))];
  const [maxX, maxY] = [Math.max(...corners.map(({ x }) => x)), Math.max(...corners.map(({ y }) => y))];
  const box: Box = {
    minX: Math.max(0, Math.floor(minX)),
    minY: Math.max(0, Math.floor(minY)),
    maxX: Math.min(width, Math.ceil(maxX)),
    maxY: Math.min(height, Math.ceil(maxY)),
  };
  return {
    x: box.minX,
    y: box.minY,
    width: Math.max(1, box.maxX - box.minX),
    height: Math.max(1, box.maxY - box.minY),
  };
}

function paint(context: OffscreenCanvasRenderingContext2D, things: readonly TracedEntity[], map: Matrix): void {
  const marks = things.flatMap((thing) => [...(thing.kind === 'stroke' ? strokeMarks(thing) : areaMarks(thing))]);
  paintMarks(context, marks, map);
}

export type TraceService = typeof service;

expose(service);
