import { nearestShare, type Point } from '@true-nib/core/math';
import type { FeatherEdge } from '@true-nib/core/texture';

/** Page px between two places of a part. */
const STEP = 2;
/** Page px along a ring within which a hand is looked for that goes on from where it was. */
const WINDOW = 400;

/** A closed ring of x, y pairs by the length along it, page px; it is gone round as often as a hand does. */
export class RingWay {
  private readonly along: Float64Array;
  readonly length: number;

  constructor(private readonly ring: Float64Array) {
    const count = ring.length / 2;
    this.along = new Float64Array(count + 1);
    for (let k = 0; k < count; k++) {
      const next = (k + 1) % count;
      this.along[k + 1] =
        this.along[k] + Math.hypot(ring[2 * next] - ring[2 * k], ring[2 * next + 1] - ring[2 * k + 1]);
    }
    this.length = this.along[count];
  }

  /** The length along the ring at which it comes nearest to a place; `near` is where the hand was before. */
  nearest({ x, y }: Point, near?: number): number {
    const { ring, along, length } = this;
    const count = ring.length / 2;
    let [best, found] = [Infinity, near ?? 0];
    for (let k = 0; k < count; k++) {
      const next = (k + 1) % count;
      const [ax, ay, bx, by] = [ring[2 * k], ring[2 * k + 1], ring[2 * next], ring[2 * next + 1]];
      const share = nearestShare(x, y, ax, ay, bx, by);
      const at = along[k] + share * (along[k + 1] - along[k]);
      const unrolled = near === undefined ? at : at + length * Math.round((near - at) / length);
      if (near !== undefined && Math.abs(unrolled - near) > Math.min(WINDOW, length / 3)) continue;
      const away = Math.hypot(ax + share * (bx - ax) - x, ay + share * (by - ay) - y);
      if (away < best) [best, found] = [away, unrolled];
    }
    return found;
  }

  place(at: number): Point {
    const { ring, along, length } = this;
    const inside = ((at % length) + length) % length;
    let [low, high] = [0, along.length - 1];
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (along[middle] <= inside) low = middle;
      else high = middle;
    }
    const next = (low + 1) % (ring.length / 2);
    const own = along[low + 1] - along[low];
    const share = own > 0 ? (inside - along[low]) / own : 0;
    return {
      x: ring[2 * low] + share * (ring[2 * next] - ring[2 * low]),
      y: ring[2 * low + 1] + share * (ring[2 * next + 1] - ring[2 * low + 1]),
    };
  }

  /** The part of the ring that a hand went along, with its reach at each place; nothing where it did not move. */
  part(places: readonly { readonly at: number; readonly reach: number }[]): Omit<FeatherEdge, 'side'> | undefined {
    const known = [...places].sort((a, b) => a.at - b.at);
    const [first, last] = [known[0], known[known.length - 1]];
    if (!first || last.at - first.at < STEP) return undefined;
    // Once round is all round.
    const to = Math.min(last.at, first.at + this.length);
    const count = Math.ceil((to - first.at) / STEP) + 1;
    const course = new Float64Array(2 * count);
    const reach = new Float64Array(count);
    for (let k = 0, n = 0; k < count; k++) {
      const at = first.at + ((to - first.at) * k) / (count - 1);
      while (n + 2 < known.length && known[n + 1].at < at) n++;
      const [a, b] = [known[n], known[n + 1]];
      const share = b.at > a.at ? Math.min(1, (at - a.at) / (b.at - a.at)) : 0;
      const { x, y } = this.place(at);
      course[2 * k] = x;
      course[2 * k + 1] = y;
      reach[k] = a.reach + share * (b.reach - a.reach);
    }
    return { course, reach };
  }
}
