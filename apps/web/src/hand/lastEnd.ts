import { STRIDE, type Spine } from '@true-nib/core/curve';
import type { Point } from '@true-nib/core/math';
import type { PageSlot } from '../board';

/** Where the last line that was drawn on a page ended. */
export class LastEnd {
  /** Page px; nothing before the first line. */
  at: Point | undefined;

  remember({ points }: Spine): void {
    this.at = { x: points[points.length - STRIDE], y: points[points.length - STRIDE + 1] };
  }
}

export const lastEndSlot: PageSlot<LastEnd> = { open: () => new LastEnd() };
