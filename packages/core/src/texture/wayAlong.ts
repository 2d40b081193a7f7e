import { clamp, type Point } from '../math';

/** A polyline of x, y pairs by the length along it, page px; a closed one is gone round as often as one likes. */
export class WayAlong {
  private readonly along: Float64Array;
  /** Places, the first of a closed one counted twice. */
  private readonly count: number;

  constructor(
    readonly course: ArrayLike<number>,
    readonly closed = false,
  ) {
    this.count = course.length / 2 + (closed ? 1 : 0);
    this.along = new Float64Array(Math.max(1, this.count));
    for (let k = 1; k < this.count; k++) {
      const [a, b] = [this.corner(k - 1), this.corner(k)];
      this.along[k] = this.along[k - 1] + Math.hypot(b.x - a.x, b.y - a.y);
    }
  }

  get length(): number {
    return this.along[this.along.length - 1];
  }

  /** Its legs, each with the length along the way at which it begins. */
  *legs(): Generator<{ readonly from: Point; readonly to: Point; readonly at: number }> {
    for (let k = 1; k < this.count; k++) yield { from: this.corner(k - 1), to: this.corner(k), at: this.along[k - 1] };
  }

  place(at: number): Point {
    const [k, t] = this.leg(at);
    const [a, b] = [this.corner(k), this.corner(k + 1)];
    return { x: a.x + t * (b.x - a.x), y: a.y + t * (b.y - a.y) };
  }

  /** A value for each place of the course, between them. */
  valueAt(values: ArrayLike<number>, at: number): number {
    const [k, t] = this.leg(at);
    return values[k] + t * (values[k + 1] - values[k]);
  }

  /** Where the way goes about a place, radians, seen over `half` to either side. */
  heading(at: number, half: number): number {
    const [a, b] = [this.place(at - half), this.place(at + half)];
    return Math.atan2(b.y - a.y, b.x - a.x);
  }

  /** By how much the way turns about a place, radians per px; above 0 to the right (y down). */
  turning(at: number, half: number): number {
    const turn = this.heading(at + half / 2, half / 2) - this.heading(at - half / 2, half / 2);
    return (turn - 2 * Math.PI * Math.round(turn / (2 * Math.PI))) / half;
  }

  private corner(k: number): Point {
    const i = (2 * k) % this.course.length;
    return { x: this.course[i], y: this.course[i + 1] };
  }

  /** The leg in which a length along the way lies, and the share of it. */
  private leg(at: number): readonly [number, number] {
    const { along, length } = this;
    const inside = this.closed ? ((at % length) + length) % length : clamp(at, 0, length);
    let [low, high] = [0, along.length - 1];
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (along[middle] <= inside) low = middle;
      else high = middle;
    }
    const own = along[low + 1] - along[low];
    return [low, own > 0 ? (inside - along[low]) / own : 0];
  }
}
