import { TrailCalmer, type TrailOptions } from './trail';

/** ms in one step, and how much of a pause is worked out: a spring is at rest long before. */
const STEP = 4;
const LONGEST = 1_000;
/** ms between the samples of a hand that tells no times: those of a device that counts 125 a second. */
const UNTOLD = 8;
/** Screen px from the pen at which a spring is taken to be at rest. */
const AT_REST = 0.05;
const MOST_STEPS = 120;

export interface SprungOptions extends TrailOptions {
  /** ms in which a spring without drag would turn by one radian; 0 leaves the hand as it is. */
  readonly time: number;
  /** 0..1: 1 is critically damped, less lets the line swing. */
  readonly drag: number;
}

/** The least damping ratio, at drag 0: it swings, and comes to rest all the same. */
const LEAST_DAMPING = 0.3;

/** A damped spring in one axis: away from its target, and how fast that changes (a unit per ms). */
export interface Spring {
  readonly away: number;
  readonly speed: number;
}

/**
 * A damped spring after `time` ms: the closed form of e″ + 2ζωe′ + ω²e = 0, where ω is per ms and the damping ratio ζ lies in
 * 0..1 (textbooks of mechanics; e.g. French, "Vibrations and Waves", 1971).
 */
export function sprung({ away, speed }: Spring, omega: number, damping: number, time: number): Spring {
  const decay = Math.exp(-damping * omega * time);
  const lead = speed + damping * omega * away;
  if (damping >= 1) {
    const now = (away + lead * time) * decay;
    return { away: now, speed: lead * decay - omega * now };
  }
  const swing = omega * Math.sqrt(1 - damping * damping);
  const [sine, cosine] = [Math.sin(swing * time), Math.cos(swing * time)];
  const now = (away * cosine + (lead / swing) * sine) * decay;
  const rate = (lead * cosine - away * swing * sine) * decay;
  return { away: now, speed: rate - damping * omega * now };
}

/** *Sprung*: the tip is a mass on a damped spring that the pen holds. */
export class SprungCalmer extends TrailCalmer<SprungOptions> {
  private speed = { x: 0, y: 0 };
  /** Whether the hand has told a time yet. */
  private isTimed = false;

  protected follow(x: number, y: number, weight: number, time: number): void {
    const { pen } = this;
    this.isTimed ||= time > this.time;
    const dt = this.isTimed ? Math.min(LONGEST, Math.max(0, time - this.time)) : UNTOLD;
    const length = Math.hypot(x - pen.x, y - pen.y);
    if (this.options.time === 0) {
      this.weigh(weight, length);
      this.tip = { x, y };
      this.lay(x, y);
      return;
    }
    if (dt === 0) return this.weigh(weight, length);
    const steps = Math.max(1, Math.ceil(dt / STEP));
    const pull = { x: (x - pen.x) / dt, y: (y - pen.y) / dt };
    for (let k = 1; k <= steps; k++) {
      const t = k / steps;
      this.weigh(this.penWeight + (weight - this.penWeight) * t, length / steps);
      const from = { x: pen.x + ((x - pen.x) * (k - 1)) / steps, y: pen.y + ((y - pen.y) * (k - 1)) / steps };
      this.swing(from, pull, dt / steps, this.damping);
      this.lay(this.tip.x, this.tip.y);
    }
  }

  /** The spring draws itself in without swinging, then the line is at the pen. */
  protected catchUp(): void {
    const { tip, speed, pen } = this;
    const near = AT_REST * this.options.seen;
    if (this.options.time > 0)
      for (let k = 0; k < MOST_STEPS && Math.hypot(pen.x - this.tip.x, pen.y - this.tip.y) > near; k++) {
        this.swing(pen, { x: 0, y: 0 }, 2 * STEP, 1);
        this.lay(this.tip.x, this.tip.y);
      }
    if (Math.hypot(pen.x - this.tip.x, pen.y - this.tip.y) > 0) this.lay(pen.x, pen.y);
    this.tip = tip;
    this.speed = speed;
  }

  private get damping(): number {
    return LEAST_DAMPING + (1 - LEAST_DAMPING) * this.options.drag;
  }

  /** Moves the tip for `time` ms while the pen goes from a place at an even speed: behind that it comes to trail by 2ζ/ω. */
  private swing(
    from: { readonly x: number; readonly y: number },
    pull: { readonly x: number; readonly y: number },
    time: number,
    damping: number,
  ): void {
    const omega = 1 / this.options.time;
    const trail = (2 * damping) / omega;
    const next = (axis: 'x' | 'y') => {
      const start = { away: this.tip[axis] - from[axis] + trail * pull[axis], speed: this.speed[axis] - pull[axis] };
      const end = sprung(start, omega, damping, time);
      return {
        place: end.away + from[axis] + pull[axis] * time - trail * pull[axis],
        speed: end.speed + pull[axis],
      };
    };
    const [x, y] = [next('x'), next('y')];
    this.tip = { x: x.place, y: y.place };
    this.speed = { x: x.speed, y: y.speed };
  }
}
