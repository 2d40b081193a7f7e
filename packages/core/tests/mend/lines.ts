import { makeSpine, type Spine } from '../../src/curve';
import { inked, type Stroke, type StrokeEntity } from '../../src/page';
import { ellipseSpine } from '../../src/shapes';
import { liner } from '../hands';

// Lines that several tests mend.

/** A straight course. */
export function straightSpine(a: readonly [number, number], b: readonly [number, number], size = 10): Spine {
  const at = (t: number) => [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t, size];
  return makeSpine(Float64Array.from([0, 1 / 3, 2 / 3, 1].flatMap(at)));
}

/** A straight line of a width, round at its ends. */
export const bar = (a: readonly [number, number], b: readonly [number, number], size = 10): Stroke =>
  inked(straightSpine(a, b, size), { ...liner, size });

export const circle = (x: number, y: number, r: number, size = 6): Stroke =>
  inked(ellipseSpine({ centre: { x, y }, rx: r, ry: r }), { ...liner, size });

/** Lines on a page, named by their number. */
export const entities = (strokes: readonly Stroke[]): StrokeEntity[] =>
  strokes.map((stroke, k) => ({ ...stroke, kind: 'stroke', id: `line-${k}`, layerId: 'ink', order: `a${k}` }));
