import { rampAt, type ToneFill } from '../area';
import type { Point } from '../math';

/**
 * A tone's own grid: u runs along its angle and v across it, both counted in periods from its middle; dots lie at whole
 * numbers of both, lines at whole numbers of v.
 */
export interface Grid {
  readonly u: (x: number, y: number) => number;
  readonly v: (x: number, y: number) => number;
  /** The place on the page, px. */
  readonly place: (u: number, v: number) => Point;
}

export function gridOf({ at, angle, period }: ToneFill, turn = 0): Grid {
  const [c, s] = [Math.cos(angle + turn), Math.sin(angle + turn)];
  return {
    u: (x, y) => ((x - at.x) * c + (y - at.y) * s) / period,
    v: (x, y) => ((y - at.y) * c - (x - at.x) * s) / period,
    place: (u, v) => ({ x: at.x + (u * c - v * s) * period, y: at.y + (u * s + v * c) * period }),
  };
}

/** The share of the paper that a tone covers about a place of the page. */
export function shareAt({ share, ramp }: ToneFill, x: number, y: number): number {
  return ramp ? share + (ramp.share - share) * rampAt(ramp, x, y) : share;
}
