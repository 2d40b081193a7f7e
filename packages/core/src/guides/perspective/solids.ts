import { dot, scaled, sum, type Point, type Vector } from '../../math';
import { PageError } from '../../gate';
import type { FrameShape } from '../guide';
import { behind, cameraOrThrow, seenSegment, type Camera } from './camera';
import type { Extent } from './frame';
import { MOST_STEPS, trueDistance } from './march';
import { onPlane, planeAxes, planeHomography } from './plane';

/** A stair: from its foot along one direction and up, and as wide as it goes along the other. Lengths in page px at the foot. */
export interface Stair {
  readonly foot: Point;
  readonly way: 'right' | 'left';
  readonly run: number;
  readonly rise: number;
  readonly width: number;
  readonly count: number;
}

/** The edges of a stair: risers and treads on both sides, and the noses across. What lies behind the viewer is cut off. */
export function stairEdges(
  frame: FrameShape,
  page: Extent,
  { foot, way, run, rise, width, count }: Stair,
): (readonly [Point, Point])[] {
  if (!Number.isInteger(count) || count < 1 || count > MOST_STEPS)
    throw new PageError(`A stair has 1 to ${MOST_STEPS} steps; ${count} came.`);
  if (!(run > 0) || !(rise !== 0) || !(width > 0)) throw new PageError('A stair has a run, a rise and a width.');
  const camera = cameraOrThrow(frame, page);
  const deep = scaled(camera.axes[way], run);
  const wide = scaled(camera.axes[way === 'right' ? 'left' : 'right'], width);
  const up = scaled(camera.axes.height, rise);
  const start = behind(camera, foot);
  const at = (steps: number, risers: number, side: number): Vector =>
    sum(start, sum(sum(scaled(deep, steps), scaled(up, risers)), scaled(wide, side)));
  const edges: (readonly [Vector, Vector])[] = [[at(0, 0, 0), at(0, 0, 1)]];
  for (let k = 0; k < count; k++) {
    for (const side of [0, 1]) {
      edges.push([at(k, k, side), at(k, k + 1, side)]);
      edges.push([at(k, k + 1, side), at(k + 1, k + 1, side)]);
    }
    edges.push([at(k, k + 1, 0), at(k, k + 1, 1)]);
  }
  edges.push([at(count, count, 0), at(count, count, 1)]);
  return seen(camera, edges);
}

export interface BoxEdge {
  readonly ends: readonly [Point, Point];
  readonly isHidden: boolean;
}

/**
 * The twelve edges of a box with its base on a floor from corner to opposite corner, as high as the upright through the second
 * corner says at `top`. An edge is hidden where both faces beside it look away from the eye.
 */
export function boxEdges(frame: FrameShape, page: Extent, corners: readonly [Point, Point], top: Point): BoxEdge[] {
  const camera = cameraOrThrow(frame, page);
  const floor = planeHomography(frame, 'floor', corners[0], page);
  const far = onPlane(floor, corners[1]);
  if (!far) throw new PageError('The base reaches over the horizon. Keep it on the floor.');
  const [a, b] = planeAxes(camera, 'floor');
  const start = behind(camera, corners[0]);
  const sides = [scaled(a, far.x), scaled(b, far.y)];
  // The height is measured where the hand is, then taken to the depth of the first corner.
  const height =
    trueDistance(frame, page, corners[1], 'height', top) * (sum(start, sum(sides[0], sides[1]))[2] / camera.focal);
  const edges: Vector[] = [...sides, scaled(camera.axes.height, height)];
  if (edges.some((edge) => Math.hypot(...edge) < 1e-6)) throw new PageError('A box needs a base and a height.');
  const corner = (bits: number): Vector => edges.reduce((at, edge, k) => ((bits >> k) & 1 ? sum(at, edge) : at), start);
  const faces = edges.flatMap((_, k) => [0, 1].map((side) => ({ k, side, seen: isFaceSeen(edges, k, side, corner) })));
  const found: BoxEdge[] = [];
  for (let k = 0; k < 3; k++)
    for (const bits of [0, 1, 2, 3]) {
      const [m, n] = [(k + 1) % 3, (k + 2) % 3];
      const [p, q] = [bits & 1, bits >> 1];
      const from = (p << m) | (q << n);
      const ends = seenSegment(camera, corner(from), corner(from | (1 << k)));
      const isSeen = faces.some(
        (face) => face.seen && ((face.k === m && face.side === p) || (face.k === n && face.side === q)),
      );
      if (ends) found.push({ ends, isHidden: !isSeen });
    }
  return found;
}

/** Whether the eye looks at the face of a box across edge `k`, at its start or its end. */
function isFaceSeen(edges: readonly Vector[], k: number, side: number, corner: (bits: number) => Vector): boolean {
  const outwards = scaled(edges[k], side === 1 ? 1 : -1);
  return dot(outwards, corner(side << k)) < 0;
}

const seen = (camera: Camera, edges: readonly (readonly [Vector, Vector])[]): (readonly [Point, Point])[] =>
  edges.flatMap(([from, to]) => {
    const ends = seenSegment(camera, from, to);
    return ends ? [ends] : [];
  });
