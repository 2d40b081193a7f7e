import { projectSpine, STRIDE, type Spine } from '../curve';
import { affineOf, depthAt, isAffine, localScaleOf, slopeAt, type Box, type Matrix3x3 } from '../math';
import { isKeepable, mapNib, mapStroke, PageError, projectEnds, type Stroke } from '../page';

/** How far a mapped spine may stray from the mapped course, page px: below the quarter px that could be seen. */
const TOLERANCE = 0.2;

export interface TransformOptions {
  /** Whether line weights grow and shrink with the map; they are kept otherwise. */
  readonly scaleWidth: boolean;
}

/**
 * Strokes under a projective map of the page. They stay strokes: an affine map carries nodes and handles over exactly, any
 * other is followed within 0.2 page px, with nodes added only where that takes them. Raw samples go along with an affine
 * map and are let go by any other. Throws a PageError for a map that flattens the plane or takes a stroke over its horizon, or too
 * far off the page.
 */
export function transformStrokes<S extends Stroke>(
  strokes: readonly S[],
  matrix: Matrix3x3,
  { scaleWidth }: TransformOptions,
): S[] {
  if (!matrix.every(Number.isFinite)) throw new PageError('This transform has no numbers to go by.');
  const [a, b, c, d, e, f, g, h, i] = matrix;
  const determinant = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g);
  const size = Math.abs(i) || 1;
  if (!(Math.abs(determinant) / size ** 3 > 1e-8))
    throw new PageError('This would flatten the lines. Give them some width and height.');
  return strokes.map((stroke) => {
    const moved = isAffine(matrix)
      ? mapStroke(stroke, affineOf(matrix), scaleWidth)
      : projective(stroke, matrix, scaleWidth);
    if (!isKeepable(moved.spine)) throw new PageError('Some lines would lie too far off the page.');
    return moved;
  });
}

function projective<S extends Stroke>(stroke: S, matrix: Matrix3x3, scaleWidth: boolean): S {
  const { points: old } = stroke.spine;
  const side = Math.sign(depthAt(matrix, old[0], old[1]));
  for (let k = 0; k < old.length; k += STRIDE)
    if (depthAt(matrix, old[k], old[k + 1]) * side <= 1e-9)
      throw new PageError('Some lines would run over the horizon. Pull the corners less far.');
  const middle = Math.floor((old.length / STRIDE - 1) / 2 / 3) * 3 * STRIDE;
  const factor = scaleWidth ? localScaleOf(matrix, old[middle], old[middle + 1]) : 1;
  const { origin: _gone, guide: _left, copy: _alone, ...rest } = stroke;
  // Everything but these, which may be missing on any stroke, is still there.
  return {
    ...(rest as S),
    spine: projectSpine(stroke.spine, matrix, { tolerance: TOLERANCE, scaleWidth }),
    ends: projectEnds(stroke.ends, matrix, side),
    nib: mapNib(stroke.nib, factor, slopeAt(matrix, old[middle], old[middle + 1])),
  };
}

/** The spine's own box, widths left out: what a hand takes hold of. */
export function courseBox(spines: Iterable<Spine>): Box {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const { points } of spines)
    for (let k = 0; k < points.length; k += STRIDE) {
      if (points[k] < minX) minX = points[k];
      if (points[k] > maxX) maxX = points[k];
      if (points[k + 1] < minY) minY = points[k + 1];
      if (points[k + 1] > maxY) maxY = points[k + 1];
    }
  return { minX, minY, maxX, maxY };
}
