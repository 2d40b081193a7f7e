import { isSameCourse, projectSpine, STRIDE, type Spine, type GuidePath } from '../../curve';
import {
  afterwards,
  applyProjective,
  depthAt,
  invertProjective,
  slopeAt,
  withDepth,
  type Matrix3x3,
  type Point,
} from '../../math';
import { FRAME_WAYS, type FrameShape, type FrameWay, type PlaneShape } from '../guide';
import { isKeepable, mapNib, projectEnds, type Stroke, type StrokeEntity } from '../../stroke';
import { PageError } from '../../gate';
import type { EntityId } from '../../kind';
import { behind, cameraOf, cameraOrThrow, frameOfCamera, isCamera } from './camera';
import { cameraBetween, cameraMap, turnedCamera, type Turn } from './turn';
import { wayTo, type Extent } from './frame';
import { planeAxes, planeMap, planeRings, planeShapeMap } from './plane';

/** How far a carried line may stray from its true picture, page px. */
const TOLERANCE = 0.01;
/** Nearer than this to the horizon of a map a line is left where it is. */
const NEAR = 0.02;

/** The map that carries all that is seen in a frame along when it becomes another; nothing where one of them has no camera. */
export function frameChange(before: FrameShape, after: FrameShape, page: Extent): Matrix3x3 | undefined {
  const [from, to] = [cameraOf(before, page), cameraOf(after, page)];
  return isCamera(from) && isCamera(to) ? cameraMap(from, to) : undefined;
}

/** A frame whose camera was turned where it stands; its corner is carried along. Throws a PageError where it has no camera. */
export function turnedFrame(frame: FrameShape, turn: Turn, page: Extent): FrameShape {
  const before = cameraOrThrow(frame, page);
  const { kind: _kind, points: _points, ...settings } = frame;
  const after = frameOfCamera(turnedCamera(before, turn), page, settings);
  const map = frameChange(frame, after, page);
  if (!map || depthAt(map, frame.corner.x, frame.corner.y) <= NEAR)
    throw new PageError('The corner of the frame would come behind the viewer.');
  return { ...after, corner: applyProjective(map, frame.corner.x, frame.corner.y) };
}

/** The frame between two, as its camera turns from the one to the other. */
export function frameBetween(from: FrameShape, to: FrameShape, share: number, page: Extent): FrameShape {
  if (share >= 1) return to;
  if (share <= 0) return from;
  const [a, b] = [cameraOf(from, page), cameraOf(to, page)];
  if (!isCamera(a) || !isCamera(b)) return share < 0.5 ? from : to;
  const { kind: _kind, points: _points, ...settings } = to;
  const between = frameOfCamera(cameraBetween(a, b, share), page, settings);
  const map = frameChange(from, between, page);
  return map ? { ...between, corner: applyProjective(map, from.corner.x, from.corner.y) } : between;
}

/** The directions of a frame that a straight path runs in. */
export function wayOf({ points }: FrameShape, path: GuidePath): FrameWay | undefined {
  if (path.kind !== 'line') return undefined;
  return FRAME_WAYS.find((way) => {
    const [x, y, w] = points[way];
    if (w === 0) return Math.abs(x * path.dy - y * path.dx) < 1e-6;
    const [u, v] = [x - path.x, y - path.y];
    return Math.abs(u * path.dy - v * path.dx) < 1e-6 * (1 + Math.hypot(u, v)) + 1e-3;
  });
}

/** How far from the chord between its ends a straight line may bend, page px. */
const STRAIGHT = 1e-6;

/**
 * A stroke that belongs to a frame and is carried along with it: one that runs in a direction of it as any line drawn on it, any
 * other by its own course.
 */
export function inFrame<S extends Stroke>(stroke: S, id: EntityId, frame: FrameShape): S {
  const { points } = stroke.spine;
  const [a, b] = [
    { x: points[0], y: points[1] },
    { x: points[points.length - STRIDE], y: points[points.length - STRIDE + 1] },
  ];
  const long = Math.hypot(b.x - a.x, b.y - a.y);
  const [dx, dy] = [(b.x - a.x) / long, (b.y - a.y) / long];
  let isStraight = long > 0;
  for (let i = 0; i < points.length; i += STRIDE)
    isStraight &&= Math.abs((points[i] - a.x) * dy - (points[i + 1] - a.y) * dx) < STRAIGHT * (1 + long);
  const path: GuidePath = { kind: 'line', ...a, dx, dy };
  const own: GuidePath = isStraight && wayOf(frame, path) ? path : { kind: 'curve', course: stroke.spine };
  return { ...stroke, guide: { id, path: own } };
}

/** Whether a path is a stroke's own course, as it was when it was put into a frame. */
export const isOwnCourse = (path: GuidePath, spine: Spine): boolean =>
  path.kind === 'curve' && isSameCourse(path.course, spine);

/** Whether a path is part of an outline of a plane shape. */
export const isOnPlaneShape = (path: GuidePath, shape: PlaneShape): boolean =>
  path.kind === 'curve' && planeRings(shape).some((ring) => isSameCourse(ring, path.course));

/** A plane shape after its frame became another: carried by the map of the page, laid anew where it lies, or left as it is. */
export function carriedPlane(
  shape: PlaneShape,
  after: FrameShape,
  page: Extent,
  map: Matrix3x3 | undefined,
): PlaneShape {
  const anchor = applyProjective(shape.map, 0, 0);
  if (map) {
    // What would come behind the viewer waits where it is, as lines do.
    if (!(depthAt(map, anchor.x, anchor.y) > NEAR)) return shape;
    return { ...shape, map: withDepth(afterwards(shape.map, map), { x: 0, y: 0 }) };
  }
  const camera = cameraOf(after, page);
  // Points that are no camera's yet, as on the way of a drag, leave it where it is.
  if (!isCamera(camera)) return shape;
  const own = planeMap(camera, ...planeAxes(camera, shape.plane), behind(camera, anchor));
  return own ? { ...shape, map: own } : shape;
}

/** The map of the page that moves what lies on a plane shape as the shape itself was moved. */
export const planeShapeMove = (before: PlaneShape, after: PlaneShape): Matrix3x3 => {
  const move = afterwards(invertProjective(planeShapeMap(before)), planeShapeMap(after));
  return withDepth(move, applyProjective(planeShapeMap(before), 0, 0));
};

/** A line carried by a map of the page, on its new path; the very same line where it would come too near the map's horizon. */
export function carriedStroke(
  stroke: StrokeEntity,
  map: Matrix3x3,
  pathAt: (start: Point, course: Spine) => GuidePath | undefined,
): StrokeEntity {
  const { points } = stroke.spine;
  for (let i = 0; i < points.length; i += STRIDE) if (!(depthAt(map, points[i], points[i + 1]) > NEAR)) return stroke;
  const { guide, origin } = stroke;
  const spine = projectSpine(stroke.spine, map, { tolerance: TOLERANCE });
  const path = guide && pathAt(applyProjective(map, points[0], points[1]), spine);
  if (!path || !isKeepable(spine)) return stroke;
  return {
    ...stroke,
    spine,
    nib: mapNib(stroke.nib, 1, slopeAt(map, points[0], points[1])),
    ends: projectEnds(stroke.ends, map),
    guide: { ...guide, path },
    ...(origin && { origin: { ...origin, left: 'edited' as const } }),
  };
}

/** The path towards a point of a frame from a place. */
export function pathTowards(frame: FrameShape, way: FrameWay, at: Point): GuidePath | undefined {
  const line = wayTo(frame.points[way], at);
  return line && { kind: 'line', ...at, dx: line.x, dy: line.y };
}

/** The outline of a moved plane shape that a path of the old one was. */
export function ringAfter(path: GuidePath, before: PlaneShape, after: PlaneShape): GuidePath | undefined {
  if (path.kind !== 'curve') return undefined;
  const [rings, moved] = [planeRings(before), planeRings(after)];
  const k = rings.findIndex((ring) => isSameCourse(ring, path.course));
  // Where the horizon cuts one of them, nobody can say which part is which.
  return k < 0 || rings.length !== moved.length ? undefined : { kind: 'curve', course: moved[k] };
}
