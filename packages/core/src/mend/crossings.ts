import Flatbush from 'flatbush';
import { placeOf, pointAt, STRIDE, eachCrossingPair, hullsOf, type Hulls } from '../curve';
import { growBox, isEmptyBox, type Box, type Point } from '../math';
import type { Stroke } from '../stroke';
import { angleBetween, exactCrossing, legCrossing, ownCrossings } from './meetings';

/** Where the middles of two lines cross, or a line crosses itself: numbers of the lines, places on them, and the sharp angle. */
export interface Crossing extends Point {
  readonly a: number;
  readonly b: number;
  readonly atA: number;
  readonly atB: number;
  /** 0..π/2. */
  readonly angle: number;
}

/** Which lines lie near a box, by a static index over the boxes of their ink (flatbush). */
export class LineIndex<S extends Stroke> {
  private readonly tree: Flatbush | undefined;
  /** Those of each line. */
  readonly hulls: readonly Hulls[];

  constructor(readonly strokes: readonly S[]) {
    this.hulls = strokes.map(({ spine }) => hullsOf(spine));
    if (strokes.length === 0) return;
    const tree = new Flatbush(strokes.length);
    for (const { box } of this.hulls) {
      if (isEmptyBox(box)) tree.add(0, 0, 0, 0);
      else tree.add(box.minX, box.minY, box.maxX, box.maxY);
    }
    tree.finish();
    this.tree = tree;
  }

  /** Lines whose ink may lie in a box, page px. */
  within(box: Box): S[] {
    return this.numbersWithin(box).map((k) => this.strokes[k]);
  }

  /** The same by their numbers. */
  numbersWithin({ minX, minY, maxX, maxY }: Box): number[] {
    return this.tree?.search(minX, minY, maxX, maxY) ?? [];
  }

  /** Lines whose ink may come within `gap` of another line's, that one left in. */
  near({ spine }: Stroke, gap: number): S[] {
    return this.within(growBox(hullsOf(spine).box, gap));
  }
}

/**
 * All crossings of the middles of lines, each once, `a` ≤ `b`, in the order of `a`, then of the place on it. Lines that
 * lie on each other do not cross there, nor do lines that touch without passing through.
 */
export function crossings(strokes: readonly Stroke[]): Crossing[] {
  const index = new LineIndex(strokes);
  const found: Crossing[] = [];
  strokes.forEach((stroke, a) => {
    const own: Crossing[] = ownCrossings(stroke.spine).map((places) => crossingAt(strokes, a, places.a, a, places.b));
    for (const b of index.numbersWithin(index.hulls[a].box)) if (b > a) own.push(...crossingsOfTwo(strokes, a, b));
    found.push(...own.sort((p, q) => p.atA - q.atA || p.b - q.b));
  });
  return found;
}

function crossingAt(strokes: readonly Stroke[], a: number, atA: number, b: number, atB: number): Crossing {
  const { x, y } = pointAt(strokes[a].spine, placeOf(strokes[a].spine, atA));
  return { a, b, atA, atB, x, y, angle: angleBetween(strokes[a].spine, atA, strokes[b].spine, atB) };
}

/** The crossings of two different lines. */
export function crossingsOfTwo(strokes: readonly Stroke[], a: number, b: number): Crossing[] {
  const [p, q] = [hullsOf(strokes[a].spine), hullsOf(strokes[b].spine)];
  const found: Crossing[] = [];
  eachCrossingPair(p, q, (i, j) => {
    const cross = legCrossing(p.course.line, STRIDE * i, q.course.line, STRIDE * j);
    if (!cross) return;
    const exact = exactCrossing(
      { spine: strokes[a].spine, course: p.course, number: i },
      { spine: strokes[b].spine, course: q.course, number: j },
      cross,
    );
    // A crossing at the joint of two legs is found on both.
    if (exact && !found.some(({ atA, atB }) => Math.abs(atA - exact.a) < 1e-6 && Math.abs(atB - exact.b) < 1e-6))
      found.push(crossingAt(strokes, a, exact.a, b, exact.b));
  });
  return found;
}
