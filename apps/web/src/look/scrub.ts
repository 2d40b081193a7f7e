import { clamp } from '@true-nib/core/math';

/** A range of numbers that a finger can be dragged along. */
export interface ScrubRange {
  readonly least: number;
  readonly most: number;
  readonly step: number;
  /** Equal drags multiply instead of add: for sizes. */
  readonly geometric?: boolean;
}

/** Where a value lies in its range, 0..1. */
export function asShare(value: number, { least, most, geometric }: ScrubRange): number {
  const share = geometric ? Math.log(value / least) / Math.log(most / least) : (value - least) / (most - least);
  return clamp(share, 0, 1);
}

/**
 * The value at a share of the range, on a step. With `direction` and `from` it moves by at least one step, so that a key
 * always does something.
 */
export function fromShare(
  share: number,
  { least, most, step, geometric }: ScrubRange,
  direction = 0,
  from = 0,
): number {
  const wanted = geometric ? least * (most / least) ** clamp(share, 0, 1) : least + (most - least) * clamp(share, 0, 1);
  let value = Math.round(wanted / step) * step;
  if (direction !== 0 && Math.sign(value - from) !== direction) value = Math.round(from / step + direction) * step;
  return Number(clamp(value, least, most).toFixed(4));
}
