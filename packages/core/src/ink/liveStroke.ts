import { makeSpine, ride, SEGMENT, SpineFitter, type Ridden, type Riding, type Spine } from '../curve';
import type { Point } from '../math';
import {
  gridSteps,
  quantised,
  quantisedPressure,
  quantisedSample,
  quantisedTime,
  type Calm,
  type PenSample,
} from '../hand';
import { profiled, taperAt, widthUnder, type Nib } from '../nib';
import type { Stroke } from '../stroke';
import { calmerFor, calmSlack } from './calm';
import type { HandCalmer } from './handCalmer';
import { HandWeight } from './weight';

/** How far the spine may stray from the calmed hand, screen px at 100 % and above, page px below. */
const FIT_TOLERANCE = 0.2;
const STRIDE = 3;

export interface LiveOptions {
  /** How many samples to make room for. */
  readonly expected?: number;
  /** How a broken edge breaks. */
  readonly seed?: number;
  /** The path of a guide that the hand is taken to. */
  readonly riding?: Riding;
}

/**
 * A stroke while the pen is down. What is shown and what is kept come from the same numbers: settled samples go into the
 * spine as they settle, the rest is fitted anew on each look, so that lifting the pen changes nothing.
 */
export class LiveStroke {
  private readonly calmer: HandCalmer;
  private readonly weight: HandWeight;
  private readonly isPlain: boolean;
  private readonly fitter: SpineFitter;
  private readonly samples: PenSample[] = [];
  private readonly runOut: number;
  private readonly tapers: number;
  private readonly grid: number;
  private settled = 0;
  private inked = new Float64Array(STRIDE * 64);
  private readonly riding: Riding | undefined;
  /** Where the settled hand stands on its guide. */
  private ridden: Ridden | undefined;
  /** The settled spine as it lies on the guide's path, and how much of the fitted one that is. */
  private readonly laid: number[] = [];
  private laidFrom = 0;
  readonly grain: Stroke['grain'];

  /** `zoom` is screen px per page px: calming and precision go by what the eye sees. */
  constructor(
    readonly nib: Nib,
    readonly calm: Calm,
    readonly zoom = 1,
    { expected = 256, seed = 0, riding }: LiveOptions = {},
  ) {
    this.calmer = calmerFor(calm, zoom, expected);
    this.weight = new HandWeight(nib, zoom);
    this.isPlain = this.weight.isPlain;
    this.fitter = new SpineFitter(FIT_TOLERANCE / Math.max(1, zoom), expected);
    this.grid = gridSteps(zoom);
    this.runOut = nib.taperOut * nib.size;
    this.tapers = (nib.taperIn + nib.taperOut) * nib.size;
    this.grain = nib.edge && { seed, offset: 0 };
    this.riding = riding;
  }

  get isEmpty(): boolean {
    return this.samples.length === 0;
  }

  /** The samples as the pipeline sees them: quantised, before anything else. */
  get kept(): PenSample[] {
    return this.samples.map((sample) => quantisedSample(sample, this.grid));
  }

  /** How many numbers of the shown spine's points are settled for good. A profile over the whole line settles none. */
  get settledLength(): number {
    if (this.nib.profile) return 0;
    return this.riding ? this.laid.length : this.fitter.settledLength;
  }

  /** The slack that the line is towed on: where its tip is, and how far the pen may go from it, page px. */
  get slack(): { readonly tip: Point; readonly radius: number } | undefined {
    const radius = calmSlack(this.calm, this.zoom);
    const { points } = this.calmer;
    const last = STRIDE * (this.calmer.settled(0, 0) - 1);
    return radius > 0 && last >= 0 ? { tip: { x: points[last], y: points[last + 1] }, radius } : undefined;
  }

  add(samples: readonly PenSample[]): void {
    const { grid, nib, calmer, weight, isPlain } = this;
    for (const sample of samples) {
      this.samples.push(sample);
      if (isPlain) {
        const pressure = quantisedPressure(sample.pressure);
        const time = quantisedTime(sample.time ?? 0);
        calmer.add(quantised(sample.x, grid), quantised(sample.y, grid), widthUnder(nib, pressure), time);
      } else {
        const kept = quantisedSample(sample, grid);
        calmer.add(kept.x, kept.y, weight.next(kept), kept.time ?? 0);
      }
    }
    this.calmer.update();
    this.settle();
  }

  /** The spine as it would be if the pen were lifted now. Throws a RangeError before the first sample. */
  spine(): Spine {
    const rest = this.writeInked(this.settled, this.calmer.size).count;
    const fitted = this.fitter.preview(this.inked, 0, rest);
    return profiled(this.riding ? this.onPath(fitted, this.riding) : fitted, this.nib);
  }

  /** A spine of measures as it lies on the guide's path; what has settled is laid once. */
  private onPath({ points }: Spine, riding: Riding): Spine {
    const { laid } = this;
    if (laid.length === 0 && this.fitter.settledLength > 0) riding.start(points[0], points[2], laid);
    for (; this.laidFrom + SEGMENT < this.fitter.settledLength; this.laidFrom += SEGMENT)
      riding.lay(points, this.laidFrom, laid);
    const all = laid.slice();
    if (all.length === 0) riding.start(points[0], points[2], all);
    for (let i = this.laidFrom; i + SEGMENT < points.length; i += SEGMENT) riding.lay(points, i, all);
    return makeSpine(Float64Array.from(all));
  }

  stroke(): Stroke {
    const stroke: Stroke = { spine: this.spine(), nib: this.nib, ends: ['round', 'round'] };
    return this.grain ? { ...stroke, grain: this.grain } : stroke;
  }

  private settle(): void {
    if (this.calmer.sureLength < this.tapers) return;
    const end = this.calmer.settled(this.runOut, this.settled);
    if (end === this.settled) return;
    const { count, ridden } = this.writeInked(this.settled, end);
    this.fitter.addAll(this.inked, count);
    this.settled = end;
    this.ridden = ridden;
  }

  /** Writes calmed points `from..to` with their widths into `inked`; answers how many numbers, and where the hand then rides. */
  private writeInked(from: number, to: number): { readonly count: number; readonly ridden: Ridden | undefined } {
    const { nib, calmer, riding } = this;
    let { ridden } = this;
    const { points, length } = calmer;
    const count = (to - from) * STRIDE;
    if (this.inked.length < count) this.inked = new Float64Array(count * 2);
    const target = this.inked;
    const hasTapers = this.tapers > 0;
    for (let k = from, i = from * STRIDE, at = 0; k < to; k++, i += STRIDE, at += STRIDE) {
      const width = points[i + 2];
      if (riding) {
        ridden = ride(riding, points[i], points[i + 1], ridden);
        target[at] = ridden.at;
        target[at + 1] = 0;
      } else {
        target[at] = points[i];
        target[at + 1] = points[i + 1];
      }
      target[at + 2] = hasTapers ? width * taperAt(nib, calmer.lengthAt(k), length) : width;
    }
    return { count, ridden };
  }
}

/** How a whole stroke is drawn: `zoom` in screen px per page px, 1 where it is not given; the rest as for a live one. */
export interface DrawOptions extends Pick<LiveOptions, 'seed' | 'riding'> {
  readonly zoom?: number;
}

/**
 * The whole pipeline without a screen: samples (page px) → calm → guide → spine with its widths. Pressures beyond 0..1 count as
 * these, a time that runs backwards as no time. Throws a RangeError for no samples or for numbers that are not finite.
 */
export function drawStroke(
  samples: readonly PenSample[],
  nib: Nib,
  calm: Calm,
  { zoom, seed, riding }: DrawOptions = {},
): Stroke {
  for (const { x, y, pressure } of samples)
    if (!Number.isFinite(x + y + pressure))
      throw new RangeError(`A sample needs finite numbers; ${x}, ${y}, ${pressure} came.`);
  const live = new LiveStroke(nib, calm, zoom, { expected: Math.max(1, samples.length), seed, riding });
  live.add(samples);
  return live.stroke();
}
