import type { GuidePath } from '../curve';
import type { Point } from '../math';
import type { EdgeShape, FieldShape, GuideShape } from './guide';
import type { Extent } from './perspective/frame';
import { shapeRow } from './shapes/table';

const NO_PAGE: Extent = { width: 0, height: 0 };

export const isField = (shape: GuideShape): shape is FieldShape => shapeRow(shape).bears === 'field';

export const isEdge = (shape: GuideShape): shape is EdgeShape => shapeRow(shape).bears === 'edge';

/**
 * The path that a guide gives a hand that starts at `at`: of a field the one through it (or the nearest line of its grid,
 * where it snaps), of an edge the nearest. `heading` (radians) is where the hand sets out to; rays need it at their own point.
 * Of a frame it is the path closest to the heading; `page` tells the camera of its grids.
 * Nothing where the guide gives none: at the middle of ripples, for a curve of no length, and for symmetries.
 */
export const pathThrough = (
  { shape }: { readonly shape: GuideShape },
  at: Point,
  heading?: number,
  page: Extent = NO_PAGE,
): GuidePath | undefined => shapeRow(shape).path(shape, { at, heading, page });

/** Whether a path is one that a guide of this shape gives: a line that was moved off it since is none of its own. */
export const obeys = (path: GuidePath, shape: GuideShape): boolean => shapeRow(shape).obeys(path, shape);
