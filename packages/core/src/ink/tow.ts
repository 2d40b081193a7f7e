import { TrailCalmer, type TrailOptions } from './trail';

/** A pen that rests for so long, ms, asks for a corner. */
export const TOW_PAUSE = 180;
/** Screen px that a resting hand may tremble by. */
const STILL = 1.5;
/** Screen px of the pen's way in one step. */
const STEP = 1.5;

export interface TowOptions extends TrailOptions {
  /** Page px from the tip within which the pen pulls nothing. */
  readonly slack: number;
  /** Page px of the pen's way after which the tip has followed a pull by all but 1/e. */
  readonly lag: number;
}

/**
 * *Tow*: the pen pulls the tip on a slack string. Within the slack nothing moves; beyond it the tip comes straight after the
 * pen, and slowly with a lag. A pen that pauses takes the slack in: the line goes up to it, and makes a corner there.
 */
export class TowCalmer extends TrailCalmer<TowOptions> {
  private rest = { x: 0, y: 0, since: 0 };
  private hasDropped = false;

  protected override start(x: number, y: number, since: number): void {
    this.rest = { x, y, since };
  }

  protected follow(x: number, y: number, weight: number, time: number): void {
    const { pen } = this;
    const { seen } = this.options;
    if (time - this.rest.since >= TOW_PAUSE && !this.hasDropped) this.dropSlack();
    const length = Math.hypot(x - pen.x, y - pen.y);
    const steps = Math.max(1, Math.min(400, Math.ceil(length / (STEP * seen))));
    for (let k = 1; k <= steps; k++) {
      const t = k / steps;
      this.weigh(this.penWeight + (weight - this.penWeight) * t, length / steps);
      this.pull(pen.x + (x - pen.x) * t, pen.y + (y - pen.y) * t, length / steps);
    }
    if (Math.hypot(x - this.rest.x, y - this.rest.y) <= STILL * seen) return;
    this.rest = { x, y, since: time };
    this.hasDropped = false;
  }

  protected catchUp(): void {
    const { pen, tip } = this;
    if (Math.hypot(pen.x - tip.x, pen.y - tip.y) > 1e-6) this.lay(pen.x, pen.y);
  }

  private pull(x: number, y: number, step: number): void {
    const { tip } = this;
    const { slack, lag } = this.options;
    const away = Math.hypot(x - tip.x, y - tip.y);
    if (away <= slack || away === 0) return;
    const share = ((away - slack) / away) * (lag > 0 ? 1 - Math.exp(-step / lag) : 1);
    this.tip = { x: tip.x + (x - tip.x) * share, y: tip.y + (y - tip.y) * share };
    this.lay(this.tip.x, this.tip.y);
  }

  private dropSlack(): void {
    this.hasDropped = true;
    this.tip = this.pen;
    this.lay(this.tip.x, this.tip.y);
  }
}
