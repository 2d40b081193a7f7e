import { allMarks, laidAs, markBox, type Thing } from '@true-nib/core/drawn';
import type { Spine } from '@true-nib/core/curve';
import type { Dots } from '@true-nib/core/dots';
import { emptyBox, growBox, intersectBoxes, mapBox, uniteBoxes, type Box, type Point } from '@true-nib/core/math';
import {
  combRows,
  featherRows,
  spanRows,
  stipple,
  type Bounds,
  type CombField,
  type CombSettings,
  type DotSettings,
  type DotTone,
  type FeatherEdge,
  type FeatherSettings,
  type SpanSettings,
} from '@true-nib/core/texture';
import { ground } from './ground';
import { paintMarks } from './inkPaint';
import type { PictureOfInks } from './keptPicture';

/** What texture is made of, and how. */
export type TextureAsked =
  | {
      readonly deed: 'comb';
      readonly bounds: Bounds;
      readonly field: CombField;
      readonly settings: CombSettings;
      readonly seed: number;
    }
  | { readonly deed: 'span'; readonly lines: readonly (Spine | Point)[]; readonly settings: SpanSettings }
  | {
      readonly deed: 'feather';
      readonly edge: FeatherEdge;
      readonly settings: FeatherSettings;
      readonly seed: number;
    }
  | {
      readonly deed: 'stipple';
      readonly bounds: Bounds;
      readonly tone: DotTone;
      readonly settings: DotSettings;
      readonly fill: Dots['fill'];
      readonly seed: number;
    };

/** Texture under way as a view shows it: a picture of it, and where its corner lies there, device px. */
export interface ShownTexture {
  readonly bitmap: ImageBitmap | undefined;
  readonly x: number;
  readonly y: number;
  /** Rows, or dots. */
  readonly count: number;
}

/** Texture that is being laid down: by which number its things are fetched, and how many rows or dots there are. */
export interface LaidTexture {
  readonly id: number;
  readonly count: number;
}

/** Makes rows and dots, and pictures of them, in a worker. */
export class TextureWork {
  /** What is being laid down, until all of it was fetched: meanwhile other texture may be under way. */
  private readonly laid = new Map<number, readonly Thing[]>();
  private count = 0;

  /** A picture of texture under way. Throws what the core throws. */
  show(asked: TextureAsked, view: PictureOfInks): ShownTexture {
    const things = made(asked);
    const count = countOf(things);
    const entities = things.map((thing) => laidAs(thing, { id: 'way', layerId: 'way', order: 'a0' }));
    const whole: Box = { minX: 0, minY: 0, maxX: view.width, maxY: view.height };
    const box = entities.reduce((all, entity) => uniteBoxes(all, markBox(entity)), emptyBox);
    const seen = intersectBoxes(whole, growBox(mapBox(view.map, box), 2));
    const [x, y] = [Math.floor(seen.minX), Math.floor(seen.minY)];
    const [width, height] = [Math.ceil(seen.maxX) - x, Math.ceil(seen.maxY) - y];
    if (!(width > 0 && height > 0)) return { bitmap: undefined, x: 0, y: 0, count };
    const context = ground(width, height);
    const [a, b, c, d, e, f] = view.map;
    // What takes ink away is shown as paper.
    const marks = allMarks(entities).map((mark) => (mark.cuts ? { ...mark, cuts: undefined, color: '#ffffff' } : mark));
    paintMarks(context, marks, [a, b, c, d, e - x, f - y]);
    return { bitmap: context.canvas.transferToImageBitmap(), x, y, count };
  }

  /** Makes texture to be fetched part by part. Throws what the core throws. */
  lay(asked: TextureAsked): LaidTexture {
    const things = made(asked);
    const id = ++this.count;
    this.laid.set(id, things);
    return { id, count: countOf(things) };
  }

  /** Some of what is being laid down; it is let go of with its last part. */
  part(id: number, from: number, to: number): readonly Thing[] {
    const things = this.laid.get(id) ?? [];
    if (to > things.length) this.laid.delete(id);
    return things.slice(from, to);
  }
}

/** How many rows or dots there are. */
function countOf(things: readonly Thing[]): number {
  const [first] = things;
  return first && 'dots' in first ? first.dots.length / 3 : things.length;
}

function made(asked: TextureAsked): readonly Thing[] {
  switch (asked.deed) {
    case 'comb':
      return combRows(asked.bounds, asked.field, asked.settings, asked.seed);
    case 'span':
      return spanRows(asked.lines, asked.settings);
    case 'feather':
      return featherRows(asked.edge, asked.settings, asked.seed);
    case 'stipple': {
      const dots = stipple(asked.bounds, asked.tone, asked.settings, asked.seed);
      return dots.length > 0 ? [{ dots, fill: asked.fill }] : [];
    }
  }
}
