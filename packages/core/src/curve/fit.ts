import { CubicFitter, type CubicFit, type Direction, type Handles } from './cubicFit';
import { makeSpine, SEGMENT, STRIDE, type Spine } from './spine';

/** Points that the first cubic of all is tried with; later ones start from the length of the one before. */
const FIRST_REACH = 12;
const MOST_TRIES = 5;
/** Cosine of the turn from which a point is a corner: 60°. */
const CORNER_COSINE = 0.5;
const CORNER_COSINE_SQUARED = CORNER_COSINE * CORNER_COSINE;

/** Where the fitter stands between two nodes; all that a preview must give back. */
interface Standing {
  readonly node: number;
  readonly tangent: Direction | undefined;
  /** The point to try next as the cubic's end, and how often one was tried. */
  readonly next: number;
  readonly tries: number;
  /** The farthest point known to fit, and the nearest known not to. */
  readonly good: { readonly last: number; readonly handles: Handles } | undefined;
  readonly bad: number;
  readonly written: number;
}

const AT_START: Standing = {
  node: 0,
  tangent: undefined,
  next: FIRST_REACH,
  tries: 0,
  good: undefined,
  bad: Infinity,
  written: 0,
};

/**
 * Fits a spine to points that are still arriving: every cubic reaches as far as the tolerance allows; smooth ones meet in
 * a common tangent and widen alike on both sides, so that the edges of the line have no kink; corners are kept. A cubic is
 * laid down only when the points that decide it can no longer change, so adding points one by one and adding them all at
 * once give the same spine, number for number.
 */
export class SpineFitter {
  private track: Float64Array;
  private lengths: Float64Array;
  private count = 0;
  private readonly cubics = new CubicFitter();
  private readonly one = new Float64Array(STRIDE);
  private nodes: Float64Array = new Float64Array(SEGMENT * 32);
  private standing = AT_START;
  /** Points before this one are known to be no corners. */
  private smooth = 1;
  /** Page px over which a tangent or a corner is judged. */
  private readonly reach: number;

  /** `expected`: how many points to make room for. */
  constructor(
    private readonly tolerance: number,
    expected = 256,
  ) {
    if (!(tolerance > 0)) throw new RangeError(`A tolerance is a length above 0; ${tolerance} came.`);
    this.reach = 6 * tolerance;
    // One piece of memory for both: typed arrays cost more to make than to fill.
    const room = new Float64Array((STRIDE + 1) * expected);
    this.track = room.subarray(0, STRIDE * expected);
    this.lengths = room.subarray(STRIDE * expected);
  }

  /** Numbers of `settled()` that will not change any more. */
  get settledLength(): number {
    return this.standing.written;
  }

  /** Adds a point, in page px. A point on the spot of the last one only raises its width. */
  add(x: number, y: number, width: number): void {
    this.append(x, y, width);
    this.advance(false);
  }

  /** Adds triples of points: the same as adding them one by one, and faster. */
  addAll(points: Float64Array, to = points.length): void {
    this.appendAll(points, 0, to);
    this.advance(false);
  }

  /** The spine of all points so far and of `further` triples that may still change. */
  preview(further: Float64Array, from = 0, to = further.length): Spine {
    const { standing, smooth, count } = this;
    const lastWidth = count > 0 ? this.track[count * STRIDE - 1] : 0;
    this.appendAll(further, from, to);
    const spine = this.finish();
    this.standing = standing;
    this.smooth = smooth;
    this.count = count;
    if (count > 0) this.track[count * STRIDE - 1] = lastWidth;
    return spine;
  }

  /** The spine of all points so far. Throws a RangeError when there are none. */
  finish(): Spine {
    if (this.count === 0) throw new RangeError('A spine needs at least one point.');
    this.writeFirstNode();
    if (this.count === 1) {
      const dot = this.track.subarray(0, STRIDE);
      const [x, y, w] = dot;
      return makeSpine(Float64Array.of(x, y, w, x, y, w, x, y, w, x, y, w));
    }
    this.advance(true);
    return makeSpine(this.nodes.slice(0, this.standing.written));
  }

  private append(x: number, y: number, width: number): void {
    this.one[0] = x;
    this.one[1] = y;
    this.one[2] = width;
    this.appendAll(this.one, 0, STRIDE);
  }

  /** A point on the spot of the last one only raises its width. */
  private appendAll(points: Float64Array, from: number, to: number): void {
    this.reserve(this.count + (to - from) / STRIDE);
    const { track, lengths } = this;
    let count = this.count;
    for (let k = from, i = count * STRIDE; k < to; k += STRIDE) {
      const x = points[k];
      const y = points[k + 1];
      const width = points[k + 2];
      if (count > 0) {
        const dx = x - track[i - 3];
        const dy = y - track[i - 2];
        const step = Math.sqrt(dx * dx + dy * dy);
        if (step < 1e-9) {
          if (width > track[i - 1]) track[i - 1] = width;
          continue;
        }
        lengths[count] = lengths[count - 1] + step;
      } else lengths[0] = 0;
      track[i] = x;
      track[i + 1] = y;
      track[i + 2] = width;
      i += STRIDE;
      count++;
    }
    this.count = count;
  }

  private reserve(count: number): void {
    while (count > this.lengths.length) {
      this.track = grown(this.track);
      this.lengths = grown(this.lengths);
    }
  }

  private writeFirstNode(): void {
    if (this.standing.written > 0) return;
    this.nodes.set(this.track.subarray(0, STRIDE));
    this.standing = { ...this.standing, written: STRIDE };
  }

  private advance(final: boolean): void {
    const last = this.count - 1;
    while (this.standing.node < last) {
      const { node, tangent, next } = this.standing;
      if (!final && (next >= last || !this.isReady(next))) return;
      const corner = this.firstCorner(Math.min(next, last));
      const tried = corner ?? Math.min(next, last);
      const isEnd = tried === last || corner !== undefined;
      const { track, lengths, tolerance } = this;
      const end = isEnd ? undefined : this.tangent(tried);
      const fit = this.cubics.fit({ track, lengths, first: node, last: tried }, { start: tangent, end }, tolerance);
      if (fit.error > this.tolerance) this.shorten(tried, fit.error);
      else if (isEnd) this.lay(tried, fit.handles, corner !== undefined);
      else this.lengthen(tried, fit);
    }
  }

  // The error of a fitted cubic grows with about the fourth power of its length, which tells how far it can reach.

  private lengthen(tried: number, { error, handles }: CubicFit): void {
    const { node, tangent, bad, tries, written } = this.standing;
    const length = tried - node;
    const growth = Math.min(2.5, 0.97 * (this.tolerance / (error + 1e-9)) ** 0.25);
    const next = Math.min(node + Math.floor(length * growth), bad - 1);
    if (next - tried <= length / 8 || tries >= MOST_TRIES) this.lay(tried, handles, false);
    else this.standing = { node, tangent, next, tries: tries + 1, good: { last: tried, handles }, bad, written };
  }

  private shorten(tried: number, error: number): void {
    const { node, tangent, good, tries, written } = this.standing;
    const length = tried - node;
    const shrink = Math.max(0.3, Math.min(0.88, 0.95 * (this.tolerance / error) ** 0.25));
    const next = Math.max(node + 1, node + Math.floor(length * shrink));
    if (good && (next - good.last <= length / 10 || tries >= MOST_TRIES)) this.lay(good.last, good.handles, false);
    else {
      const untried = Math.max(next, (good?.last ?? node) + 1);
      this.standing = { node, tangent, next: untried, tries: tries + 1, good, bad: tried, written };
    }
  }

  private lay(last: number, handles: Handles, corner: boolean): void {
    this.writeFirstNode();
    const { written } = this.standing;
    if (written + SEGMENT > this.nodes.length) this.nodes = grown(this.nodes);
    this.nodes.set(handles, written);
    this.nodes.set(this.track.subarray(last * STRIDE, last * STRIDE + STRIDE), written + 2 * STRIDE);
    this.standing = {
      node: last,
      tangent: corner || last === this.count - 1 ? undefined : this.tangent(last),
      next: last + Math.max(4, last - this.standing.node),
      tries: 0,
      good: undefined,
      bad: Infinity,
      written: written + SEGMENT,
    };
  }

  /** Whether all that decides about a node at `index` has arrived. */
  private isReady(index: number): boolean {
    return this.lengths[this.count - 1] - this.lengths[index] > 2.5 * this.reach;
  }

  /** The first corner up to and with point `to`, if any; what was found smooth is not looked at again. */
  private firstCorner(to: number): number | undefined {
    const { track, lengths, reach, count } = this;
    const end = Math.min(to, count - 2);
    let i = Math.max(this.smooth, this.standing.node + 1);
    // The same as `turnCosine` of each point, with neighbours that only move forward.
    let a = Math.max(0, i - 1);
    while (a > 0 && lengths[i] - lengths[a] < reach) a--;
    let c = i + 1;
    for (; i <= end; i++) {
      const here = lengths[i];
      const before = here - reach;
      const behind = here + reach;
      while (a < i - 1 && lengths[a + 1] <= before) a++;
      if (c <= i) c = i + 1;
      while (c < count - 1 && lengths[c] < behind) c++;
      const p = a * STRIDE;
      const q = i * STRIDE;
      const r = c * STRIDE;
      const ux = track[q] - track[p];
      const uy = track[q + 1] - track[p + 1];
      const vx = track[r] - track[q];
      const vy = track[r + 1] - track[q + 1];
      const along = ux * vx + uy * vy;
      const isHard = along <= 0 || along * along < CORNER_COSINE_SQUARED * (ux * ux + uy * uy) * (vx * vx + vy * vy);
      if (isHard && this.isSharpest(i, this.turnCosine(i))) break;
    }
    this.smooth = i;
    return i <= end ? i : undefined;
  }

  private isSharpest(index: number, turn: number): boolean {
    for (let i = index - 1; i > 0 && this.lengths[index] - this.lengths[i] <= this.reach; i--)
      if (this.turnCosine(i) <= turn) return false;
    for (let i = index + 1; i < this.count - 1 && this.lengths[i] - this.lengths[index] <= this.reach; i++)
      if (this.turnCosine(i) < turn) return false;
    return true;
  }

  private before(index: number): number {
    let i = index - 1;
    while (i > 0 && this.lengths[index] - this.lengths[i] < this.reach) i--;
    return i * STRIDE;
  }

  private after(index: number): number {
    let i = index + 1;
    while (i < this.count - 1 && this.lengths[i] - this.lengths[index] < this.reach) i++;
    return i * STRIDE;
  }

  private turnCosine(index: number): number {
    const { track } = this;
    const a = this.before(index);
    const b = index * STRIDE;
    const c = this.after(index);
    const ux = track[b] - track[a];
    const uy = track[b + 1] - track[a + 1];
    const vx = track[c] - track[b];
    const vy = track[c + 1] - track[b + 1];
    return (ux * vx + uy * vy) / Math.sqrt((ux * ux + uy * uy) * (vx * vx + vy * vy) + 1e-30);
  }

  /** Where the course goes at an inner point, and how it widens: by its neighbourhood, each side weighed by its nearness. */
  private tangent(index: number): Direction | undefined {
    if (index <= 0 || index >= this.count - 1) return undefined;
    const { track } = this;
    const a = this.before(index);
    const b = index * STRIDE;
    const c = this.after(index);
    const before = this.lengths[index] - this.lengths[a / STRIDE];
    const after = this.lengths[c / STRIDE] - this.lengths[index];
    // The derivative at the middle of the parabola through three unevenly spaced points.
    const x = ((track[b] - track[a]) * after) / before + ((track[c] - track[b]) * before) / after;
    const y = ((track[b + 1] - track[a + 1]) * after) / before + ((track[c + 1] - track[b + 1]) * before) / after;
    const w = ((track[b + 2] - track[a + 2]) * after) / before + ((track[c + 2] - track[b + 2]) * before) / after;
    const length = Math.hypot(x, y);
    return length > 1e-12 ? { x: x / length, y: y / length, widening: w / (before + after) } : undefined;
  }
}

function grown(old: Float64Array): Float64Array {
  const larger = new Float64Array(old.length * 2);
  larger.set(old);
  return larger;
}

/** A sample to fit: page px; the width is 0 where it does not matter. */
export interface FitSample {
  readonly x: number;
  readonly y: number;
  readonly width?: number;
}

/**
 * The spine through the samples: cubics that stray at most `tolerance` page px from every sample, in course and in half
 * width; ends met exactly, corners of more than 60° kept. Throws a RangeError for no samples or numbers that are not finite.
 */
export function fitSpine(samples: readonly FitSample[], tolerance: number): Spine {
  const fitter = new SpineFitter(tolerance, Math.max(1, samples.length));
  for (const { x, y, width = 0 } of samples) {
    if (!Number.isFinite(x + y + width))
      throw new RangeError(`A sample needs finite numbers; ${x}, ${y}, ${width} came.`);
    fitter.add(x, y, width);
  }
  return fitter.finish();
}
