import { PageError } from '@true-nib/core/gate';
import type { FrameShape } from '@true-nib/core/guides';

/** A frame that may not be possible: nothing where it is not. */
export function frameOrNone(make: () => FrameShape): FrameShape | undefined {
  try {
    return make();
  } catch (error) {
    if (!(error instanceof PageError)) throw error;
    return undefined;
  }
}
