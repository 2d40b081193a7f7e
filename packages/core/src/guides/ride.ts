import { cubicAt, ride, SEGMENT, type Ridden, type Riding, type GuidePath } from '../curve';
import { distance } from '../math';
import type { GuideEntity } from './guide';
import type { PenSample } from '../hand';
import { chooseGuide, type ChoiceOptions } from './choose';
import { trackOf } from './path';
import type { Track } from './track';

/** Page px along a curve within which the next place of a hand that hardly moves is looked for. */
const LEAST_WINDOW = 24;

/** A path as something a live stroke can ride. `seen` is page px per screen px: turning back by less than 3 screen px is held. */
export const ridingOn = (path: GuidePath, seen = 1): Riding =>
  new PathRiding(trackOf(path), path.kind === 'line', 3 * seen);

class PathRiding implements Riding {
  constructor(
    private readonly track: Track,
    private readonly isStraight: boolean,
    readonly slack: number,
  ) {}

  measure(x: number, y: number, near: number | undefined, moved: number): number {
    return this.track.nearest({ x, y }, near, Math.max(LEAST_WINDOW, 4 * moved));
  }

  start(measure: number, width: number, out: number[]): void {
    const { x, y } = this.track.place(measure);
    out.push(x, y, width);
  }

  lay(q: ArrayLike<number>, i: number, out: number[]): void {
    const [from, to] = [q[i], q[i + SEGMENT]];
    if (this.isStraight) return this.layStraight(q, i, out);
    const marks = this.track.breaks(Math.min(from, to), Math.max(from, to));
    if (to < from) marks.reverse();
    let [last, lastT] = [from, 0];
    for (const end of [...marks, to]) {
      const t = end === to ? 1 : whenAt(q, i, end, lastT);
      this.layPiece(last, end, weights(q, i, lastT, t), out);
      [last, lastT] = [end, t];
    }
  }

  /** On a straight path the unrolled cubic is the course itself, but for where it lies. */
  private layStraight(q: ArrayLike<number>, i: number, out: number[]): void {
    for (let k = 3; k <= SEGMENT; k += 3) {
      const { x, y } = this.track.place(q[i + k]);
      out.push(x, y, q[i + k + 2]);
    }
  }

  private layPiece(from: number, to: number, w: readonly number[], out: number[]): void {
    const isBack = to < from;
    const p = isBack ? this.track.cubic(to, from) : this.track.cubic(from, to);
    for (let k = 1; k < 4; k++) {
      const n = 2 * (isBack ? 3 - k : k);
      out.push(p[n], p[n + 1], w[k]);
    }
  }
}

/** The parameter at which an unrolled cubic has come to a measure, from `least` on, by bisection. */
function whenAt(q: ArrayLike<number>, i: number, measure: number, least: number): number {
  const rises = q[i + SEGMENT] > q[i];
  let [low, high] = [least, 1];
  for (let step = 0; step < 40; step++) {
    const t = (low + high) / 2;
    if (cubicAt(q[i], q[i + 3], q[i + 6], q[i + 9], t) < measure === rises) low = t;
    else high = t;
  }
  return (low + high) / 2;
}

/** The four weights of the part of a cubic between two parameters. */
function weights(q: ArrayLike<number>, i: number, from: number, to: number): readonly number[] {
  const [a, b, c, d] = [q[i + 2], q[i + 5], q[i + 8], q[i + 11]];
  const step = (p: number, r: number, t: number) => p + (r - p) * t;
  const polar = (r: number, s: number, t: number) => {
    const [e, f, g] = [step(a, b, r), step(b, c, r), step(c, d, r)];
    return step(step(e, f, s), step(f, g, s), t);
  };
  return [polar(from, from, from), polar(from, from, to), polar(from, to, to), polar(to, to, to)];
}

export interface RideOptions extends ChoiceOptions {
  /** Page px that the hand goes before a field is chosen by its direction. */
  readonly choosing: number;
}

/**
 * The samples of a whole hand taken to the guide that bears it, each to where it rides: pressures, tilts and times stay. They
 * come back as they are where no guide bears them.
 */
export function rideGuide(
  samples: readonly PenSample[],
  guides: readonly GuideEntity[],
  options: RideOptions,
): PenSample[] {
  const [start] = samples;
  const gone = start && samples.find((sample) => distance(start, sample) >= options.choosing);
  const heading = gone && Math.atan2(gone.y - start.y, gone.x - start.x);
  const choice = start && chooseGuide(guides, start, heading, options);
  if (!choice) return [...samples];
  const track = trackOf(choice.path);
  const riding = new PathRiding(track, choice.path.kind === 'line', 0);
  let ridden: Ridden | undefined;
  return samples.map((sample) => {
    ridden = ride(riding, sample.x, sample.y, ridden);
    return { ...sample, ...track.place(ridden.at) };
  });
}
