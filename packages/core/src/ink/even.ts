import { clamp } from '../math';
import type { HandCalmer } from './handCalmer';

const AXES = 3;
/**
 * Legs that the edges of a window weigh more: half of one makes it the mean of evenly spaced samples, and a tremor makes the
 * way a little longer than the line that is meant (docs/calm.md: within 5 % of that mean's tremor from 40 ms of lag on).
 */
const EDGE = 0.67;
/** Windows that reach less than this, page px, average nothing that could be seen, and would drown in rounding. */
const LEAST_WINDOW = 0.25;
/** Screen px from which windows are wide enough to tell a corner from a tremor. */
const LEAST_CORNER_REACH = 3;
/** A turn is a corner when it is at least this sharp over half a window, and not much sharper over a whole one. */
const CORNER = (50 * Math.PI) / 180;
const CORNER_SHARE = 0.75;
/** Squared cosine of a turn of the raw way below which no corner is looked for. */
const SUSPECT = Math.cos((35 * Math.PI) / 180) ** 2;

export interface EvenOptions {
  /** Page px averaged on either side for the place and for the weight; 0 leaves it as it is. */
  readonly reach: number;
  readonly weightReach: number;
  /** Page px per screen px. */
  readonly seen: number;
  /** Whether the line ends where it has got to, and is not drawn on to the pen. */
  readonly stops: boolean;
}

/**
 * *Even*: a distance-weighted moving average. Every point becomes the mean of the course over equal lengths before and
 * behind it (its edges weigh a little more, so that of evenly spaced samples it is about their plain mean), so that it goes by the way and not by how fast the hand was. Windows end at corners and at the ends of the
 * line: there the line goes where the hand went, and keeps its corners.
 *
 * The mean needs no sum over the window: it is the difference of the course's integral at both ends of the window. The
 * integral grows as the hand goes on.
 */
export class EvenCalmer implements HandCalmer {
  /** The raw points, triples x, y, weight. */
  private raw: Float64Array;
  private calm: Float64Array;
  /** The integral of the raw course over the length of the way, up to each point. */
  private sums: Float64Array;
  private lengths: Float64Array;
  private count = 0;
  private steady = 0;
  /** Lengths of the way at which it turns a corner, rising. */
  private readonly corners: number[] = [];
  /** The next point to judge, and the sharpest of the corner that is being passed. */
  private judged = 1;
  /** Points at the edges of the window in which corners are looked for. */
  private before = 0;
  private after = 0;
  private sharpest: { readonly length: number; readonly turn: number } | undefined;
  private readonly isCalming: boolean;
  private readonly keepsCorners: boolean;

  constructor(
    private readonly options: EvenOptions,
    expected = 256,
  ) {
    const { reach, weightReach, seen } = options;
    this.isCalming = reach > 0 || weightReach > 0;
    this.keepsCorners = reach >= LEAST_CORNER_REACH * seen;
    // One piece of memory for all: many small typed arrays cost more to make than to fill.
    const room = new Float64Array(expected * (1 + (this.isCalming ? 3 : 1) * AXES));
    const part = (at: number, columns: number) => room.subarray(at * expected, (at + columns) * expected);
    this.lengths = part(0, 1);
    this.raw = part(1, AXES);
    this.calm = this.isCalming ? part(4, AXES) : this.raw;
    this.sums = this.isCalming ? part(7, AXES) : this.raw;
  }

  get length(): number {
    return this.count > 0 ? this.lengths[this.count - 1] : 0;
  }

  get sureLength(): number {
    return this.length;
  }

  get points(): Float64Array {
    return this.calm;
  }

  get size(): number {
    return this.count;
  }

  lengthAt(index: number): number {
    return this.lengths[index];
  }

  add(x: number, y: number, weight: number): void {
    const k = this.count++;
    if (k === this.lengths.length) this.grow();
    const { raw } = this;
    const i = k * AXES;
    raw[i] = x;
    raw[i + 1] = y;
    raw[i + 2] = weight;
    if (k === 0) return;
    const dx = x - raw[i - 3];
    const dy = y - raw[i - 2];
    const leg = Math.sqrt(dx * dx + dy * dy);
    this.lengths[k] = this.lengths[k - 1] + leg;
    if (this.isCalming) this.integrate(i, leg / 2);
  }

  update(): void {
    if (!this.isCalming || this.count === 0) return;
    if (this.keepsCorners) this.findCorners();
    this.average();
    const { reach, weightReach } = this.options;
    this.steady = this.firstBeyond(
      Math.min(this.cornersKnownTo() - reach, this.length - Math.max(reach, weightReach)),
      this.steady,
    );
  }

  settled(margin: number, from: number): number {
    const settled = this.isCalming ? this.steady : this.count;
    return margin > 0 ? Math.min(settled, this.firstBeyond(this.length - margin, from)) : settled;
  }

  /** The first point, from `index` on, that lies beyond a length of the way; a hair's breadth keeps rounding out of it. */
  private firstBeyond(length: number, index: number): number {
    const edge = length - 1e-6;
    let k = index;
    while (k < this.count && this.lengths[k] <= edge) k++;
    return k;
  }

  /** The integral up to triple `i`, exact for the polyline; measured from the first point, so that it stays small. */
  private integrate(i: number, half: number): void {
    const { raw, sums } = this;
    const h = i - AXES;
    sums[i] = sums[h] + half * (raw[h] + raw[i] - 2 * raw[0]);
    sums[i + 1] = sums[h + 1] + half * (raw[h + 1] + raw[i + 1] - 2 * raw[1]);
    sums[i + 2] = sums[h + 2] + half * (raw[h + 2] + raw[i + 2] - 2 * raw[2]);
  }

  /**
   * Both edges of the window only move forward, so the legs they lie on are followed, not searched. Written out for x, y and
   * weight: this is the innermost loop of drawing.
   */
  // eslint-disable-next-line max-lines-per-function -- one loop over plain numbers; parts of it would pass a dozen of them
  private average(): void {
    const { lengths, count, raw, sums, calm, steady } = this;
    const { reach: full, weightReach, stops } = this.options;
    const total = this.length;
    const x0 = raw[0];
    const y0 = raw[1];
    const w0 = raw[2];
    const last = Math.max(0, count - 2);
    const isShared = weightReach === full;
    let low = steady;
    let high = steady;
    let corner = 0;
    let before = 0;
    let next = this.cornerLength(0);
    for (let k = steady, at = steady * AXES; k < count; k++, at += AXES) {
      const here = lengths[k];
      while (next < here) {
        before = next;
        next = this.cornerLength(++corner);
      }
      const left = total - here;
      let back = here - before < full ? here - before : full;
      let ahead = left < full ? left : full;
      if (next - here < ahead) ahead = next - here;
      // A window is even on both sides; only a line that stops short lets it lean back at its end.
      if (ahead < back && !(stops && ahead === left)) back = ahead;
      if (back < ahead) ahead = back;
      // Weights flow on around corners.
      const isOwn = isShared && ahead === back && (back === full || back === here || back === left);
      if (!isOwn) calm[at + 2] = this.weightAt(k, Math.min(weightReach, here, left), low, high);
      if (back < LEAST_WINDOW) {
        calm[at] = raw[at];
        calm[at + 1] = raw[at + 1];
        if (isOwn) calm[at + 2] = raw[at + 2];
        continue;
      }
      const begin = here - back;
      const end = here + ahead;
      while (low > 0 && lengths[low] > begin) low--;
      while (low < last && lengths[low + 1] <= begin) low++;
      while (high > 0 && lengths[high] > end) high--;
      while (high < last && lengths[high + 1] < end) high++;
      const i = low * AXES;
      const j = high * AXES;
      // On a leg the course is straight and its integral a parabola.
      const a = begin - lengths[low];
      const b = end - lengths[high];
      const legBefore = lengths[low + 1] - lengths[low];
      const legAfter = lengths[high + 1] - lengths[high];
      const edge = EDGE * (legBefore < legAfter ? legBefore : legAfter);
      const share = 1 / (end - begin + 2 * edge);
      const u = legBefore > 0 ? a / legBefore : 0;
      const v = legAfter > 0 ? b / legAfter : 0;
      const ax = u * (raw[i + 3] - raw[i]);
      const ay = u * (raw[i + 4] - raw[i + 1]);
      const bx = v * (raw[j + 3] - raw[j]);
      const by = v * (raw[j + 4] - raw[j + 1]);
      const ix = raw[i] - x0;
      const iy = raw[i + 1] - y0;
      const jx = raw[j] - x0;
      const jy = raw[j + 1] - y0;
      const sumX = sums[j] + b * (jx + bx / 2) - sums[i] - a * (ix + ax / 2);
      const sumY = sums[j + 1] + b * (jy + by / 2) - sums[i + 1] - a * (iy + ay / 2);
      calm[at] = x0 + (sumX + edge * (ix + ax + jx + bx)) * share;
      calm[at + 1] = y0 + (sumY + edge * (iy + ay + jy + by)) * share;
      if (!isOwn) continue;
      const aw = u * (raw[i + 5] - raw[i + 2]);
      const bw = v * (raw[j + 5] - raw[j + 2]);
      const iw = raw[i + 2] - w0;
      const jw = raw[j + 2] - w0;
      const sumW = sums[j + 2] + b * (jw + bw / 2) - sums[i + 2] - a * (iw + aw / 2);
      calm[at + 2] = w0 + (sumW + edge * (iw + aw + jw + bw)) * share;
    }
  }

  /** The mean weight about a point over `reach` page px on either side; legs `low` and `high` are near its edges. */
  private weightAt(k: number, reach: number, low: number, high: number): number {
    const { raw, lengths } = this;
    if (reach < LEAST_WINDOW) return raw[k * AXES + 2];
    const begin = lengths[k] - reach;
    const end = lengths[k] + reach;
    const first = this.legAt(begin, low);
    const final = this.legAt(end, high);
    const edge = EDGE * Math.min(lengths[first + 1] - lengths[first], lengths[final + 1] - lengths[final]);
    const sum = this.sumAt(2, end, final) - this.sumAt(2, begin, first);
    const edges = this.valueAt(2, begin, first) + this.valueAt(2, end, final) - 2 * raw[2];
    return raw[2] + (sum + edge * edges) / (2 * (reach + edge));
  }

  /** The length of the way at a corner: of one that is known, then of the one that is being passed. */
  private cornerLength(n: number): number {
    const { corners, sharpest } = this;
    if (n < corners.length) return corners[n];
    return n === corners.length && sharpest ? sharpest.length : Infinity;
  }

  /** The leg on which a length of the way lies, sought from leg `hint` on. */
  private legAt(length: number, hint: number): number {
    const { lengths } = this;
    const last = Math.max(0, this.count - 2);
    let leg = Math.min(hint, last);
    while (leg > 0 && lengths[leg] > length) leg--;
    while (leg < last && lengths[leg + 1] <= length) leg++;
    return leg;
  }

  /** The integral of an axis, measured from the first point, up to a length of the way on `leg`. */
  private sumAt(axis: number, length: number, leg: number): number {
    const { raw, sums, lengths } = this;
    const i = leg * AXES + axis;
    const a = length - lengths[leg];
    const whole = lengths[leg + 1] - lengths[leg];
    return sums[i] + a * (raw[i] - raw[axis]) + (whole > 0 ? ((a * a) / (2 * whole)) * (raw[i + AXES] - raw[i]) : 0);
  }

  // Corners.

  /** No corner before this length is still unknown. */
  private cornersKnownTo(): number {
    if (!this.keepsCorners) return Infinity;
    const passed = this.lengths[this.judged - 1] - this.options.reach / 2;
    return this.sharpest ? Math.min(passed, this.sharpest.length) : passed;
  }

  /** Judges the points that by now have a whole window on either side; of neighbours the sharpest is the corner. */
  private findCorners(): void {
    const { lengths, count, corners } = this;
    const { reach } = this.options;
    for (; this.judged < count && lengths[this.judged] + reach <= this.length; this.judged++) {
      const here = lengths[this.judged];
      if (this.sharpest && here - this.sharpest.length > reach / 2) {
        corners.push(this.sharpest.length);
        this.sharpest = undefined;
      }
      const last = corners.at(-1) ?? 0;
      if (here - last < reach / 2) continue;
      const turn = this.cornerAt(this.judged, Math.min(reach, here - last));
      if (turn > (this.sharpest?.turn ?? 0)) this.sharpest = { length: here, turn };
    }
  }

  /** The turn of the way at a point, radians, where it is a corner; 0 where it is a bend or none. */
  private cornerAt(k: number, reach: number): number {
    const { lengths, raw } = this;
    const here = lengths[k];
    const i = k * AXES;
    let { before, after } = this;
    while (before < k && lengths[before + 1] <= here - reach) before++;
    if (after < k) after = k;
    while (after < this.count - 1 && lengths[after] < here + reach) after++;
    this.before = before;
    this.after = after;
    // A first look goes by the samples themselves.
    const ux = raw[i] - raw[before * AXES];
    const uy = raw[i + 1] - raw[before * AXES + 1];
    const vx = raw[after * AXES] - raw[i];
    const vy = raw[after * AXES + 1] - raw[i + 1];
    const along = ux * vx + uy * vy;
    if (along > 0 && along * along > SUSPECT * (ux * ux + uy * uy) * (vx * vx + vy * vy)) return 0;
    const sharp = this.turnOver(k, reach / 2);
    if (sharp < CORNER) return 0;
    return sharp >= CORNER_SHARE * this.turnOver(k, reach) ? sharp : 0;
  }

  /** The raw way in an axis at a length of it on `leg`. */
  private valueAt(axis: number, length: number, leg: number): number {
    const { raw, lengths } = this;
    const i = leg * AXES + axis;
    const whole = lengths[leg + 1] - lengths[leg];
    return whole > 0 ? raw[i] + ((length - lengths[leg]) / whole) * (raw[i + AXES] - raw[i]) : raw[i];
  }

  /** How far the way turns at a point, between its means over quarters of the window: a tremor averages out of them. */
  private turnOver(k: number, reach: number): number {
    const here = this.lengths[k];
    const edges = [-1, -0.5, 0, 0.5, 1].map((share) => here + share * reach);
    const legs = edges.map((edge) => this.legAt(edge, k));
    const axis = (n: 0 | 1) => {
      const sums = edges.map((edge, m) => this.sumAt(n, edge, legs[m]));
      const means = [0, 1, 2, 3].map((m) => sums[m + 1] - sums[m]);
      return [means[1] - means[0], means[3] - means[2]];
    };
    const [ux, vx] = axis(0);
    const [uy, vy] = axis(1);
    const lengths = Math.hypot(ux, uy) * Math.hypot(vx, vy);
    return lengths > 0 ? Math.acos(clamp((ux * vx + uy * vy) / lengths, -1, 1)) : 0;
  }

  private grow(): void {
    this.lengths = twiceAsLong(this.lengths);
    this.raw = twiceAsLong(this.raw);
    this.calm = this.isCalming ? twiceAsLong(this.calm) : this.raw;
    this.sums = this.isCalming ? twiceAsLong(this.sums) : this.raw;
  }
}

function twiceAsLong(old: Float64Array): Float64Array {
  const longer = new Float64Array(old.length * 2);
  longer.set(old);
  return longer;
}
