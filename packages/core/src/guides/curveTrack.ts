import {
  cubicSlope,
  nearestOnCubic,
  pointAt,
  SEGMENT,
  segmentLengths,
  STRIDE,
  type CurvePath,
  type Spine,
  type SpinePlace,
} from '../curve';
import { clamp, distance, type Point } from '../math';
import { unitVector, unwrapped, type Track } from './track';

/** Probes per cubic when the nearest place of a curve is looked for. */
const PROBES = 8;

/** A part of one cubic, between two of its parameters. */
interface Part {
  readonly segment: number;
  readonly from: number;
  readonly to: number;
}

interface Near {
  readonly measure: number;
  readonly distance: number;
}

/** The track of a curve: its measure is the length of its cubics, one after the other. */
export class CurveTrack implements Track {
  readonly period: number;
  readonly from: number;
  readonly to: number;
  private readonly course: Spine;
  private readonly lengths: readonly number[];
  /** The measure at which each cubic starts, and that of the end. */
  private readonly starts: readonly number[];
  private readonly whole: number;

  constructor({ course }: CurvePath) {
    this.course = course;
    this.lengths = segmentLengths(course).map((length) => Math.max(length, 1e-9));
    const starts = [0];
    for (const length of this.lengths) starts.push(starts[starts.length - 1] + length);
    this.starts = starts;
    this.whole = starts[this.lengths.length];
    this.period = course.closed ? this.whole : 0;
    this.from = course.closed ? -Infinity : 0;
    this.to = course.closed ? Infinity : this.whole;
  }

  place(measure: number): Point {
    return pointAt(this.course, this.at(measure));
  }

  direction(measure: number): Point {
    const { segment, t } = this.at(measure);
    return directionOn(this.course.points, segment * SEGMENT, t);
  }

  nearest(p: Point, near?: number, window = Infinity): number {
    const { points } = this.course;
    let best: Near = { measure: 0, distance: Infinity };
    for (const part of this.partsNear(near, window)) {
      if (best.distance <= hullDistance(points, part.segment * SEGMENT, p)) continue;
      const found = this.nearestOn(part, p);
      if (found.distance < best.distance) best = found;
    }
    return this.period > 0 ? unwrapped(best.measure, this.period, near) : best.measure;
  }

  breaks(from: number, to: number): number[] {
    const { period, starts } = this;
    const found: number[] = [];
    const round = period > 0 ? Math.floor(from / period) : 0;
    for (let turn = round; turn === round || (period > 0 && turn * period < to); turn++)
      for (const start of starts) {
        const measure = start + turn * period;
        if (measure > from + 1e-9 && measure < to - 1e-9 && measure > (found.at(-1) ?? -Infinity) + 1e-9)
          found.push(measure);
      }
    return found;
  }

  cubic(from: number, to: number): Float64Array {
    const { period, starts, lengths } = this;
    // The middle tells the cubic that both ends are on, also where one of them is its very end.
    const middle = (from + to) / 2;
    const { segment } = this.at(middle);
    const turns = period > 0 ? period * Math.floor(middle / period) : 0;
    const t = (measure: number) => clamp((measure - turns - starts[segment]) / lengths[segment], 0, 1);
    return subCubic(this.course.points, segment * SEGMENT, t(from), t(to));
  }

  private wrap(at: number): number {
    return this.course.closed ? at - this.whole * Math.floor(at / this.whole) : clamp(at, 0, this.whole);
  }

  private segmentAt(at: number): number {
    let [low, high] = [0, this.lengths.length - 1];
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (this.starts[middle] <= at) low = middle;
      else high = middle - 1;
    }
    return low;
  }

  private at(measure: number): SpinePlace {
    const own = this.wrap(measure);
    const segment = this.segmentAt(own);
    return { segment, t: clamp((own - this.starts[segment]) / this.lengths[segment], 0, 1) };
  }

  private nearestOn({ segment, from, to }: Part, p: Point): Near {
    const away = (t: number) => distance(pointAt(this.course, { segment, t }), p);
    const step = (to - from) / PROBES;
    let best = { t: from, distance: Infinity };
    for (let k = 0; k <= PROBES; k++) {
      const t = from + k * step;
      const found = away(t);
      if (found < best.distance) best = { t, distance: found };
    }
    const t = clamp(nearestOnCubic(this.course.points, segment * SEGMENT, p, best.t, step), from, to);
    const found = away(t);
    if (found <= best.distance) best = { t, distance: found };
    return { measure: this.starts[segment] + best.t * this.lengths[segment], distance: best.distance };
  }

  /** The parts of the cubics whose measures lie within `window` of `near`, in the order of the measure. */
  private *partsNear(near: number | undefined, window: number): Generator<Part> {
    const { starts, lengths, period, whole } = this;
    if (near === undefined || (period > 0 && 2 * window >= whole)) {
      for (let segment = 0; segment < lengths.length; segment++) yield { segment, from: 0, to: 1 };
      return;
    }
    let rest = 2 * window;
    let start = this.wrap(near - window);
    if (period === 0) rest = this.wrap(near + window) - start;
    for (let segment = this.segmentAt(start); ; segment = (segment + 1) % lengths.length) {
      const from = clamp((start - starts[segment]) / lengths[segment], 0, 1);
      const to = Math.min(1, from + rest / lengths[segment]);
      yield { segment, from, to };
      rest -= (to - from) * lengths[segment];
      if (to < 1 || rest <= 1e-9) return;
      start = starts[(segment + 1) % lengths.length];
    }
  }
}

function hullDistance(q: Float64Array, i: number, p: Point): number {
  const beyond = (a: number, b: number, c: number, d: number, at: number) =>
    Math.max(Math.min(a, b, c, d) - at, at - Math.max(a, b, c, d), 0);
  return Math.hypot(
    beyond(q[i], q[i + 3], q[i + 6], q[i + 9], p.x),
    beyond(q[i + 1], q[i + 4], q[i + 7], q[i + 10], p.y),
  );
}

/** The direction of a cubic; where a handle lies on its node, of what is near by. */
function directionOn(q: Float64Array, i: number, t: number): Point {
  for (const near of [t, Math.min(1, t + 1e-3), Math.max(0, t - 1e-3)]) {
    const x = cubicSlope(q[i], q[i + 3], q[i + 6], q[i + 9], near);
    const y = cubicSlope(q[i + 1], q[i + 4], q[i + 7], q[i + 10], near);
    if (Math.hypot(x, y) > 1e-9) return unitVector({ x, y });
  }
  return unitVector({ x: q[i + 9] - q[i], y: q[i + 10] - q[i + 1] });
}

/** Control points x, y of the part of a cubic between two parameters, by its polar form (blossom; Ramshaw 1989). */
function subCubic(q: ArrayLike<number>, i: number, from: number, to: number): Float64Array {
  const out = new Float64Array(8);
  for (let axis = 0; axis < 2; axis++) {
    const at = (k: number) => q[i + k * STRIDE + axis];
    const polar = (r: number, s: number, t: number) => {
      const step = (a: number, b: number, u: number) => a + (b - a) * u;
      const [a, b, c] = [step(at(0), at(1), r), step(at(1), at(2), r), step(at(2), at(3), r)];
      return step(step(a, b, s), step(b, c, s), t);
    };
    out[axis] = polar(from, from, from);
    out[2 + axis] = polar(from, from, to);
    out[4 + axis] = polar(from, to, to);
    out[6 + axis] = polar(to, to, to);
  }
  return out;
}
