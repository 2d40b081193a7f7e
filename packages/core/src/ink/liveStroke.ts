import { FIT_ROOM, SpineFitter, type Spine } from '../curve';
import { gridSteps, PRESSURE_STEPS, quantised, type Calm, type Nib, type PenSample, type Stroke } from '../page';
import { CALM_ROOM, calmReach, Calmer } from './calm';
import { taperAt, widthUnder } from './nib';

/** How far the spine may stray from the calmed hand, screen px at 100 % and above, page px below. */
const FIT_TOLERANCE = 0.2;
const STRIDE = 3;
const ROOM = CALM_ROOM + FIT_ROOM;

/**
 * A stroke while the pen is down. What is shown and what is kept come from the same numbers: settled samples go into the
 * spine as they settle, the rest is fitted anew on each look, so that lifting the pen changes nothing.
 */
export class LiveStroke {
  private readonly calmer: Calmer;
  private readonly fitter: SpineFitter;
  private readonly samples: PenSample[] = [];
  private readonly runOut: number;
  private readonly tapers: number;
  private readonly grid: number;
  private settled = 0;
  private inked = new Float64Array(STRIDE * 64);

  /**
   * `zoom` is screen px per page px: calming and precision go by what the eye sees. `expected`: how many samples to make
   * room for; `memory` may lend it, `ROOM` numbers a sample, for as long as the stroke is worked on.
   */
  constructor(
    readonly nib: Nib,
    readonly calm: Calm,
    readonly zoom = 1,
    expected = 256,
    memory?: Float64Array,
  ) {
    this.calmer = new Calmer(calmReach(calm, zoom), expected, memory?.subarray(0, CALM_ROOM * expected));
    this.fitter = new SpineFitter(
      FIT_TOLERANCE / Math.max(1, zoom),
      expected,
      memory?.subarray(CALM_ROOM * expected, ROOM * expected),
    );
    this.grid = gridSteps(zoom);
    this.runOut = nib.taperOut * nib.size;
    this.tapers = (nib.taperIn + nib.taperOut) * nib.size;
  }

  get isEmpty(): boolean {
    return this.samples.length === 0;
  }

  /** The samples as the pipeline sees them: quantised, before anything else. */
  get kept(): PenSample[] {
    return this.samples.map((sample) => ({
      ...sample,
      x: quantised(sample.x, this.grid),
      y: quantised(sample.y, this.grid),
      pressure: quantised(sample.pressure, PRESSURE_STEPS),
    }));
  }

  /** How many numbers of the shown spine's points are settled for good. */
  get settledLength(): number {
    return this.fitter.settledLength;
  }

  add(samples: readonly PenSample[]): void {
    const { grid } = this;
    for (const sample of samples) {
      this.samples.push(sample);
      this.calmer.add(quantised(sample.x, grid), quantised(sample.y, grid), quantised(sample.pressure, PRESSURE_STEPS));
    }
    this.calmer.update();
    this.settle();
  }

  /** The spine as it would be if the pen were lifted now. Throws a RangeError before the first sample. */
  spine(): Spine {
    const rest = this.writeInked(this.settled, this.calmer.size);
    return this.fitter.preview(this.inked, 0, rest);
  }

  stroke(): Stroke {
    return { spine: this.spine(), nib: this.nib, ends: ['round', 'round'] };
  }

  private settle(): void {
    if (this.calmer.length < this.tapers) return;
    const end = this.calmer.settled(this.runOut, this.settled);
    if (end === this.settled) return;
    const count = this.writeInked(this.settled, end);
    this.fitter.addAll(this.inked, count);
    this.settled = end;
  }

  /** Writes calmed points `from..to` with their widths into `inked`; answers how many numbers. */
  private writeInked(from: number, to: number): number {
    const { nib, calmer } = this;
    const { points, length } = calmer;
    const count = (to - from) * STRIDE;
    if (this.inked.length < count) this.inked = new Float64Array(count * 2);
    const target = this.inked;
    const hasTapers = this.tapers > 0;
    for (let k = from, i = from * STRIDE, at = 0; k < to; k++, i += STRIDE, at += STRIDE) {
      const width = widthUnder(nib, points[i + 2]);
      target[at] = points[i];
      target[at + 1] = points[i + 1];
      target[at + 2] = hasTapers ? width * taperAt(nib, calmer.lengthAt(k), length) : width;
    }
    return count;
  }
}

/** Lent to one whole stroke after the other: to make and clear it anew would cost as much as calming. */
let memory = new Float64Array(0);

/**
 * The whole pipeline without a screen: samples (page px) → calm → spine with its widths.
 * Throws a RangeError for no samples or for numbers that are not finite.
 */
export function drawStroke(samples: readonly PenSample[], nib: Nib, calm: Calm, zoom = 1): Stroke {
  for (const { x, y, pressure } of samples)
    if (!Number.isFinite(x + y + pressure))
      throw new RangeError(`A sample needs finite numbers; ${x}, ${y}, ${pressure} came.`);
  const expected = Math.max(1, samples.length);
  if (memory.length < ROOM * expected) memory = new Float64Array(2 * ROOM * expected);
  const live = new LiveStroke(nib, calm, zoom, expected, memory);
  live.add(samples);
  return live.stroke();
}
