import { boxOfDiscs, emptyBox, uniteBoxes, type Box } from '../math';
import { courseOf, type Course } from './course';
import { STRIDE, type Spine } from './spine';

/** Legs of a course that share a box. */
export const HULL = 8;
/** Numbers of a box. */
export const BOUNDS = 4;
/** Page px by which legs may miss each other and still be asked whether they cross: rounding, no more. */
const TOUCH = 1e-6;

/** A course with boxes by which is told what lies near to it. */
export interface Hulls {
  readonly course: Course;
  readonly box: Box;
  /** The boxes of the ink of `HULL` legs each, one after the other: minX, minY, maxX, maxY. */
  readonly bounds: Float64Array;
}

const known = new WeakMap<Spine, Hulls>();

export function hullsOf(spine: Spine): Hulls {
  let hulls = known.get(spine);
  if (!hulls) {
    const course = courseOf(spine);
    known.set(spine, (hulls = makeHulls(course)));
  }
  return hulls;
}

function makeHulls(course: Course): Hulls {
  const { line, places } = course;
  const legs = places.length - 1;
  const bounds = new Float64Array(BOUNDS * Math.ceil(legs / HULL));
  let box = emptyBox;
  for (let h = 0, from = 0; from < legs; h += BOUNDS, from += HULL) {
    const own = boxOfDiscs(line, STRIDE * from, STRIDE * (Math.min(legs, from + HULL) + 1));
    bounds[h] = own.minX;
    bounds[h + 1] = own.minY;
    bounds[h + 2] = own.maxX;
    bounds[h + 3] = own.maxY;
    box = uniteBoxes(box, own);
  }
  return { course, bounds, box };
}

/**
 * Calls back for each pair of legs whose ink may come within `gap`; both are numbers of their first points. Of one line
 * with itself each pair comes once, and neighbours never.
 */
export const eachNearPair = (a: Hulls, b: Hulls, gap: number, tell: TellPair): void => eachPair(a, b, gap, 0.5, tell);

/** The same for each pair of legs whose middles may cross. */
export const eachCrossingPair = (a: Hulls, b: Hulls, tell: TellPair): void => eachPair(a, b, TOUCH, 0, tell);

type TellPair = (legA: number, legB: number) => void;

/** `share` is how much of their widths the legs reach to either side. */
function eachPair(a: Hulls, b: Hulls, gap: number, share: number, tell: TellPair): void {
  const p = a.course.line;
  const q = b.course.line;
  const hulls = a.bounds;
  const others = b.bounds;
  const legsA = p.length / STRIDE - 1;
  const legsB = q.length / STRIDE - 1;
  const isSelf = a === b;
  const { box } = b;
  for (let h = 0, first = 0; h < hulls.length; h += BOUNDS, first += HULL) {
    const left = hulls[h] - gap;
    const top = hulls[h + 1] - gap;
    const right = hulls[h + 2] + gap;
    const bottom = hulls[h + 3] + gap;
    if (left > box.maxX || right < box.minX || top > box.maxY || bottom < box.minY) continue;
    const last = Math.min(legsA, first + HULL);
    for (let g = isSelf ? h : 0; g < others.length; g += BOUNDS) {
      const lowX = others[g];
      const lowY = others[g + 1];
      const highX = others[g + 2];
      const highY = others[g + 3];
      if (left > highX || right < lowX || top > highY || bottom < lowY) continue;
      const begin = (g / BOUNDS) * HULL;
      const end = Math.min(legsB, begin + HULL);
      for (let i = first; i < last; i++) {
        const k = STRIDE * i;
        const half = gap + share * (p[k + 2] > p[k + 5] ? p[k + 2] : p[k + 5]);
        const minX = (p[k] < p[k + 3] ? p[k] : p[k + 3]) - half;
        const maxX = (p[k] > p[k + 3] ? p[k] : p[k + 3]) + half;
        if (minX > highX || maxX < lowX) continue;
        const minY = (p[k + 1] < p[k + 4] ? p[k + 1] : p[k + 4]) - half;
        const maxY = (p[k + 1] > p[k + 4] ? p[k + 1] : p[k + 4]) + half;
        if (minY > highY || maxY < lowY) continue;
        for (let j = isSelf ? Math.max(begin, i + 2) : begin, n = STRIDE * j; j < end; j++, n += STRIDE) {
          const reach = share * (q[n + 2] > q[n + 5] ? q[n + 2] : q[n + 5]);
          if (
            minX - reach <= (q[n] > q[n + 3] ? q[n] : q[n + 3]) &&
            maxX + reach >= (q[n] < q[n + 3] ? q[n] : q[n + 3]) &&
            minY - reach <= (q[n + 1] > q[n + 4] ? q[n + 1] : q[n + 4]) &&
            maxY + reach >= (q[n + 1] < q[n + 4] ? q[n + 1] : q[n + 4])
          )
            tell(i, j);
        }
      }
    }
  }
}
