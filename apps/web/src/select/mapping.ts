import type { DrawnEntity } from '@true-nib/core/drawn';
import type { EntityId } from '@true-nib/core/kind';
import type { Matrix3x3 } from '@true-nib/core/math';

/** Strokes that are transformed in one go: some ms. */
export const PART = 800;

/** What is about to be transformed, and how. */
export interface Mapping {
  readonly before: readonly DrawnEntity[];
  readonly map: Matrix3x3;
  readonly layerId: EntityId;
  readonly scaleWidth: boolean;
}
