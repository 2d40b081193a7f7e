import { STRIDE, projectSpine, SEGMENT, splitSpine, type Spine } from '../../curve';
import {
  afterwards,
  applyProjective,
  cross,
  depthAt,
  invertProjective,
  projectiveOf,
  scaled,
  sum,
  type Matrix3x3,
  type Point,
  type Vector,
} from '../../math';
import { GUIDE_LIMITS, type FramePlane, type FrameShape, type PlaneShape } from '../guide';
import { isKeepable } from '../../stroke';
import { PageError } from '../../gate';
import type { EntityId } from '../../kind';
import { halfSize, templateMap } from '../placed';
import { behind, cameraOrThrow, type Camera } from './camera';
import { lineThrough, PLANE_WAYS, planeName, type Extent } from './frame';

/** How near a plane may come to being seen edge on, as the sine of the angle. */
const EDGE_ON = 1e-5;
/** How far the outline of a plane shape may stray from the true picture, page px. */
export const PLANE_TOLERANCE = 0.01;
/** Nearer to the eye than this, as a share of the distance of the plane's origin, nothing is drawn. */
const NEAR = 0.02;

/** The directions of a plane's own axes in space: the first to the right of the page, the second down or towards the eye. */
export function planeAxes({ axes }: Camera, plane: FramePlane): readonly [Vector, Vector] {
  const [along, up] = PLANE_WAYS[plane].map((way) => axes[way]);
  return [along[0] < 0 ? scaled(along, -1) : along, scaled(up, -1)];
}

/**
 * The map from a plane's own px to the page. `anchor`, page px, is the plane's origin; there a px of the plane that faces the
 * page is a px of the page. `off`: the plane parallel to it, so many of its px nearer to the eye. Throws a PageError where the
 * frame has no camera, and where the plane is seen edge on.
 */
export function planeHomography(frame: FrameShape, plane: FramePlane, anchor: Point, page: Extent, off = 0): Matrix3x3 {
  const camera = cameraOrThrow(frame, page);
  const [a, b] = planeAxes(camera, plane);
  const normal = planeNormal(camera, plane, anchor);
  const map = planeMap(camera, a, b, sum(behind(camera, anchor), scaled(normal, off)));
  if (!map)
    throw new PageError(`${planeName(frame, plane)}: this is seen edge on here. Move the corner away from the line.`);
  return map;
}

/** The unit normal of a plane through the place behind an anchor, towards the eye. */
export function planeNormal(camera: Camera, plane: FramePlane, anchor: Point): Vector {
  const normal = cross(...planeAxes(camera, plane));
  const [x, y, z] = behind(camera, anchor);
  return normal[0] * x + normal[1] * y + normal[2] * z > 0 ? scaled(normal, -1) : normal;
}

/** The picture of a plane with its origin at `at` in space; nothing where the eye lies in the plane, or before it. */
export function planeMap({ centre, focal }: Camera, a: Vector, b: Vector, at: Vector): Matrix3x3 | undefined {
  const normal = cross(a, b);
  const facing = normal[0] * at[0] + normal[1] * at[1] + normal[2] * at[2];
  if (!(at[2] > 0) || Math.abs(facing) < EDGE_ON * Math.hypot(...at)) return undefined;
  const column = ([x, y, z]: Vector) => [
    (focal * x + centre.x * z) / at[2],
    (focal * y + centre.y * z) / at[2],
    z / at[2],
  ];
  const [p, q, r] = [column(a), column(b), column(at)];
  return [p[0], q[0], r[0], p[1], q[1], r[1], p[2], q[2], 1];
}

/** The place of a page point on a plane, in its own px; nothing beyond the plane's horizon. */
export function onPlane(map: Matrix3x3, { x, y }: Point): Point | undefined {
  const back = invertProjective(map);
  // The origin lies before the horizon, on the side that is seen; so must this.
  const side = depthAt(back, map[2], map[5]);
  if (!(depthAt(back, x, y) * side > 0)) return undefined;
  return applyProjective(back, x, y);
}

/** The page point of a place on a plane; nothing for what lies behind the viewer. */
export const fromPlane = (map: Matrix3x3, { x, y }: Point): Point | undefined =>
  depthAt(map, x, y) > NEAR ? applyProjective(map, x, y) : undefined;

/** The map of a plane shape from its own px to the page. */
export const planeShapeMap = ({ map, place }: Pick<PlaneShape, 'map' | 'place'>): Matrix3x3 =>
  afterwards(projectiveOf(templateMap(place)), map);

/** Outlines of plane shapes, which never change: a board asks for them at every paint. */
const rings = new WeakMap<PlaneShape, readonly Spine[]>();

/** The outlines of a plane shape as they are seen: what lies behind the viewer is cut off. */
export function planeRings(shape: PlaneShape): readonly Spine[] {
  const known = rings.get(shape);
  if (known) return known;
  const found = projectedRings(shape);
  rings.set(shape, found);
  return found;
}

function projectedRings(shape: PlaneShape): Spine[] {
  const map = planeShapeMap(shape);
  return shape.rings.flatMap((ring) =>
    seenParts(ring, map)
      .map((part) => projectSpine(part, map, { tolerance: PLANE_TOLERANCE }))
      .filter(isKeepable),
  );
}

/** The place on a plane that a drag from its origin goes to. Throws a PageError beyond the plane's horizon. */
function draggedTo(map: Matrix3x3, to: Point): Point {
  const far = onPlane(map, to);
  if (!far) throw new PageError('This reaches over the horizon of the plane.');
  return far;
}

/** How the outlines of a template come to lie on a plane: `frame` is the one that the plane belongs to, by its name. */
export interface PlaneLaying {
  readonly frame: EntityId;
  readonly plane: FramePlane;
  readonly rings: readonly Spine[];
}

/**
 * Outlines laid on a plane between two corners, page px; without the second one about the first, a quarter of the page wide.
 * Nothing where the corners are too close. Throws a PageError where the plane cannot be seen there.
 */
export function planeShapeBetween(
  frame: FrameShape,
  laying: PlaneLaying,
  from: Point,
  to: Point | undefined,
  page: Extent,
): PlaneShape | undefined {
  const map = planeHomography(frame, laying.plane, from, page);
  const [w, h] = halfSize(laying.rings);
  const far = to ? draggedTo(map, to) : { x: page.width / 8, y: page.width / 8 };
  if (Math.abs(far.x) < 1 || Math.abs(far.y) < 1) return undefined;
  const middle = to ? { x: far.x / 2, y: far.y / 2 } : { x: 0, y: 0 };
  const scale = { scaleX: Math.abs(far.x) / (2 * w), scaleY: Math.abs(far.y) / (2 * h) };
  if (Math.max(scale.scaleX, scale.scaleY) > GUIDE_LIMITS.scale)
    throw new PageError('This reaches too far towards the horizon of the plane.');
  return { kind: 'plane', ...laying, map, place: { ...middle, ...scale, angle: 0 } };
}

/** How wide and how high a plane shape truly is, in its plane's own px. */
export function trueSize({ rings, place }: PlaneShape): { readonly width: number; readonly height: number } {
  const [w, h] = halfSize(rings);
  return { width: 2 * w * Math.abs(place.scaleX), height: 2 * h * Math.abs(place.scaleY) };
}

/**
 * The corners of a rectangle on a plane, clockwise from its upper left one, from a corner as wide as a drag goes and
 * `ratio` times as high in truth. Throws a PageError where the drag is too short or leaves the plane.
 */
export function planeRectangle(
  frame: FrameShape,
  page: Extent,
  plane: FramePlane,
  [from, to]: readonly [Point, Point],
  ratio: number,
): readonly [Point, Point, Point, Point] {
  const map = planeHomography(frame, plane, from, page);
  const far = draggedTo(map, to);
  const wide = Math.abs(far.x);
  if (wide < 8) throw new PageError('Drag from corner to corner on the plane.');
  const high = wide * ratio;
  const [x, y] = [Math.min(0, far.x), far.y < 0 ? -high : 0];
  const at = (u: number, v: number): Point => {
    const seen = fromPlane(map, { x: u, y: v });
    if (!seen) throw new PageError('Part of this would lie behind the viewer. Make it smaller.');
    return seen;
  };
  return [at(x, y), at(x + wide, y), at(x + wide, y + high), at(x, y + high)];
}

/** A course in a plane as it is seen; nothing where part of it lies behind the viewer. */
export function seenCourse(course: Spine, map: Matrix3x3): Spine | undefined {
  const [whole] = seenParts(course, map);
  const seen = whole === course ? projectSpine(course, map, { tolerance: PLANE_TOLERANCE }) : undefined;
  return seen && isKeepable(seen) ? seen : undefined;
}

/** A plane shape moved in its plane so that its middle goes by page px; as it is where that would take it over the horizon. */
export function shiftedPlane(shape: PlaneShape, dx: number, dy: number): PlaneShape {
  const at = fromPlane(shape.map, shape.place);
  const to = at && onPlane(shape.map, { x: at.x + dx, y: at.y + dy });
  return to && fromPlane(shape.map, to) ? { ...shape, place: { ...shape.place, ...to } } : shape;
}

/** The parts of a spine that a map does not take behind the viewer. */
export function seenParts(spine: Spine, map: Matrix3x3): Spine[] {
  const { points } = spine;
  const depth = (i: number) => depthAt(map, points[i], points[i + 1]) - NEAR;
  let isWhole = true;
  for (let i = 0; i < points.length; i += STRIDE) isWhole &&= depth(i) > 0;
  if (isWhole) return [spine];
  const parts: number[][] = [];
  let open: number[] | undefined;
  for (let k = 0; k + SEGMENT < points.length; k += SEGMENT)
    for (const piece of piecesOf(points.subarray(k, k + SEGMENT + STRIDE), map)) {
      const middle = splitSpine({ points: piece, closed: false }, { segment: 0, t: 0.5 })[1].points;
      if (depthAt(map, middle[0], middle[1]) <= NEAR) {
        open = undefined;
        continue;
      }
      if (open) open.push(...piece.subarray(STRIDE));
      else parts.push((open = [...piece]));
    }
  return parts.map((part) => ({ points: Float64Array.from(part), closed: false }));
}

/** A cubic cut where it comes to the nearest depth that is drawn. */
function piecesOf(cubic: Float64Array, map: Matrix3x3): Float64Array[] {
  const depth = (t: number) => {
    const s = 1 - t;
    const at = (axis: number) =>
      s * s * s * cubic[axis] +
      3 * s * s * t * cubic[3 + axis] +
      3 * s * t * t * cubic[6 + axis] +
      t * t * t * cubic[9 + axis];
    return depthAt(map, at(0), at(1)) - NEAR;
  };
  const cuts: number[] = [];
  const STEPS = 16;
  for (let k = 0; k < STEPS; k++) {
    let [low, high] = [k / STEPS, (k + 1) / STEPS];
    if (depth(low) > 0 === depth(high) > 0) continue;
    const rises = depth(high) > 0;
    for (let step = 0; step < 40; step++) {
      const t = (low + high) / 2;
      if (depth(t) > 0 === rises) high = t;
      else low = t;
    }
    // On the side that is drawn.
    cuts.push(rises ? high : low);
  }
  const pieces: Float64Array[] = [];
  let [rest, from] = [cubic, 0];
  for (const cut of cuts) {
    const [head, tail] = splitSpine({ points: rest, closed: false }, { segment: 0, t: (cut - from) / (1 - from) });
    pieces.push(head.points);
    [rest, from] = [tail.points, cut];
  }
  return [...pieces, rest];
}

/**
 * The corners of the box on a plane from corner to opposite corner, its sides along the plane's two directions; nothing
 * where the corners lie on different sides of the plane's horizon, or on it. It needs no camera.
 */
export function planeBox(
  { points }: Pick<FrameShape, 'points'>,
  plane: FramePlane,
  a: Point,
  b: Point,
): readonly [Point, Point, Point, Point] | undefined {
  const [u, v] = PLANE_WAYS[plane].map((way) => points[way]);
  const far = lineThrough(u, v);
  const side = ({ x, y }: Point) => far[0] * x + far[1] * y + far[2];
  if (!(side(a) * side(b) > 0)) return undefined;
  const [p, q] = [
    [a.x, a.y, 1],
    [b.x, b.y, 1],
  ];
  const meet = (l: readonly number[], m: readonly number[]): Point | undefined => {
    const [x, y, w] = lineThrough(l, m);
    const at = { x: x / w, y: y / w };
    return Number.isFinite(at.x) && Number.isFinite(at.y) && side(at) * side(a) > 0 ? at : undefined;
  };
  const first = meet(lineThrough(p, u), lineThrough(q, v));
  const second = meet(lineThrough(p, v), lineThrough(q, u));
  return first && second && [a, first, b, second];
}
