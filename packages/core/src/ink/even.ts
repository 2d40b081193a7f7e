import { clamp } from '../math';
import type { HandCalmer } from './handCalmer';
import { TremorWindow } from './tremorWindow';

const AXES = 3;
/** Legs that the edges of a mean weigh more, so that of evenly spaced samples it is about their own mean. */
const EDGE = 0.67;
/** Windows that reach less than this, page px, average nothing that could be seen, and would drown in rounding. */
const LEAST_WINDOW = 0.25;
/** Screen px from which windows are wide enough to tell a corner from a tremor. */
const LEAST_CORNER_REACH = 3;
/** Screen px by which a corner stands out from the way past it, at least. */
const LEAST_CORNER = 5.5;
/** A turn is a corner when it is at least this sharp over half a window, and not much sharper over a whole one. */
const CORNER = (50 * Math.PI) / 180;
const CORNER_SHARE = 0.75;
/** Squared cosine of a turn of the raw way below which no corner is looked for. */
const SUSPECT = Math.cos((35 * Math.PI) / 180) ** 2;

export interface EvenOptions {
  /** Page px averaged on either side for the place and for the weight; 0 leaves it as it is. */
  readonly reach: number;
  readonly weightReach: number;
  /** Page px per screen px; 1 where the artist measures by the page. */
  readonly seen: number;
  /** Whether the line ends where it has got to, and is not drawn on to the pen. */
  readonly stops: boolean;
}

/**
 * *Even*: a moving average over the way. Every point becomes the mean of the course over equal lengths before and behind it, in a
 * window that takes a tremor out at the speed of the hand (see `TremorWindow`). Windows end at corners and at the ends of the
 * line: there the line goes where the hand went, and keeps its corners.
 *
 * The course is straight from sample to sample, so its mean is exact: the window's integrals at the samples are all it takes.
 * Weights are plain means, the difference of their integral at both ends of the window, which grows as the hand goes on.
 */
export class EvenCalmer implements HandCalmer {
  /** The raw points, triples x, y, weight. */
  private raw: Float64Array;
  private calm: Float64Array;
  /** The integral of the raw course, and of its weight, over the length of the way, up to each point. */
  private sums: Float64Array;
  private lengths: Float64Array;
  private times: Float64Array;
  private readonly window = new TremorWindow();
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
    const room = new Float64Array(expected * (2 + (this.isCalming ? 3 : 1) * AXES));
    const part = (at: number, columns: number) => room.subarray(at * expected, (at + columns) * expected);
    this.lengths = part(0, 1);
    this.times = part(1, 1);
    this.raw = part(2, AXES);
    this.calm = this.isCalming ? part(5, AXES) : this.raw;
    this.sums = this.isCalming ? part(8, AXES) : this.raw;
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

  add(x: number, y: number, weight: number, time: number): void {
    const k = this.count++;
    if (k === this.lengths.length) this.grow();
    const { raw } = this;
    const i = k * AXES;
    raw[i] = x;
    raw[i + 1] = y;
    raw[i + 2] = weight;
    this.times[k] = time;
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

  private average(): void {
    const { lengths, count, raw, calm, steady } = this;
    const { reach: full, weightReach, stops } = this.options;
    const total = this.length;
    let low = steady;
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
      calm[at + 2] = this.meanOver(2, k, Math.min(weightReach, here, left), Math.min(weightReach, here, left));
      if (back < LEAST_WINDOW) {
        calm[at] = raw[at];
        calm[at + 1] = raw[at + 1];
      } else if (ahead < back) {
        calm[at] = this.meanOver(0, k, back, ahead);
        calm[at + 1] = this.meanOver(1, k, back, ahead);
      } else {
        low = this.legAt(here - back, low);
        this.placeWithin(k, back, low);
      }
    }
  }

  /**
   * The place of a point: the mean of the course in a window of `reach` page px on either side, which begins on leg `first`. What
   * of the window lies past that counts for its edges.
   */
  private placeWithin(k: number, reach: number, first: number): void {
    const { lengths, raw, calm, window } = this;
    const here = lengths[k];
    const [begin, end] = [here - reach, here + reach];
    const final = this.legAt(end, k);
    window.set(reach + this.edgeOf(first, final), this.paceFrom(begin, first, end));
    let from = -reach;
    let [share, summed] = [window.before(from), window.beforeSummed(from)];
    let x = share * this.valueAt(0, begin, first);
    let y = share * this.valueAt(1, begin, first);
    for (let leg = first; leg <= final; leg++) {
      const start = lengths[leg] - here;
      const whole = lengths[leg + 1] - lengths[leg];
      const to = Math.min(reach, start + whole);
      if (to <= from || whole <= 0) continue;
      // On a leg the course is straight: what it adds is known by the window's first two integrals.
      const [upTo, sum] = [window.before(to), window.beforeSummed(to)];
      const part = upTo - share;
      const moment = to * upTo - from * share - (sum - summed) - start * part;
      const i = leg * AXES;
      x += part * raw[i] + (moment / whole) * (raw[i + AXES] - raw[i]);
      y += part * raw[i + 1] + (moment / whole) * (raw[i + AXES + 1] - raw[i + 1]);
      [from, share, summed] = [to, upTo, sum];
    }
    calm[k * AXES] = x + (1 - share) * this.valueAt(0, end, final);
    calm[k * AXES + 1] = y + (1 - share) * this.valueAt(1, end, final);
  }

  /** Page px by which a window reaches past its ends: see EDGE. */
  private edgeOf(first: number, final: number): number {
    const { lengths } = this;
    return EDGE * Math.min(lengths[first + 1] - lengths[first], lengths[final + 1] - lengths[final]);
  }

  /** How far the hand went in a ms from one length of its way to another, `first` the leg of the one; Infinity where it tells no time. */
  private paceFrom(begin: number, first: number, end: number): number {
    const time = this.timeAt(end, this.legAt(end, first)) - this.timeAt(begin, first);
    return time > 0 ? (end - begin) / time : Infinity;
  }

  private timeAt(length: number, leg: number): number {
    const { lengths, times } = this;
    const whole = lengths[leg + 1] - lengths[leg];
    return whole > 0 ? times[leg] + ((length - lengths[leg]) / whole) * (times[leg + 1] - times[leg]) : times[leg];
  }

  /** The plain mean of an axis about a point, over page px before and behind it. */
  private meanOver(axis: number, k: number, back: number, ahead: number): number {
    const { raw, lengths } = this;
    if (back + ahead < 2 * LEAST_WINDOW) return raw[k * AXES + axis];
    const [begin, end] = [lengths[k] - back, lengths[k] + ahead];
    const [first, final] = [this.legAt(begin, k), this.legAt(end, k)];
    const edge = this.edgeOf(first, final);
    const sum = this.sumAt(axis, end, final) - this.sumAt(axis, begin, first);
    const edges = this.valueAt(axis, begin, first) + this.valueAt(axis, end, final) - 2 * raw[axis];
    return raw[axis] + (sum + edge * edges) / (back + ahead + 2 * edge);
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
    // What stands out less than a tremor does is none.
    const chord = Math.sqrt((ux + vx) ** 2 + (uy + vy) ** 2);
    if (Math.abs(ux * vy - uy * vx) < LEAST_CORNER * this.options.seen * chord) return 0;
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
    this.times = twiceAsLong(this.times);
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
