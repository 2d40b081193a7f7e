import { clamp } from '../math';
import { widthUnder, type Nib } from '../nib';
import type { PenSample } from '../hand';

/** Screen px per ms at which a hand is as fast as counts. */
const FAST = 3;
/** ms over which speed and tilt are smoothed. */
const SMOOTHING = 40;
/** Radians from upright at which a pen leans as far as counts: 60°. */
const FULL_LEAN = Math.PI / 3;
/** Screen px over which the direction is taken that a chisel meets. */
const DIRECTION = 4;

/** How a pen leans: the direction it leans to (radians from x towards y), and how far from upright, radians. */
export interface Lean {
  readonly azimuth: number;
  readonly lean: number;
}

/**
 * The lean that tilts in degrees tell, or nothing for a pen that stands upright or does not tell (W3C Pointer Events 3,
 * "Converting between tiltX/tiltY and altitudeAngle/azimuthAngle").
 */
export function leanOf({ tiltX = 0, tiltY = 0 }: PenSample): Lean | undefined {
  if (tiltX === 0 && tiltY === 0) return undefined;
  const radians = Math.PI / 180;
  const [x, y] = [Math.tan(clamp(tiltX, -89, 89) * radians), Math.tan(clamp(tiltY, -89, 89) * radians)];
  return { azimuth: Math.atan2(y, x), lean: Math.atan(Math.hypot(x, y)) };
}

/** What a nib makes of a hand, sample by sample: the width before tapers and profile, page px. */
export class HandWeight {
  private last: PenSample | undefined;
  private speed = 0;
  private lean = 0;
  /** Twice the angle of a chisel's edge as a unit vector, so that an edge is the same from both sides. */
  private edge: { x: number; y: number } | undefined;
  private heading = { x: 0, y: 0 };

  /** `zoom` is screen px per page px. */
  constructor(
    private readonly nib: Nib,
    private readonly zoom: number,
  ) {}

  /** Whether the pressure alone makes the width. */
  get isPlain(): boolean {
    const { speed, tilt, tip } = this.nib;
    return !speed && !tilt && tip?.shape !== 'chisel';
  }

  next(sample: PenSample): number {
    const { nib } = this;
    const width = widthUnder(nib, sample.pressure);
    if (this.isPlain) return width;
    const follow = this.follow(sample);
    const fast = nib.speed ? 1 + nib.speed * clamp(this.speed / FAST, 0, 1) : 1;
    const leaning = nib.tilt ? 1 + nib.tilt * clamp(this.lean / FULL_LEAN, 0, 1) : 1;
    const cut = nib.tip?.shape === 'chisel' ? this.chisel(sample, nib.tip.angle, nib.tip.thickness, follow) : 1;
    this.last = sample;
    return width * Math.max(0.02, fast) * leaning * cut;
  }

  /** Brings speed and lean up to date. Answers the share by which smoothed values follow. */
  private follow(sample: PenSample): number {
    const { last, zoom } = this;
    const lean = leanOf(sample)?.lean ?? 0;
    if (!last) {
      this.lean = lean;
      return 1;
    }
    const time = Math.max(0, (sample.time ?? 0) - (last.time ?? 0));
    const follow = 1 - Math.exp(-time / SMOOTHING);
    const length = Math.hypot(sample.x - last.x, sample.y - last.y) * zoom;
    if (time > 0) this.speed += (length / time - this.speed) * follow;
    this.lean += (lean - this.lean) * follow;
    return follow;
  }

  /** The share of its edge that a chisel lays across the way it goes. */
  private chisel(sample: PenSample, resting: number, thickness: number, follow: number): number {
    const angle = 2 * (leanOf(sample)?.azimuth ?? resting);
    const target = { x: Math.cos(angle), y: Math.sin(angle) };
    const before = this.edge ?? target;
    this.edge = { x: before.x + (target.x - before.x) * follow, y: before.y + (target.y - before.y) * follow };
    const { last, zoom } = this;
    if (last) {
      const [dx, dy] = [sample.x - last.x, sample.y - last.y];
      const keep = Math.exp((-Math.hypot(dx, dy) * zoom) / DIRECTION);
      this.heading = { x: this.heading.x * keep + dx, y: this.heading.y * keep + dy };
    }
    const { x, y } = this.heading;
    const along = Math.hypot(x, y);
    // Where it came down the pen has no way yet: the line begins fine.
    if (along === 0) return thickness;
    const edge = Math.atan2(this.edge.y, this.edge.x) / 2;
    const cosine = (x * Math.cos(edge) + y * Math.sin(edge)) / along;
    return Math.sqrt(1 - cosine * cosine + thickness * thickness * cosine * cosine);
  }
}

/** The widths that a nib makes of samples before calm, tapers and profile, page px. `zoom` is screen px per page px. */
export function widthsOf(samples: readonly PenSample[], nib: Nib, zoom = 1): number[] {
  const weight = new HandWeight(nib, zoom);
  return samples.map((sample) => weight.next(sample));
}
