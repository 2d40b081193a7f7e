import { projectSpine, STRIDE } from '../../curve';
import {
  afterwards,
  applyProjective,
  depthAt,
  dot,
  invertProjective,
  scaled,
  slopeAt,
  sum,
  withDepth,
  type Matrix3x3,
  type Point,
  type Vector,
} from '../../math';
import {
  mapNib,
  PageError,
  type FoldShape,
  type FramePlane,
  type FrameShape,
  type FrameWay,
  type Stroke,
  type VanishingPoint,
} from '../../page';
import { behind, cameraOrThrow, seenSegment, type Camera } from './camera';
import { lineThrough, PLANE_WAYS, wayTo, type Extent } from './frame';
import { onPlane, planeAxes, planeHomography, planeMap } from './plane';

/** Copies that one march may make. */
export const MOST_STEPS = 500;

/** How something is repeated in equal true steps. */
export interface March {
  /** The plane that it lies on. */
  readonly plane: FramePlane;
  /** A place of it, page px: there a px of a step is a px of the page. */
  readonly anchor: Point;
  /** The direction of the steps. */
  readonly way: FrameWay;
  /** The length of a step, page px at the anchor; below 0 it goes the other way. */
  readonly step: number;
  readonly count: number;
}

/**
 * The maps of the page that take a thing on a plane to each of its equal steps, the nearest first. Steps that would come
 * behind the viewer are left out. Throws a PageError for a step of no length, for none and for more than 500 of them.
 */
export function march(frame: FrameShape, page: Extent, { plane, anchor, way, step, count }: March): Matrix3x3[] {
  if (!Number.isInteger(count) || count < 1 || count > MOST_STEPS)
    throw new PageError(`A march has 1 to ${MOST_STEPS} steps; ${count} came.`);
  if (!(Math.abs(step) > 1e-6)) throw new PageError('A step of no length marches nowhere.');
  const camera = cameraOrThrow(frame, page);
  const back = invertProjective(planeHomography(frame, plane, anchor, page));
  const [a, b] = planeAxes(camera, plane);
  const at = behind(camera, anchor);
  const along = camera.axes[way];
  const maps: Matrix3x3[] = [];
  for (let k = 1; k <= count; k++) {
    const map = planeMap(camera, a, b, sum(at, scaled(along, k * step)));
    if (map) maps.push(withDepth(afterwards(back, map), anchor));
  }
  return maps;
}

/** The true way along a direction from an anchor to the place on its line that is nearest to a mark, page px at the anchor. */
export function trueDistance(frame: FrameShape, page: Extent, anchor: Point, way: FrameWay, mark: Point): number {
  const camera = cameraOrThrow(frame, page);
  const line = wayTo(frame.points[way], anchor);
  if (!line) throw new PageError('This place is the point itself: all lines end here.');
  const share = (mark.x - anchor.x) * line.x + (mark.y - anchor.y) * line.y;
  const [u, v] = [anchor.x + share * line.x, anchor.y + share * line.y];
  // behind(anchor) + s·along is seen at (u, v): both coordinates say so, the longer one says it better.
  const [x, y, z] = behind(camera, anchor);
  const d = camera.axes[way];
  const [px, py] = [u - camera.centre.x, v - camera.centre.y];
  const ways = [
    [camera.focal * d[0] - px * d[2], px * z - camera.focal * x],
    [camera.focal * d[1] - py * d[2], py * z - camera.focal * y],
  ].sort(([p], [q]) => Math.abs(q) - Math.abs(p));
  const distance = ways[0][1] / ways[0][0];
  if (!Number.isFinite(distance) || z + distance * d[2] <= 0)
    throw new PageError('This mark lies beyond the point: no step comes there.');
  return distance;
}

/** The lines that divide the box between two corners on a plane into equal true bays along a direction. */
export function equalBays(
  frame: FrameShape,
  page: Extent,
  plane: FramePlane,
  corners: readonly [Point, Point],
  way: FrameWay,
  count: number,
): (readonly [Point, Point])[] {
  if (!Number.isInteger(count) || count < 2 || count > MOST_STEPS)
    throw new PageError(`A wall is divided into 2 to ${MOST_STEPS} bays; ${count} came.`);
  const map = planeHomography(frame, plane, corners[0], page);
  const [from, to] = corners.map((corner) => onPlane(map, corner));
  if (!from || !to) throw new PageError('One corner lies beyond the horizon of this plane.');
  const isAlong = PLANE_WAYS[plane][0] === way;
  if (!isAlong && PLANE_WAYS[plane][1] !== way) throw new PageError('This direction does not lie in the plane.');
  return Array.from({ length: count - 1 }, (_, k) => {
    const share = (k + 1) / count;
    const u = from.x + (to.x - from.x) * share;
    const v = from.y + (to.y - from.y) * share;
    const ends = isAlong
      ? [
          { x: u, y: from.y },
          { x: u, y: to.y },
        ]
      : [
          { x: from.x, y: v },
          { x: to.x, y: v },
        ];
    const [a, b] = ends.map(({ x, y }) => applyProjective(map, x, y));
    return [a, b] as const;
  });
}

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
 * A stroke under a projective map, its weight kept; nothing where it would reach the horizon or come behind the viewer. It is
 * a line of its own: it has no samples, no guide and no set.
 */
export function projectedStroke<S extends Stroke>(stroke: S, map: Matrix3x3): S | undefined {
  const { points } = stroke.spine;
  for (let i = 0; i < points.length; i += STRIDE)
    if (!(depthAt(map, points[i], points[i + 1]) > NEAR)) return undefined;
  const { origin: _gone, guide: _left, copy: _alone, ...rest } = stroke;
  // Everything but these, which may be missing on any stroke, is still there.
  return {
    ...(rest as S),
    spine: projectSpine(stroke.spine, map, { tolerance: TOLERANCE }),
    nib: mapNib(stroke.nib, 1, slopeAt(map, points[0], points[1])),
  };
}

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
