import { create } from 'zustand';

/** How one selects, and transforms what is selected. */
export interface SelectChoice {
  /** How lines are selected: by a rectangle, a loop or by touching them; `selectWhole` leaves out those that reach outside. */
  readonly selectBy: 'rect' | 'loop' | 'touch';
  readonly selectWhole: boolean;
  /** How the frame of a selection is dragged; Shift and Alt turn the first two around. */
  readonly proportional: boolean;
  readonly fromCentre: boolean;
  readonly freeCorners: boolean;
  /** Page px by which selected pixels grow or shrink at one touch. */
  readonly growBy: number;
  /** Whether weights grow and shrink with what is transformed. */
  readonly scaleWidth: boolean;
}

export const useSelectChoice = create<SelectChoice>()(() => ({
  selectBy: 'loop',
  selectWhole: false,
  proportional: false,
  fromCentre: false,
  freeCorners: false,
  growBy: 2,
  scaleWidth: false,
}));

export const setSelectChoice = (change: Partial<SelectChoice>): void => useSelectChoice.setState(change);
