import { ringArea, type Point } from '@true-nib/core/math';
import type { Board, Gesture } from '../board';
import { zoomOf } from '../render';

/** A loop that is drawn on the board, shown while it is: `done` hears its places, and the CSS px² that it goes round. */
export function loopGesture({ picture }: Board, done: (loop: readonly Point[], area: number) => void): Gesture {
  const loop: Point[] = [];
  return {
    move: (samples) => {
      loop.push(...samples.map(({ x, y }) => ({ x, y })));
      picture.setArea(loop);
    },
    end: () => {
      picture.setArea(undefined);
      const area = Math.abs(ringArea(loop.flatMap(({ x, y }) => [x, y]))) * zoomOf(picture.view) ** 2;
      done(loop, loop.length < 3 ? 0 : area);
    },
    cancel: () => picture.setArea(undefined),
  };
}
