import { keptStore } from '../../base';

/** How the outline of a blot or a nick is made. */
export type OutlineBy = 'loop' | 'path' | 'shape' | 'template';
/** What is done with two areas that are touched. */
export type JoinDeed = 'join' | 'take' | 'common';

/** What gets the colour in hand where a flat is touched: its region, all flats of its colour, or all of its layer. */
export type Recolours = 'region' | 'colour' | 'layer';

/** What bounds the regions that are poured. */
export type Bounds = 'inks' | 'layer' | 'chosen';

/** Settings of the tools for blacks. Lengths in page px. */
export interface BlackDesk {
  readonly by: OutlineBy;
  /** A blot gets a contour, drawn with the nib in hand in the same pull. */
  readonly hasContour: boolean;
  readonly joins: JoinDeed;
  /** The template that is dragged out. */
  readonly templateId: string;
  readonly boundedBy: Bounds;
  readonly recolours: Recolours;
  /** Openings up to this width are closed. */
  readonly gap: number;
  /** How far flats reach under the lines. */
  readonly under: 'middle' | number;
  /** Page px² under which a region joins its neighbour when the page is flatted. */
  readonly least: number;
  /** Page px² under which a piece is a crumb, and ink that touches no other a speck. */
  readonly crumb: number;
  /** The page is flatted in the colour in hand. */
  readonly oneColour: boolean;
}

export const useBlacks = keptStore<BlackDesk>({
  name: 'true-nib.blacks',
  version: 1,
  fresh: {
    ...{ by: 'loop', hasContour: false, joins: 'join', templateId: 'circle' },
    ...{ boundedBy: 'inks', recolours: 'region', gap: 6, under: 'middle', least: 400, crumb: 30, oneColour: false },
  },
  kept: [
    'by',
    'hasContour',
    'joins',
    'templateId',
    'boundedBy',
    'recolours',
    'gap',
    'under',
    'least',
    'crumb',
    'oneColour',
  ],
});

export const setBlacks = (change: Partial<BlackDesk>): void => void useBlacks.setState(change);
