import type { HandCalmer } from './handCalmer';

const AXES = 3;

export interface TrailOptions {
  /** Page px per screen px. */
  readonly seen: number;
  /** Page px of the pen's way over which the weight follows. */
  readonly weightLag: number;
  /** Whether the line ends where it has got to, and is not drawn on to the pen. */
  readonly stops: boolean;
}

/**
 * A line that trails behind the pen: where its tip went stays, whatever comes. What would still be drawn if the pen were
 * lifted now is worked out anew on each look.
 */
export abstract class TrailCalmer<Options extends TrailOptions = TrailOptions> implements HandCalmer {
  private values = new Float64Array(AXES * 256);
  private lengths = new Float64Array(256);
  private done = 0;
  private count = 0;
  protected pen = { x: 0, y: 0 };
  protected tip = { x: 0, y: 0 };
  /** The weight of the line and of the pen's last place. */
  protected weight = 0;
  protected penWeight = 0;
  protected time = 0;

  constructor(protected readonly options: Options) {}

  get points(): Float64Array {
    return this.values;
  }

  get size(): number {
    return this.count;
  }

  get length(): number {
    return this.count > 0 ? this.lengths[this.count - 1] : 0;
  }

  get sureLength(): number {
    return this.done > 0 ? this.lengths[this.done - 1] : 0;
  }

  lengthAt(index: number): number {
    return this.lengths[index];
  }

  add(x: number, y: number, weight: number, time: number): void {
    this.count = this.done;
    if (this.done === 0) {
      this.pen = { x, y };
      this.tip = { x, y };
      this.weight = weight;
      this.time = time;
      this.start(x, y, time);
      this.lay(x, y);
    } else {
      this.follow(x, y, weight, time);
      this.pen = { x, y };
      this.time = Math.max(this.time, time);
    }
    this.penWeight = weight;
    this.done = this.count;
  }

  update(): void {
    this.count = this.done;
    if (this.done > 0 && !this.options.stops) this.catchUp();
  }

  settled(margin: number, from: number): number {
    const edge = this.sureLength - margin - 1e-6;
    if (margin === 0) return this.done;
    let k = from;
    while (k < this.done && this.lengths[k] <= edge) k++;
    return k;
  }

  /** Hears where and when the pen came down. */
  protected start(_x: number, _y: number, _time: number): void {}

  /** Moves the tip as the pen goes straight to x, y. */
  protected abstract follow(x: number, y: number, weight: number, time: number): void;

  /** Lays down the rest of the way to the pen, without moving the tip. */
  protected abstract catchUp(): void;

  /** The weight follows the pen's, over a length of its way. */
  protected weigh(weight: number, leg: number): void {
    const { weightLag } = this.options;
    this.weight += (weight - this.weight) * (weightLag > 0 ? 1 - Math.exp(-leg / weightLag) : 1);
  }

  /** Lays down a point of the line with the weight of now. */
  protected lay(x: number, y: number): void {
    const k = this.count;
    if (k === this.lengths.length) this.grow();
    const i = k * AXES;
    const { values, lengths } = this;
    lengths[k] = k > 0 ? lengths[k - 1] + Math.hypot(x - values[i - 3], y - values[i - 2]) : 0;
    values[i] = x;
    values[i + 1] = y;
    values[i + 2] = this.weight;
    this.count++;
  }

  private grow(): void {
    const { values, lengths } = this;
    this.values = new Float64Array(values.length * 2);
    this.values.set(values);
    this.lengths = new Float64Array(lengths.length * 2);
    this.lengths.set(lengths);
  }
}
