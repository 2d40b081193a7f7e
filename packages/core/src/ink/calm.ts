import type { Calm, PenSample } from '../page';

/** Screen px averaged on either side at strength 100. */
const FULL_REACH = 60;

/** Page px that *Even* averages on either side of a point. */
export const calmReach = (calm: Calm, zoom: number): number =>
  calm.way === 'even' ? (FULL_REACH * calm.strength) / 100 / zoom : 0;

const AXES = 3;
/** Numbers of memory that a point takes while it is calmed. */
export const CALM_ROOM = 1 + 4 * AXES;
/** Windows that reach less than this, page px, average nothing that could be seen, and would drown in rounding. */
const LEAST_WINDOW = 0.25;

/**
 * Calms a hand while it moves. *Even* is a distance-weighted moving average: the mean of the course over equal lengths
 * before and behind each point, weighed by nearness along the way (a triangle). Near the ends the window shrinks to what
 * is there: the line starts and ends where the hand did, without lag. A straight line stays itself, as does a still hand.
 *
 * The weighted mean needs no sum over the window: the integral of a triangle of half width r over a course f is the
 * second difference (F(s + r) − 2 F(s) + F(s − r)) / r² of its twofold integral F, which grows as the hand goes on
 * (Heckbert, "Filtering by repeated integration", 1986).
 */
export class Calmer {
  /** The raw points, triples x, y, pressure. */
  private raw: Float64Array;
  private calm: Float64Array;
  /** Integrals of the raw course over the length of the way up to each point: once, and twice. */
  private once: Float64Array;
  private twice: Float64Array;
  private lengths: Float64Array;
  private count = 0;
  private steady = 0;

  /**
   * `reach` in page px on either side; 0 leaves the hand as it is. `expected`: how many points to make room for; `memory` may
   * lend it, `CALM_ROOM` numbers a point.
   */
  constructor(
    private readonly reach: number,
    expected = 256,
    memory?: Float64Array,
  ) {
    // One piece of memory for all: many small typed arrays cost more to make than to fill.
    const isCalming = reach > 0;
    const room = memory ?? new Float64Array(expected * (isCalming ? CALM_ROOM : 1 + AXES));
    const part = (at: number, columns: number) => room.subarray(at * expected, (at + columns) * expected);
    this.lengths = part(0, 1);
    this.raw = part(1, AXES);
    this.calm = isCalming ? part(4, AXES) : this.raw;
    this.once = isCalming ? part(7, AXES) : this.raw;
    this.twice = isCalming ? part(10, AXES) : this.raw;
    if (memory && isCalming) for (const sums of [this.lengths, this.once, this.twice]) sums.fill(0, 0, AXES);
    else this.lengths[0] = 0;
  }

  /** The length of the hand's way so far, page px. */
  get length(): number {
    return this.count > 0 ? this.lengths[this.count - 1] : 0;
  }

  /** The calmed points: triples x, y, pressure. Up to date after `update`. */
  get points(): Float64Array {
    return this.reach > 0 ? this.calm : this.raw;
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
    if (k === this.lengths.length) this.grow();
    const { raw } = this;
    const i = k * AXES;
    raw[i] = x;
    raw[i + 1] = y;
    raw[i + 2] = pressure;
    if (k === 0) return;
    const dx = x - raw[i - 3];
    const dy = y - raw[i - 2];
    const leg = Math.sqrt(dx * dx + dy * dy);
    this.lengths[k] = this.lengths[k - 1] + leg;
    if (this.reach > 0) this.integrate(i, leg);
  }

  /** Calms what the points added since the last time can have changed. */
  update(): void {
    if (this.reach === 0) return;
    this.average();
    this.steady = this.firstBeyond(this.length - this.reach, this.steady);
  }

  /** How many of the first points will not move any more, whatever is added, once `margin` page px lie behind them too. */
  settled(margin: number, from: number): number {
    const settled = this.reach === 0 ? this.count : this.steady;
    return margin > 0 ? Math.min(settled, this.firstBeyond(this.length - margin, from)) : settled;
  }

  /** The first point, from `index` on, that lies beyond a length of the way; a hair's breadth keeps rounding out of it. */
  private firstBeyond(length: number, index: number): number {
    const edge = length - 1e-6;
    let k = index;
    while (k < this.count && this.lengths[k] <= edge) k++;
    return k;
  }

  /** Both integrals up to triple `i`, exact for the polyline; measured from the first point, so that they stay small. */
  private integrate(i: number, leg: number): void {
    const { raw, once, twice } = this;
    const half = leg / 2;
    const third = (leg * leg) / 6;
    const h = i - AXES;
    for (let axis = 0; axis < AXES; axis++) {
      const before = raw[h + axis] - raw[axis];
      const after = raw[i + axis] - raw[axis];
      once[i + axis] = once[h + axis] + half * (before + after);
      twice[i + axis] = twice[h + axis] + leg * once[h + axis] + third * (2 * before + after);
    }
  }

  /** Both edges of the window only move forward, so the legs they lie on are followed, not searched. */
  private average(): void {
    const { lengths, count, reach: full, raw, once, twice, calm, steady } = this;
    const total = this.length;
    const fullShare = 1 / (full * full);
    const [x0, y0, p0] = raw;
    const last = count - 2;
    let low = steady;
    let high = steady;
    for (let k = steady, at = steady * AXES; k < count; k++, at += AXES) {
      const here = lengths[k];
      let reach = here < full ? here : full;
      if (total - here < reach) reach = total - here;
      if (reach < LEAST_WINDOW) {
        calm[at] = raw[at];
        calm[at + 1] = raw[at + 1];
        calm[at + 2] = raw[at + 2];
        continue;
      }
      const begin = here - reach;
      const end = here + reach;
      while (low > 0 && lengths[low] > begin) low--;
      while (low < last && lengths[low + 1] <= begin) low++;
      while (high < last && lengths[high + 1] < end) high++;
      const i = low * AXES;
      const j = high * AXES;
      const a = begin - lengths[low];
      const b = end - lengths[high];
      // On a leg the course is straight and its twofold integral a cubic.
      const a2 = a * a * 0.5;
      const b2 = b * b * 0.5;
      const a3 = (a2 * a) / (3 * (lengths[low + 1] - lengths[low]));
      const b3 = (b2 * b) / (3 * (lengths[high + 1] - lengths[high]));
      const share = reach === full ? fullShare : 1 / (reach * reach);
      // Written out for x, y and pressure: this is the innermost loop of drawing.
      const ax = twice[i] + a * once[i] + a2 * (raw[i] - x0) + a3 * (raw[i + 3] - raw[i]);
      const ay = twice[i + 1] + a * once[i + 1] + a2 * (raw[i + 1] - y0) + a3 * (raw[i + 4] - raw[i + 1]);
      const ap = twice[i + 2] + a * once[i + 2] + a2 * (raw[i + 2] - p0) + a3 * (raw[i + 5] - raw[i + 2]);
      const bx = twice[j] + b * once[j] + b2 * (raw[j] - x0) + b3 * (raw[j + 3] - raw[j]);
      const by = twice[j + 1] + b * once[j + 1] + b2 * (raw[j + 1] - y0) + b3 * (raw[j + 4] - raw[j + 1]);
      const bp = twice[j + 2] + b * once[j + 2] + b2 * (raw[j + 2] - p0) + b3 * (raw[j + 5] - raw[j + 2]);
      calm[at] = x0 + (ax + bx - 2 * twice[at]) * share;
      calm[at + 1] = y0 + (ay + by - 2 * twice[at + 1]) * share;
      calm[at + 2] = p0 + (ap + bp - 2 * twice[at + 2]) * share;
    }
  }

  private grow(): void {
    const isCalming = this.reach > 0;
    this.lengths = twiceAsLong(this.lengths);
    this.raw = twiceAsLong(this.raw);
    this.calm = isCalming ? twiceAsLong(this.calm) : this.raw;
    this.once = isCalming ? twiceAsLong(this.once) : this.raw;
    this.twice = isCalming ? twiceAsLong(this.twice) : this.raw;
  }
}

function twiceAsLong(old: Float64Array): Float64Array {
  const longer = new Float64Array(old.length * 2);
  longer.set(old);
  return longer;
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
