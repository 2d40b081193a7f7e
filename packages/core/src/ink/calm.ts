import type { Calm, PenSample } from '../page';

/** Screen px averaged on either side at strength 100. */
const FULL_REACH = 60;

/** Page px that *Even* averages on either side of a point: two passes of half of it each. */
export const calmReach = (calm: Calm, zoom: number): number =>
  calm.way === 'even' ? (FULL_REACH * calm.strength) / 100 / zoom : 0;

const AXES = 3;

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
  private lengths = new Float64Array(256);
  private count = 0;
  private settledOnce = 0;
  private settledTwice = 0;

  /** `reach` in page px on either side; 0 leaves the hand as it is. */
  constructor(private readonly reach: number) {
    this.half = reach / 2;
    this.raw = new Pass();
    this.once = reach > 0 ? new Pass() : this.raw;
    this.twice = reach > 0 ? new Pass() : this.raw;
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
    if (k === this.lengths.length) this.lengths = larger(this.lengths, k * 2);
    this.raw.write(k, x, y, pressure);
    const i = k * AXES;
    this.lengths[k] = k === 0 ? 0 : this.lengths[k - 1] + step(this.raw.values, i);
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

  private average(source: Pass, target: Pass, from: number): void {
    const { lengths, count, half } = this;
    const total = this.length;
    let low = from;
    let high = from;
    for (let k = from; k < count; k++) {
      const here = lengths[k];
      const reach = Math.min(half, here, total - here);
      // A window this small averages nothing, and its mean would drown in rounding.
      if (reach <= 1e-4) {
        target.copy(source, k);
        continue;
      }
      while (low > 0 && lengths[low] > here - reach) low--;
      while (low < count - 2 && lengths[low + 1] <= here - reach) low++;
      while (high < count - 2 && lengths[high + 1] < here + reach) high++;
      source.mean(lengths, low, here - reach, Math.max(high, low), here + reach, target, k);
    }
  }
}

/** Triples with their running integrals over the length of the way. */
class Pass {
  values = new Float64Array(AXES * 256);
  private integrals = new Float64Array(AXES * 256);

  reserve(k: number): number {
    if ((k + 1) * AXES > this.values.length) this.values = larger(this.values, this.values.length * 2);
    return k * AXES;
  }

  write(k: number, x: number, y: number, pressure: number): void {
    const i = this.reserve(k);
    this.values[i] = x;
    this.values[i + 1] = y;
    this.values[i + 2] = pressure;
  }

  copy(source: Pass, k: number): void {
    const i = k * AXES;
    this.write(k, source.values[i], source.values[i + 1], source.values[i + 2]);
  }

  /** Trapezoids: exact for the polyline. */
  integrate(lengths: Float64Array, from: number, to: number): void {
    if (this.integrals.length < this.values.length) this.integrals = larger(this.integrals, this.values.length);
    for (let k = Math.max(1, from); k < to; k++) {
      const width = (lengths[k] - lengths[k - 1]) / 2;
      for (let i = k * AXES; i < (k + 1) * AXES; i++)
        this.integrals[i] = this.integrals[i - AXES] + width * (this.values[i] + this.values[i - AXES]);
    }
  }

  /** Writes into point `k` of `target` the mean of the course between two lengths, on the legs from `low` and `high`. */
  mean(lengths: Float64Array, low: number, from: number, high: number, to: number, target: Pass, k: number): void {
    const { values, integrals } = this;
    const legA = lengths[low + 1] - lengths[low];
    const legB = lengths[high + 1] - lengths[high];
    const a = from - lengths[low];
    const b = to - lengths[high];
    const halfA = legA > 0 ? (a * a) / (2 * legA) : 0;
    const halfB = legB > 0 ? (b * b) / (2 * legB) : 0;
    const at = target.reserve(k);
    const out = target.values;
    const share = 1 / (to - from);
    for (let axis = 0, i = low * AXES, j = high * AXES; axis < AXES; axis++, i++, j++) {
      const before = integrals[i] + a * values[i] + halfA * (values[i + AXES] - values[i]);
      const after = integrals[j] + b * values[j] + halfB * (values[j + AXES] - values[j]);
      out[at + axis] = (after - before) * share;
    }
  }
}

const step = (values: Float64Array, i: number): number => {
  const dx = values[i] - values[i - AXES];
  const dy = values[i + 1] - values[i + 1 - AXES];
  return Math.sqrt(dx * dx + dy * dy);
};

function larger(old: Float64Array<ArrayBuffer>, size: number): Float64Array<ArrayBuffer> {
  const grown = new Float64Array(Math.max(size, old.length));
  grown.set(old);
  return grown;
}

/** The samples after calming: as many as came, with place and pressure calmed. `zoom` is screen px per page px. */
export function calmed(samples: readonly PenSample[], calm: Calm, zoom = 1): PenSample[] {
  const calmer = new Calmer(calmReach(calm, zoom));
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
