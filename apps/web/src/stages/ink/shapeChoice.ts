import type { ShapeKind, ShapeSettings } from '@true-nib/core/shapes';
import { keptStore } from '../../base';

/** What the shape tool makes of a drag. */
export interface ShapeChoice {
  readonly shape: ShapeKind;
  readonly settings: ShapeSettings;
}

export const useShapeChoice = keptStore<ShapeChoice>({
  name: 'true-nib.shapes',
  version: 1,
  fresh: {
    shape: 'line',
    settings: { fromCentre: false, regular: false, rounding: 0, corners: 5, inner: 0.45, bend: 0.5 },
  },
  kept: ['shape', 'settings'],
});
