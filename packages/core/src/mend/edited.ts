import { isSameCourse, STRIDE, type Spine } from '../curve';
import type { Stroke, StrokeEnd } from '../stroke';

/**
 * A line with its course changed by hand: its samples no longer tell it, and it has left its guide. An end that was cut
 * along a line stays so while it stays where it is. One that is only weighed anew has left neither.
 */
export function editedCourse<S extends Stroke>(stroke: S, spine: Spine): S {
  const { guide, origin, ends, ...rest } = stroke;
  const isWeighed = isSameCourse(stroke.spine, spine);
  const [p, q] = [stroke.spine.points, spine.points];
  const kept = (end: StrokeEnd, i: number, k: number): StrokeEnd =>
    typeof end === 'string' || Math.hypot(p[i] - q[k], p[i + 1] - q[k + 1]) < 1e-6 ? end : 'flat';
  // Everything but these, which may be missing on any stroke, is still there.
  return {
    ...(rest as S),
    spine,
    ends: [kept(ends[0], 0, 0), kept(ends[1], p.length - STRIDE, q.length - STRIDE)],
    ...(guide && isWeighed && { guide }),
    ...(origin && { origin: { ...origin, left: origin.left ?? 'edited' } }),
  };
}

/** A line weighed by hand: its samples no longer tell its widths; it lies where it lay. */
export function editedWeight<S extends Stroke>(stroke: S, spine: Spine): S {
  const { origin } = stroke;
  return { ...stroke, spine, ...(origin && { origin: { ...origin, left: origin.left ?? 'edited' } }) };
}
