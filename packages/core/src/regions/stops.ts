import { distance, type Point } from '../math';
import type { Opening } from './basins';
import type { Coverage } from './coverage';

/** What was said of an opening: colour is held there, or it is meant to be open. Page px. */
export interface Said {
  readonly as: 'stop' | 'meant';
  readonly from: Point;
  readonly to: Point;
}

/** Page px by which an opening may have moved since something was said of it, and shares of its width. */
const MOVED = { px: 6, share: 0.5 } as const;

/** What was said of each opening; nothing of those that nobody spoke of. */
export function saidOf({ x, y, scale }: Coverage, all: readonly Said[]): (opening: Opening) => Said | undefined {
  const middles = all.map((said) => ({
    said,
    at: { x: (said.from.x + said.to.x) / 2, y: (said.from.y + said.to.y) / 2 },
    within: MOVED.px + MOVED.share * distance(said.from, said.to),
  }));
  return (opening) => {
    const at = { x: x + opening.x / scale, y: y + opening.y / scale };
    return middles.find((one) => distance(one.at, at) <= one.within)?.said;
  };
}
