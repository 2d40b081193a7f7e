import {
  courseOf,
  directionAt,
  evenlyWide,
  placeAlong,
  placeOf,
  pointAt,
  segmentCount,
  type Spine,
} from '../../src/curve';
import { planning, type MendDeed } from '../../src/mend';
import { inked, type Stroke, type StrokeEntity } from '../../src/stroke';
import type { Edit } from '../../src/page';
import { ellipseSpine, lineSpine } from '../../src/shapes';
import { liner } from '../hands';

// Lines that several tests mend.

/** A straight course. */
export const straightSpine = (a: readonly [number, number], b: readonly [number, number], size = 10): Spine =>
  evenlyWide(lineSpine({ x: a[0], y: a[1] }, { x: b[0], y: b[1] }), size);

/** A straight line of a width, round at its ends. */
export const bar = (a: readonly [number, number], b: readonly [number, number], size = 10): Stroke =>
  inked(straightSpine(a, b, size), { ...liner, size });

export const circle = (x: number, y: number, r: number, size = 6): Stroke =>
  inked(ellipseSpine({ centre: { x, y }, rx: r, ry: r }), { ...liner, size });

/** Lines on a page, named by their number. */
export const entities = (strokes: readonly Stroke[]): StrokeEntity[] =>
  strokes.map((stroke, k) => ({ ...stroke, kind: 'stroke', id: `line-${k}`, layerId: 'ink', order: `a${k}` }));

/** The full width at a length along a course. */
export const widthAt = (spine: Spine, along: number): number =>
  pointAt(spine, placeOf(spine, placeAlong(courseOf(spine), along))).width;

/** The greatest turn at any inner node, radians. */
export function kinkOf(spine: Spine): number {
  let worst = 0;
  for (let k = spine.closed ? 0 : 1; k < segmentCount(spine); k++) {
    const before = directionAt(spine, { segment: k === 0 ? segmentCount(spine) - 1 : k - 1, t: 1 });
    const after = directionAt(spine, { segment: k, t: 0 });
    worst = Math.max(worst, Math.acos(Math.min(1, before.x * after.x + before.y * after.y)));
  }
  return worst;
}

/** What a deed over lines would do, worked out in one go. */
export function planned(
  strokes: readonly StrokeEntity[],
  deed: MendDeed,
  newId: () => string,
  mayChange: (one: StrokeEntity) => boolean = () => true,
): readonly Edit[] {
  const work = planning(strokes, mayChange, deed, newId);
  for (;;) {
    const step = work.next();
    if (step.done) return step.value.edits;
  }
}
