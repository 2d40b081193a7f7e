import Flatbush from 'flatbush';
import { placeOf, pointAt, STRIDE } from '../curve';
import { isEmptyBox, type Box, type Point } from '../math';
import type { Stroke } from '../page';
import { angleBetween, eachNearPair, exactCrossing, hullsOf, legCrossing, ownCrossings } from './meetings';

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
export class InkIndex<S extends Stroke> {
  private readonly tree: Flatbush | undefined;

  constructor(private readonly strokes: readonly S[]) {
    if (strokes.length === 0) return;
    const tree = new Flatbush(strokes.length);
    for (const { spine } of strokes) {
      const { box } = hullsOf(spine);
      if (isEmptyBox(box)) tree.add(0, 0, 0, 0);
      else tree.add(box.minX, box.minY, box.maxX, box.maxY);
    }
    tree.finish();
    this.tree = tree;
  }

  /** Lines whose ink may lie in a box, page px. */
  within({ minX, minY, maxX, maxY }: Box): S[] {
    return this.numbers(minX, minY, maxX, maxY).map((k) => this.strokes[k]);
  }

  /** Numbers of lines whose ink may come within `gap` of another line's, that one left in. */
  numbersNear({ spine }: Stroke, gap: number): number[] {
    const { box } = hullsOf(spine);
    return this.numbers(box.minX - gap, box.minY - gap, box.maxX + gap, box.maxY + gap);
  }

  private numbers(minX: number, minY: number, maxX: number, maxY: number): number[] {
    return this.tree?.search(minX, minY, maxX, maxY) ?? [];
  }

  near(stroke: S, gap: number): S[] {
    return this.numbersNear(stroke, gap).map((k) => this.strokes[k]);
  }
}

/**
 * All crossings of the middles of lines, each once, `a` ≤ `b`, in the order of `a`, then of the place on it. Lines that
 * lie on each other do not cross there, nor do lines that touch without passing through.
 */
export function crossings(strokes: readonly Stroke[]): Crossing[] {
  const index = new InkIndex(strokes);
  const found: Crossing[] = [];
  strokes.forEach((stroke, a) => {
    const own: Crossing[] = ownCrossings(stroke.spine).map((places) => crossingAt(strokes, a, places.a, a, places.b));
    for (const b of index.numbersNear(stroke, 0)) if (b > a) own.push(...crossingsOfTwo(strokes, a, b));
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
  eachNearPair(p, q, 0, (i, j) => {
    const cross = legCrossing(p.course.line, STRIDE * i, q.course.line, STRIDE * j);
    if (!cross) return;
    const exact = exactCrossing(strokes[a].spine, p.course, i, strokes[b].spine, q.course, j, cross);
    // A crossing at the joint of two legs is found on both.
    if (exact && !found.some(({ atA, atB }) => Math.abs(atA - exact.a) < 1e-6 && Math.abs(atB - exact.b) < 1e-6))
      found.push(crossingAt(strokes, a, exact.a, b, exact.b));
  });
  return found;
}
