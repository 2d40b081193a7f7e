import { STRIDE, type Spine } from '@true-nib/core/curve';
import type { Point } from '@true-nib/core/math';

let end: Point | undefined;

/** Where the last line that was drawn here ended, page px; nothing before the first. */
export const lastEnd = (): Point | undefined => end;

export function rememberEnd({ points }: Spine): void {
  end = { x: points[points.length - STRIDE], y: points[points.length - STRIDE + 1] };
}

/** A page that was just opened has no line to go on from. */
export function forgetEnd(): void {
  end = undefined;
}
