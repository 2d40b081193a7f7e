/**
 * ms on either side over which a mean takes most of a tremor of 8 to 12 Hz out: about half a period of 10 Hz. (The range as Elble &
 * Randall, 1976, and the textbooks after them give it, from memory.)
 */
const HALF_PERIOD = 49.5;
/** Means that are taken one after the other at most: three leave no lobe that could be seen. */
const MOST = 3;

/**
 * A window over the way on either side of a point, whose mean takes a tremor out: a plain mean while it is not longer than the
 * tremor's period at the hand's speed. Longer plain means would let the tremor in again, now and then (the side lobes of their
 * spectrum); so what is left of the reach goes into means of the mean. More reach then never leaves more.
 */
export class TremorWindow {
  /** Half the widths of the means, page px. */
  private readonly halves = new Float64Array(MOST);
  private count = 0;
  /** Where the pieces of the window begin, and the sign of each, as B-splines are put together (de Boor 1978). */
  private readonly knots = new Float64Array(2 ** MOST);
  private readonly signs = new Float64Array(2 ** MOST);
  private terms = 1;
  private share = 1;

  /** Sets the window to reach `reach` page px to either side, for a hand that makes `pace` page px a ms (Infinity: unknown). */
  set(reach: number, pace: number): void {
    const { halves, knots, signs } = this;
    const own = pace * HALF_PERIOD;
    const isLong = reach > MOST * own;
    let left = reach;
    this.count = 0;
    while (this.count < MOST && left > 0) {
      const half = isLong ? reach / MOST : Math.min(left, own);
      // So little would change nothing that could be seen.
      if (this.count > 0 && half < 0.01 * reach) break;
      halves[this.count++] = half;
      left -= half;
    }
    knots[0] = 0;
    signs[0] = 1;
    this.terms = 1;
    this.share = 1;
    for (let n = 0; n < this.count; n++) {
      const half = halves[n];
      for (let k = 0; k < this.terms; k++) {
        knots[k + this.terms] = knots[k] + half;
        signs[k + this.terms] = -signs[k];
        knots[k] -= half;
      }
      this.terms *= 2;
      this.share /= 2 * half * (n + 1);
    }
  }

  /** How much of the window lies before a place, page px from its middle: 0..1. */
  before(at: number): number {
    return this.share * this.powers(at, this.count);
  }

  /** The integral of that up to a place. */
  beforeSummed(at: number): number {
    return (this.share * this.powers(at, this.count + 1)) / (this.count + 1);
  }

  private powers(at: number, exponent: number): number {
    const { knots, signs, terms } = this;
    let sum = 0;
    for (let k = 0; k < terms; k++) {
      const beyond = at - knots[k];
      if (beyond <= 0) continue;
      let power = beyond;
      for (let n = 1; n < exponent; n++) power *= beyond;
      sum += signs[k] * power;
    }
    return sum;
  }
}
