import type { Calm, PenSample } from '../page';

/** Screen px averaged on either side at strength 100. */
const FULL_REACH = 60;

/** Page px that *Even* averages on either side of a point: two passes of half of it each. */
export const calmReach = (calm: Calm, zoom: number): number =>
  calm.way === 'even' ? (FULL_REACH * calm.strength) / 100 / zoom : 0;

const AXES = 3;
const nothing = new Float64Array(0);

/**
 * Calms a hand while it moves. *Even* is a distance-weighted moving average: the mean of the course over equal lengths
 * before and behind each point, taken twice, so that nearer points weigh more. Near the ends the window shrinks to what
 * is there: the line starts and ends where the hand did, without lag. A straight line stays itself, as does a still hand.
 */
export class Calmer {
  private readonly half: number;
  private readonly raw: Pass;
  private readonly once: Pass;
  private readonly twice: Pass;
  private lengths: Float64Array;
  /** Half the inverse of the leg that leads to each point; 0 for one without length. */
  private halfInverse: Float64Array;
  private count = 0;
  private settledOnce = 0;
  private settledTwice = 0;

  /** `reach` in page px on either side; 0 leaves the hand as it is. `expected`: how many points to make room for. */
  constructor(
    private readonly reach: number,
    expected = 256,
  ) {
    this.half = reach / 2;
    // One piece of memory for all: many small typed arrays cost more to make than to fill.
    const isCalming = reach > 0;
    const room = new Float64Array(expected * (isCalming ? 17 : 5));
    const part = (at: number, columns: number) => room.subarray(at * expected, (at + columns) * expected);
    this.lengths = part(0, 1);
    this.halfInverse = part(1, 1);
    this.raw = new Pass(part(2, AXES), isCalming ? part(5, AXES) : nothing);
    this.once = isCalming ? new Pass(part(8, AXES), part(11, AXES)) : this.raw;
    this.twice = isCalming ? new Pass(part(14, AXES), nothing) : this.raw;
  }

  /** The length of the hand's way so far, page px. */
  get length(): number {
    return this.count > 0 ? this.lengths[this.count - 1] : 0;
  }

  /** The calmed points: triples x, y, pressure. Up to date after `update`. */
  get points(): Float64Array {
    return this.twice.values;
  }

  get size(): number {
    return this.count;
  }

  /** The length of the hand's way up to point `index`, page px. */
  lengthAt(index: number): number {
    return this.lengths[index];
  }

  add(x: number, y: number, pressure: number): void {
    const k = this.count++;
    if (k === this.lengths.length) {
      this.lengths = larger(this.lengths, k * 2);
      this.halfInverse = larger(this.halfInverse, k * 2);
    }
    this.raw.write(k, x, y, pressure);
    if (k === 0) return;
    const leg = lastLeg(this.raw.values, k * AXES);
    this.lengths[k] = this.lengths[k - 1] + leg;
    this.halfInverse[k] = leg > 0 ? 0.5 / leg : 0;
  }

  /** Calms what the points added since the last time can have changed. */
  update(): void {
    if (this.reach === 0) return;
    this.raw.integrate(this.lengths, this.settledOnce, this.count);
    this.average(this.raw, this.once, this.settledOnce);
    this.once.integrate(this.lengths, this.settledOnce, this.count);
    this.average(this.once, this.twice, this.settledTwice);
    this.settledOnce = this.firstBeyond(this.length - this.half, this.settledOnce);
    if (this.settledOnce > 0)
      this.settledTwice = this.firstBeyond(this.lengths[this.settledOnce - 1] - this.half, this.settledTwice);
  }

  /** How many of the first points will not move any more, whatever is added, once `margin` page px lie behind them too. */
  settled(margin: number, from: number): number {
    const settled = this.reach === 0 ? this.count : this.settledTwice;
    return margin > 0 ? Math.min(settled, this.firstBeyond(this.length - margin, from)) : settled;
  }

  /** The first point, from `index` on, that lies beyond a length of the way; a hair's breadth keeps rounding out of it. */
  private firstBeyond(length: number, index: number): number {
    const edge = length - 1e-6;
    let k = index;
    while (k < this.count && this.lengths[k] <= edge) k++;
    return k;
  }

  /**
   * Writes into `target` the mean of the course between equal lengths before and behind each point from `from` on. Both
   * edges of the window only move forward, so the legs they lie on are followed, not searched.
   */
  private average(source: Pass, target: Pass, from: number): void {
    const { lengths, halfInverse, count, half } = this;
    const total = this.length;
    const wholeShare = 1 / (2 * half);
    const v = source.values;
    const g = source.integrals;
    target.reserve(count - 1);
    const out = target.values;
    const last = count - 2;
    let low = from;
    let high = from;
    for (let k = from, at = from * AXES; k < count; k++, at += AXES) {
      const here = lengths[k];
      let reach = here < half ? here : half;
      if (total - here < reach) reach = total - here;
      // A window this small averages nothing, and its mean would drown in rounding.
      if (reach <= 1e-4) {
        out[at] = v[at];
        out[at + 1] = v[at + 1];
        out[at + 2] = v[at + 2];
        continue;
      }
      const begin = here - reach;
      const end = here + reach;
      while (low > 0 && lengths[low] > begin) low--;
      while (low < last && lengths[low + 1] <= begin) low++;
      while (high < last && lengths[high + 1] < end) high++;
      if (high < low) high = low;
      const i = low * AXES;
      const j = high * AXES;
      const a = begin - lengths[low];
      const b = end - lengths[high];
      const bendA = a * a * halfInverse[low + 1];
      const bendB = b * b * halfInverse[high + 1];
      const share = reach === half ? wholeShare : 1 / (end - begin);
      // The integral up to the window's end less that up to its beginning; on a leg the course is straight. Written out
      // for x, y and pressure: this is the innermost loop of drawing.
      const up0 = g[j] + b * v[j] + bendB * (v[j + 3] - v[j]);
      const up1 = g[j + 1] + b * v[j + 1] + bendB * (v[j + 4] - v[j + 1]);
      const up2 = g[j + 2] + b * v[j + 2] + bendB * (v[j + 5] - v[j + 2]);
      out[at] = (up0 - g[i] - a * v[i] - bendA * (v[i + 3] - v[i])) * share;
      out[at + 1] = (up1 - g[i + 1] - a * v[i + 1] - bendA * (v[i + 4] - v[i + 1])) * share;
      out[at + 2] = (up2 - g[i + 2] - a * v[i + 2] - bendA * (v[i + 5] - v[i + 2])) * share;
    }
  }
}

/** Triples with their running integrals over the length of the way. */
class Pass {
  constructor(
    public values: Float64Array,
    public integrals: Float64Array,
  ) {}

  /** Makes room for point `k`. */
  reserve(k: number): void {
    if ((k + 1) * AXES <= this.values.length) return;
    const size = Math.max(this.values.length * 2, (k + 1) * AXES);
    this.values = larger(this.values, size);
  }

  write(k: number, x: number, y: number, pressure: number): void {
    this.reserve(k);
    const i = k * AXES;
    this.values[i] = x;
    this.values[i + 1] = y;
    this.values[i + 2] = pressure;
  }

  /** Trapezoids: exact for the polyline. */
  integrate(lengths: Float64Array, from: number, to: number): void {
    if (this.integrals.length < this.values.length) this.integrals = larger(this.integrals, this.values.length);
    const { values: v, integrals: g } = this;
    for (let k = Math.max(1, from), i = k * AXES; k < to; k++, i += AXES) {
      const width = (lengths[k] - lengths[k - 1]) / 2;
      g[i] = g[i - 3] + width * (v[i] + v[i - 3]);
      g[i + 1] = g[i - 2] + width * (v[i + 1] + v[i - 2]);
      g[i + 2] = g[i - 1] + width * (v[i + 2] + v[i - 1]);
    }
  }
}

const lastLeg = (values: Float64Array, i: number): number => {
  const dx = values[i] - values[i - AXES];
  const dy = values[i + 1] - values[i + 1 - AXES];
  return Math.sqrt(dx * dx + dy * dy);
};

function larger(old: Float64Array, size: number): Float64Array {
  const grown = new Float64Array(Math.max(size, old.length));
  grown.set(old);
  return grown;
}

/** The samples after calming: as many as came, with place and pressure calmed. `zoom` is screen px per page px. */
export function calmed(samples: readonly PenSample[], calm: Calm, zoom = 1): PenSample[] {
  const calmer = new Calmer(calmReach(calm, zoom), Math.max(1, samples.length));
  for (const { x, y, pressure } of samples) calmer.add(x, y, pressure);
  calmer.update();
  const { points } = calmer;
  return samples.map((sample, k) => ({
    ...sample,
    x: points[k * AXES],
    y: points[k * AXES + 1],
    pressure: points[k * AXES + 2],
  }));
}
