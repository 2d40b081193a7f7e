import { projectSpine, STRIDE } from '../../curve';
import { depthAt, slopeAt, type Matrix3x3, type Point } from '../../math';
import { isKeepable, mapNib, projectEnds, type Stroke } from '../../stroke';
import { PageError } from '../../gate';
import type { FoldShape, VanishingPoint } from '../guide';
import { lineThrough } from './frame';

/**
 * The map that mirrors a plane in depth across the axis through `at`: a harmonic homology, with the point of the mirrored
 * direction as its centre (Coxeter, "Projective Geometry", §5.3). It is its own way back.
 */
export function mirrorMap(across: VanishingPoint, along: VanishingPoint, at: Point): Matrix3x3 {
  const axis = lineThrough([at.x, at.y, 1], along);
  const apart = axis[0] * across[0] + axis[1] * across[1] + axis[2] * across[2];
  if (!(Math.abs(apart) > 1e-12)) throw new PageError('The axis runs through the point: there is nothing to mirror.');
  const m = (row: number, column: number) => (row === column ? 1 : 0) - (2 * across[row] * axis[column]) / apart;
  // The axis itself stays where it is, before the horizon: so the map keeps the sign of depths there.
  return [m(0, 0), m(0, 1), m(0, 2), m(1, 0), m(1, 1), m(1, 2), m(2, 0), m(2, 1), m(2, 2)];
}

export const foldMap = ({ across, along, x, y }: FoldShape): Matrix3x3 => mirrorMap(across, along, { x, y });

/** How far a line that is carried in depth may stray from its true picture, page px. */
const TOLERANCE = 0.02;
/** Nearer than this share of where it was from the horizon of a map, nothing is drawn. */
const NEAR = 0.02;

/**
 * A stroke under a projective map, its weight kept; nothing where it would come too near the horizon or behind the viewer. It is
 * a line of its own: it has no samples, no guide and no set.
 */
export function projectedStroke<S extends Stroke>(stroke: S, map: Matrix3x3): S | undefined {
  const { points } = stroke.spine;
  for (let i = 0; i < points.length; i += STRIDE)
    if (!(depthAt(map, points[i], points[i + 1]) > NEAR)) return undefined;
  const spine = projectSpine(stroke.spine, map, { tolerance: TOLERANCE });
  if (!isKeepable(spine)) return undefined;
  const { origin: _gone, guide: _left, copy: _alone, ...rest } = stroke;
  // Everything but these, which may be missing on any stroke, is still there.
  return {
    ...(rest as S),
    spine,
    ends: projectEnds(stroke.ends, map),
    nib: mapNib(stroke.nib, 1, slopeAt(map, points[0], points[1])),
  };
}
