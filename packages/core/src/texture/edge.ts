import { nearestShare, pointToLeg, windingOf, type Point } from '../math';
import type { FeatherEdge } from './feather';
import { WayAlong } from './wayAlong';

/** Page px between two places of a part. */
const STEP = 2;
/** Page px along a ring within which a hand is looked for that goes on from where it was. */
const WINDOW = 400;
/** Page px to either side of a ring at which it is asked whether there is ink, and of a leg that tells. */
const BESIDE = 0.05;
const TELLING = 0.2;

/** Where a hand is along an edge, page px, and the share of their length that rows have there. */
export interface EdgePlace {
  readonly at: number;
  readonly reach: number;
}

/** The edge of something black along which a hand goes: a closed ring, and the side on which the paper lies. */
export class InkEdge {
  private readonly way: WayAlong;
  private readonly side: 1 | -1;

  /** `rings`: all of the thing, x, y pairs, filled by the non-zero rule; `ring` is one of them. */
  constructor(ring: Float64Array, rings: readonly Float64Array[]) {
    this.way = new WayAlong(ring, true);
    this.side = paperSide(this.way, rings);
  }

  /** The length along the edge at which it comes nearest to a place; `near` is where the hand was before. */
  nearest({ x, y }: Point, near?: number): number {
    const { length } = this.way;
    let [best, found] = [Infinity, near ?? 0];
    for (const { from, to, at } of this.way.legs()) {
      const share = nearestShare(x, y, from.x, from.y, to.x, to.y);
      const along = at + share * Math.hypot(to.x - from.x, to.y - from.y);
      const unrolled = near === undefined ? along : along + length * Math.round((near - along) / length);
      if (near !== undefined && Math.abs(unrolled - near) > Math.min(WINDOW, length / 3)) continue;
      const away = pointToLeg(x, y, from.x, from.y, to.x, to.y);
      if (away < best) [best, found] = [away, unrolled];
    }
    return found;
  }

  /** The stretch that a hand went along; nothing where it did not move. */
  stretch(places: readonly EdgePlace[]): FeatherEdge | undefined {
    const { way, side } = this;
    const known = [...places].sort((a, b) => a.at - b.at);
    const [first, last] = [known[0], known[known.length - 1]];
    if (!first || last.at - first.at < STEP) return undefined;
    // Once round is all round.
    const to = Math.min(last.at, first.at + way.length);
    const count = Math.ceil((to - first.at) / STEP) + 1;
    const course = new Float64Array(2 * count);
    const reach = new Float64Array(count);
    for (let k = 0, n = 0; k < count; k++) {
      const at = first.at + ((to - first.at) * k) / (count - 1);
      while (n + 2 < known.length && known[n + 1].at < at) n++;
      const [a, b] = [known[n], known[n + 1]];
      const share = b.at > a.at ? Math.min(1, (at - a.at) / (b.at - a.at)) : 0;
      const { x, y } = way.place(at);
      course[2 * k] = x;
      course[2 * k + 1] = y;
      reach[k] = a.reach + share * (b.reach - a.reach);
    }
    return { course, reach, side };
  }
}

/** On which side of a ring the paper lies: 1 to the right of its way (y down), −1 to the left. */
function paperSide(way: WayAlong, rings: readonly Float64Array[]): 1 | -1 {
  for (const { from, to } of way.legs()) {
    const [dx, dy] = [to.x - from.x, to.y - from.y];
    const length = Math.hypot(dx, dy);
    if (length < TELLING) continue;
    const isInkAt = (side: number) => {
      const off = (side * BESIDE) / length;
      const at = { x: (from.x + to.x) / 2 - off * dy, y: (from.y + to.y) / 2 + off * dx };
      return rings.reduce((winding, one) => winding + windingOf(one, at), 0) !== 0;
    };
    if (isInkAt(1) !== isInkAt(-1)) return isInkAt(1) ? -1 : 1;
  }
  return 1;
}
