import { keptStore } from '../../base';

/** How the outline of a blot or a nick is made. */
export type OutlineBy = 'loop' | 'path' | 'shape' | 'template';
/** What is done with two areas that are touched. */
export type JoinDeed = 'join' | 'take' | 'common';

/** Settings of the tools for blacks. */
export interface BlackDesk {
  readonly by: OutlineBy;
  /** A blot gets a contour, drawn with the nib in hand in the same pull. */
  readonly hasContour: boolean;
  readonly joins: JoinDeed;
  /** The template that is dragged out. */
  readonly templateId: string;
}

export const useBlacks = keptStore<BlackDesk>({
  name: 'true-nib.blacks',
  version: 1,
  fresh: { by: 'loop', hasContour: false, joins: 'join', templateId: 'circle' },
  kept: ['by', 'hasContour', 'joins', 'templateId'],
});

export const setBlacks = (change: Partial<BlackDesk>): void => void useBlacks.setState(change);
