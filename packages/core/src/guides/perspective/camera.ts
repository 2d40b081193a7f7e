import { box, clippedSegment, scaled, sum, unit, type Point, type Vector } from '../../math';
import { FARTHEST_DRAWN } from '../../stroke';
import { FRAME_WAYS, type FrameShape, type FrameWay, type VanishingPoint } from '../guide';
import { PageError } from '../../gate';
import {
  frameFromPoints,
  isFinitePoint,
  placeOfPoint,
  vanishingPoint,
  WAY_NAMES,
  type Extent,
  type FrameParts,
} from './frame';

/** The eye that sees a frame. Its own axes: x to the right, y down the page, z into the picture. */
export interface Camera {
  /** The centre of vision, page px: where the eye looks straight at the page. */
  readonly centre: Point;
  /** How far the eye is before the page, page px. */
  readonly focal: number;
  /** The directions of the frame, unit vectors at right angles: right and left away from the eye, height upwards. */
  readonly axes: Readonly<Record<FrameWay, Vector>>;
}

/** Why no eye can see three points as a square-cornered box, and what to move. */
export interface Impossible {
  readonly impossible: string;
  readonly move?: FrameWay;
}

export const isCamera = (found: Camera | Impossible): found is Camera => 'axes' in found;

/** What a frame tells of its camera. */
export type Pointed = Pick<FrameShape, 'points' | 'focal' | 'centre'>;

/** How far level and upright may be from a right angle, as the sine. */
const SQUARE = 1e-4;

/**
 * The camera of a frame. One point is the centre of vision itself, and the focal length is chosen. Two: the centre of vision
 * is the foot of the page's middle on their line unless it was moved, f² = −(v₁−P)·(v₂−P). Three: it is the orthocentre of their
 * triangle (Caprile & Torre, "Using vanishing points for camera calibration", 1990; Hartley & Zisserman 2004, §8.8).
 */
export function cameraOf(frame: Pointed, page: Extent): Camera | Impossible {
  const { points } = frame;
  const near = FRAME_WAYS.filter((way) => isFinitePoint(points[way]));
  const far = FRAME_WAYS.filter((way) => !isFinitePoint(points[way]));
  if (near.length === 0) return { impossible: 'All lines are parallel: no eye is near. Pull one point in.' };
  if (near.length === 1) return onePoint(frame, near[0], far);
  if (near.length === 2) return twoPoints(frame, page, near, far[0]);
  return threePoints(frame);
}

function onePoint({ points, focal }: Pointed, near: FrameWay, [a, b]: readonly FrameWay[]): Camera | Impossible {
  const [p, q] = [points[a], points[b]];
  if (Math.abs(p[0] * q[0] + p[1] * q[1]) > SQUARE)
    return { impossible: `${WAY_NAMES[a]} and ${WAY_NAMES[b]} do not stand at right angles.`, move: b };
  return seenBy(points, { x: points[near][0], y: points[near][1] }, focal);
}

function twoPoints(
  { points, centre }: Pointed,
  page: Extent,
  [a, b]: readonly FrameWay[],
  far: FrameWay,
): Camera | Impossible {
  const [p, q] = [points[a], points[b]];
  const apart = Math.hypot(q[0] - p[0], q[1] - p[1]);
  if (!(apart > 0))
    return { impossible: `${WAY_NAMES[a]} and ${WAY_NAMES[b]} lie in one place. Move one of them.`, move: b };
  const way = unit([q[0] - p[0], q[1] - p[1], 0]);
  if (Math.abs(way[0] * points[far][0] + way[1] * points[far][1]) > SQUARE)
    return { impossible: `${WAY_NAMES[far]} does not stand at right angles to the line of the two points.`, move: far };
  const from = centre ?? { x: page.width / 2, y: page.height / 2 };
  const along = (from.x - p[0]) * way[0] + (from.y - p[1]) * way[1];
  const foot = { x: p[0] + along * way[0], y: p[1] + along * way[1] };
  if (along <= 0 || along >= apart) {
    const move = along <= 0 ? a : b;
    return {
      impossible: `Both points lie on one side of the centre of vision. Move ${WAY_NAMES[move]} past it, or move the centre between them.`,
      move,
    };
  }
  return seenBy(points, foot, Math.sqrt(along * (apart - along)));
}

function threePoints({ points }: Pointed): Camera | Impossible {
  const corners = FRAME_WAYS.map((way) => placeOfPoint(points[way]) ?? { x: 0, y: 0 });
  const sides = FRAME_WAYS.map((_, k) => {
    const [p, q, r] = [corners[k], corners[(k + 1) % 3], corners[(k + 2) % 3]];
    const [u, v] = [
      [q.x - p.x, q.y - p.y],
      [r.x - p.x, r.y - p.y],
    ];
    return { turn: u[0] * v[1] - u[1] * v[0], along: u[0] * v[0] + u[1] * v[1] };
  });
  const flat = sides.findIndex(({ turn, along }) => !(Math.abs(turn) > 1e-9 * (1 + Math.abs(along))));
  if (flat >= 0)
    return { impossible: 'The three points lie in one line. Move one of them away from it.', move: 'height' };
  const obtuse = sides.findIndex(({ along }) => along <= 0);
  if (obtuse >= 0) {
    const { turn, along } = sides[obtuse];
    const angle = (Math.atan2(Math.abs(turn), along) * 180) / Math.PI;
    const move = FRAME_WAYS[obtuse];
    return {
      impossible: `The angle at ${WAY_NAMES[move]} is ${angle.toFixed(0)}°: of a square-cornered box all three are below 90°. Move ${WAY_NAMES[move]} away from the other two.`,
      move,
    };
  }
  const [p, q, r] = corners;
  // (P − r)·(q − p) = 0 and (P − p)·(r − q) = 0: two heights of the triangle meet in P.
  const [a, b] = [q.x - p.x, q.y - p.y];
  const [c, d] = [r.x - q.x, r.y - q.y];
  const [e, f] = [a * r.x + b * r.y, c * p.x + d * p.y];
  const determinant = a * d - b * c;
  const centre = { x: (e * d - b * f) / determinant, y: (a * f - e * c) / determinant };
  const square = -((p.x - centre.x) * (q.x - centre.x) + (p.y - centre.y) * (q.y - centre.y));
  return seenBy(points, centre, Math.sqrt(square));
}

function seenBy(points: FrameShape['points'], centre: Point, focal: number): Camera {
  const seen = ([x, y, w]: VanishingPoint): Vector => unit([x - w * centre.x, y - w * centre.y, w * focal]);
  const [right, left, height] = [seen(points.right), seen(points.left), seen(points.height)];
  return {
    centre,
    focal,
    axes: {
      right: isFinitePoint(points.right) || right[0] > 0 ? right : scaled(right, -1),
      left: isFinitePoint(points.left) || left[0] < 0 ? left : scaled(left, -1),
      height: height[1] < 0 ? height : scaled(height, -1),
    },
  };
}

/** A frame as a camera sees it. */
export function frameOfCamera({ centre, focal, axes }: Camera, page: Extent, settings: FrameParts = {}): FrameShape {
  const point = ([x, y, z]: Vector) => vanishingPoint(focal * x + centre.x * z, focal * y + centre.y * z, z);
  const points = { right: point(axes.right), left: point(axes.left), height: point(axes.height) };
  return frameFromPoints(points, page, { ...settings, focal, centre });
}

/** The camera of a frame. Throws a PageError that says what to move where there is none. */
export function cameraOrThrow(frame: FrameShape, page: Extent): Camera {
  const camera = cameraOf(frame, page);
  if (!isCamera(camera)) throw new PageError(camera.impossible);
  return camera;
}

/** Nearer to the eye than this share of the focal length nothing is drawn: it would fly off the page. */
const NEAR = 0.02;

/** The picture of a place in space, page px. */
export const seenAt = ({ centre, focal }: Camera, [x, y, z]: Vector): Point => ({
  x: centre.x + (focal * x) / z,
  y: centre.y + (focal * y) / z,
});

/** The place in space behind a page point, as deep as the page. */
export const behind = ({ centre, focal }: Camera, { x, y }: Point): Vector => [x - centre.x, y - centre.y, focal];

const KEPT = box(-FARTHEST_DRAWN, -FARTHEST_DRAWN, FARTHEST_DRAWN, FARTHEST_DRAWN);

/** What can be kept of a segment that may run towards a horizon. */
export const keptSegment = (a: Point, b: Point): readonly [Point, Point] | undefined =>
  [a, b].every(({ x, y }) => Math.abs(x) <= FARTHEST_DRAWN && Math.abs(y) <= FARTHEST_DRAWN)
    ? [a, b]
    : clippedSegment(KEPT, a, b);

/**
 * The picture of a segment in space: what lies behind the viewer, nearer than `near`, or too far off, is cut off; nothing where
 * all of it is. `near` is in the unit of the places.
 */
export function seenSegment(
  camera: Camera,
  a: Vector,
  b: Vector,
  near = NEAR * camera.focal,
): readonly [Point, Point] | undefined {
  if (a[2] < near && b[2] < near) return undefined;
  const cut = (from: Vector, to: Vector): Vector => {
    if (from[2] >= near) return from;
    const share = (near - from[2]) / (to[2] - from[2]);
    return sum(scaled(from, 1 - share), scaled(to, share));
  };
  return keptSegment(seenAt(camera, cut(a, b)), seenAt(camera, cut(b, a)));
}
