import { applyProjective, localScaleOf, slopeAt, type Matrix3x3 } from '../math';
import { SEGMENT, STRIDE, type Spine } from './spine';
import { splitSpine } from './split';

const MOST_SPLITS = 10;
/** Where a mapped cubic is held against the true image. */
const PROBES = [0.125, 0.25, 0.375, 0.5, 0.625, 0.75, 0.875];

export interface ProjectOptions {
  /** How far the image may stray from the true one, page px. */
  readonly tolerance: number;
  /** Whether widths grow and shrink with the map; they are kept otherwise. */
  readonly scaleWidth?: boolean;
}

/**
 * The image of a spine under a projective map: cubics through the true places with their true tangents there, split in two
 * until they are near enough. All of the spine must lie before the map's horizon.
 */
export function projectSpine(spine: Spine, map: Matrix3x3, options: ProjectOptions): Spine {
  const { points: old, closed } = spine;
  const points: number[] = [];
  for (let k = 0; k + SEGMENT < old.length; k += SEGMENT)
    mapCubic(old.subarray(k, k + SEGMENT + STRIDE), map, options, points);
  return { points: Float64Array.from(points), closed };
}

/** Appends the image of one cubic, in as many pieces as it takes; a first node only where there is none yet. */
function mapCubic(cubic: Float64Array, matrix: Matrix3x3, options: ProjectOptions, points: number[], splits = 0): void {
  const { tolerance, scaleWidth = false } = options;
  const image = imageOf(cubic, matrix, scaleWidth);
  if (splits < MOST_SPLITS && error(cubic, image, matrix, scaleWidth) > tolerance) {
    const [head, tail] = splitSpine({ points: cubic, closed: false }, { segment: 0, t: 0.5 });
    mapCubic(head.points, matrix, options, points, splits + 1);
    mapCubic(tail.points, matrix, options, points, splits + 1);
  } else points.push(...(points.length === 0 ? image : image.slice(STRIDE)));
}

/** A cubic through the image's ends with its tangents and speeds there (Hermite); widths likewise. */
function imageOf(p: Float64Array, matrix: Matrix3x3, scaleWidth: boolean): number[] {
  const end = (node: number, handle: number) => {
    const at = applyProjective(matrix, p[node], p[node + 1]);
    const slope = slopeAt(matrix, p[node], p[node + 1]);
    const dx = p[handle] - p[node];
    const dy = p[handle + 1] - p[node + 1];
    const scale = scaleWidth ? localScaleOf(matrix, p[node], p[node + 1]) : 1;
    const beyond = scaleWidth ? localScaleOf(matrix, p[handle], p[handle + 1]) : 1;
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
    const wide = width * (scaleWidth ? localScaleOf(matrix, x, y) : 1);
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
