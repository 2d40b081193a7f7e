import { SEGMENT, splitSpine, STRIDE, type Spine } from '../curve';
import { mapNib, mapStroke, PageError, type Stroke } from '../page';
import { affineOf, applyProjective, depthAt, isAffine, slopeAt, type Matrix3x3 } from './homography';

/** How far a mapped spine may stray from the mapped course, page px: below the quarter px that could be seen. */
const TOLERANCE = 0.2;
const MOST_SPLITS = 10;
/** Where a mapped cubic is held against the true image. */
const PROBES = [0.125, 0.25, 0.375, 0.5, 0.625, 0.75, 0.875];

export interface TransformOptions {
  /** Whether line weights grow and shrink with the map; they are kept otherwise. */
  readonly scaleWidth: boolean;
}

/**
 * Strokes under a projective map of the page. They stay strokes: an affine map carries nodes and handles over exactly, any
 * other is followed within 0.2 page px, with nodes added only where that takes them. Raw samples go along with an affine
 * map and are let go by any other. Throws a PageError for a map that flattens the plane or takes a stroke over its horizon.
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
  return strokes.map((stroke) =>
    isAffine(matrix) ? mapStroke(stroke, affineOf(matrix), scaleWidth) : projective(stroke, matrix, scaleWidth),
  );
}

function projective<S extends Stroke>(stroke: S, matrix: Matrix3x3, scaleWidth: boolean): S {
  const points: number[] = [];
  const { points: old, closed } = stroke.spine;
  const side = Math.sign(depthAt(matrix, old[0], old[1]));
  for (let k = 0; k < old.length; k += STRIDE)
    if (depthAt(matrix, old[k], old[k + 1]) * side <= 1e-9)
      throw new PageError('Some lines would run over the horizon. Pull the corners less far.');
  for (let k = 0; k + SEGMENT < old.length; k += SEGMENT)
    mapCubic(old.subarray(k, k + SEGMENT + STRIDE), matrix, scaleWidth, points, 0);
  const middle = Math.floor((old.length / STRIDE - 1) / 2 / 3) * SEGMENT;
  const factor = scaleWidth ? localScale(matrix, old[middle], old[middle + 1]) : 1;
  const { origin: _gone, guide: _left, copy: _alone, ...rest } = stroke;
  // Everything but these, which may be missing on any stroke, is still there.
  return {
    ...(rest as S),
    spine: { points: Float64Array.from(points), closed },
    nib: mapNib(stroke.nib, factor, slopeAt(matrix, old[middle], old[middle + 1])),
  };
}

/** Appends the image of one cubic, in as many pieces as it takes; a first node only where there is none yet. */
function mapCubic(cubic: Float64Array, matrix: Matrix3x3, scaleWidth: boolean, points: number[], splits: number): void {
  const image = imageOf(cubic, matrix, scaleWidth);
  if (splits < MOST_SPLITS && error(cubic, image, matrix, scaleWidth) > TOLERANCE) {
    const [head, tail] = splitSpine({ points: cubic, closed: false }, { segment: 0, t: 0.5 });
    mapCubic(head.points, matrix, scaleWidth, points, splits + 1);
    mapCubic(tail.points, matrix, scaleWidth, points, splits + 1);
  } else points.push(...(points.length === 0 ? image : image.slice(STRIDE)));
}

/** A cubic through the image's ends with its tangents and speeds there (Hermite); widths likewise. */
function imageOf(p: Float64Array, matrix: Matrix3x3, scaleWidth: boolean): number[] {
  const end = (node: number, handle: number) => {
    const at = applyProjective(matrix, p[node], p[node + 1]);
    const slope = slopeAt(matrix, p[node], p[node + 1]);
    const dx = p[handle] - p[node];
    const dy = p[handle + 1] - p[node + 1];
    const scale = scaleWidth ? localScale(matrix, p[node], p[node + 1]) : 1;
    const beyond = scaleWidth ? localScale(matrix, p[handle], p[handle + 1]) : 1;
    return {
      node: [at.x, at.y, p[node + 2] * scale],
      handle: [at.x + slope[0] * dx + slope[2] * dy, at.y + slope[1] * dx + slope[3] * dy, p[handle + 2] * beyond],
    };
  };
  const start = end(0, 3);
  const finish = end(9, 6);
  return [...start.node, ...start.handle, ...finish.handle, ...finish.node];
}

function error(cubic: Float64Array, image: readonly number[], matrix: Matrix3x3, scaleWidth: boolean): number {
  let worst = 0;
  for (const t of PROBES) {
    const [x, y, width] = cubicTriple(cubic, t);
    const [ix, iy, iw] = cubicTriple(image, t);
    const wanted = applyProjective(matrix, x, y);
    const wide = width * (scaleWidth ? localScale(matrix, x, y) : 1);
    worst = Math.max(worst, Math.hypot(wanted.x - ix, wanted.y - iy), Math.abs(wide - iw) / 2);
  }
  return worst;
}

function cubicTriple(p: ArrayLike<number>, t: number): readonly [number, number, number] {
  const s = 1 - t;
  const [b0, b1, b2, b3] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
  const at = (axis: number) => b0 * p[axis] + b1 * p[3 + axis] + b2 * p[6 + axis] + b3 * p[9 + axis];
  return [at(0), at(1), at(2)];
}

/** How much the map enlarges lengths about a point: the geometric mean over directions. */
function localScale(matrix: Matrix3x3, x: number, y: number): number {
  const [xx, yx, xy, yy] = slopeAt(matrix, x, y);
  return Math.sqrt(Math.abs(xx * yy - xy * yx));
}

/** The spine's own box, widths left out: what a hand takes hold of. */
export function courseBox(spines: Iterable<Spine>): { minX: number; minY: number; maxX: number; maxY: number } {
  const box = { minX: Infinity, minY: Infinity, maxX: -Infinity, maxY: -Infinity };
  for (const { points } of spines)
    for (let k = 0; k < points.length; k += STRIDE) {
      box.minX = Math.min(box.minX, points[k]);
      box.minY = Math.min(box.minY, points[k + 1]);
      box.maxX = Math.max(box.maxX, points[k]);
      box.maxY = Math.max(box.maxY, points[k + 1]);
    }
  return box;
}
