import { STRIDE, type Spine } from '@true-nib/core/curve';
import type { Point } from '@true-nib/core/math';
import type { PageSlot } from '../board';

/** The last line that was drawn on a page, and where it ended. */
export class LastEnd {
  /** Page px; nothing before the first line. */
  at: Point | undefined;
  line: Spine | undefined;

  remember(line: Spine): void {
    const { points } = line;
    this.line = line;
    this.at = { x: points[points.length - STRIDE], y: points[points.length - STRIDE + 1] };
  }
}

export const lastEndSlot: PageSlot<LastEnd> = { open: () => new LastEnd() };
