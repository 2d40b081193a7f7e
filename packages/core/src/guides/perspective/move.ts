import { clamp, footOnLine, type Point } from '../../math';
import { FRAME_WAYS, type FrameShape, type FrameWay, type VanishingPoint } from '../guide';
import { PageError } from '../../gate';
import { cameraOf, isCamera } from './camera';
import {
  frameFromPoints,
  horizonOf,
  isFinitePoint,
  placeOfPoint,
  vanishingPoint,
  type Extent,
  type FramePoints,
} from './frame';

const settingsOf = ({ kind: _kind, points: _points, ...settings }: FrameShape): Omit<FrameShape, 'kind' | 'points'> =>
  settings;

const withPoints = (
  frame: FrameShape,
  points: FramePoints,
  page: Extent,
  change: Partial<FrameShape> = {},
): FrameShape => frameFromPoints(points, page, { ...settingsOf(frame), ...change });

/**
 * A frame after one of its points went elsewhere. With the horizon tilted by that, an upright that is parallel turns along.
 * Throws a PageError for a fixed point, and where it comes to lie on another one.
 */
export function movePoint(frame: FrameShape, way: FrameWay, to: VanishingPoint, page: Extent): FrameShape {
  if (frame.fixed.includes(way)) throw new PageError('This point is fixed.');
  const points = { ...frame.points, [way]: to };
  return withPoints(frame, squared(points, way), page);
}

/** Points with the one that is infinitely far, where there is just one, at right angles to the line of the other two. */
function squared(points: FramePoints, moved: FrameWay): FramePoints {
  const far = FRAME_WAYS.filter((way) => !isFinitePoint(points[way]));
  const near = FRAME_WAYS.filter((way) => isFinitePoint(points[way]));
  if (far.length === 1) {
    const [p, q] = near.map((way) => points[way]);
    const [x, y] = [q[0] - p[0], q[1] - p[1]];
    const old = points[far[0]];
    const long = Math.hypot(x, y);
    if (!(long > 0)) return points;
    const sign = -y * old[0] + x * old[1] < 0 ? -1 : 1;
    return { ...points, [far[0]]: [(-sign * y) / long, (sign * x) / long, 0] };
  }
  if (far.length === 2 && far.includes(moved)) {
    // Level and upright stay square to each other: the other one turns along.
    const other = far[0] === moved ? far[1] : far[0];
    const [x, y] = points[moved];
    const old = points[other];
    const sign = -y * old[0] + x * old[1] < 0 ? -1 : 1;
    return { ...points, [other]: [-sign * y, sign * x, 0] };
  }
  return points;
}

const shiftedPoint = ([x, y, w]: VanishingPoint, dx: number, dy: number): VanishingPoint =>
  w === 1 ? [x + dx, y + dy, 1] : [x, y, 0];

/** The whole frame moved by page px, with its camera: what was sighted goes along. */
export function shiftedFrame(frame: FrameShape, dx: number, dy: number): FrameShape {
  const by = (p: Point): Point => ({ x: p.x + dx, y: p.y + dy });
  const { right, left, height } = frame.points;
  return {
    ...frame,
    points: {
      right: shiftedPoint(right, dx, dy),
      left: shiftedPoint(left, dx, dy),
      height: shiftedPoint(height, dx, dy),
    },
    corner: by(frame.corner),
    ...(frame.centre && { centre: by(frame.centre) }),
    edges: frame.edges.map(({ way, from, to }) => ({ way, from: by(from), to: by(to) })),
  };
}

/**
 * The horizon raised by `rise` page px along the frame's upright and tilted by `tilt` radians about its place nearest to the
 * page's middle; right and left, and an upright that is parallel, go along. Throws a PageError where one of them is fixed.
 */
export function moveHorizon(frame: FrameShape, rise: number, tilt: number, page: Extent): FrameShape {
  if (frame.fixed.some((way) => way !== 'height')) throw new PageError('A point of the horizon is fixed.');
  const horizon = horizonOf(frame, page);
  if (!horizon) throw new PageError('One looks straight down here: there is no horizon.');
  const [c, s] = [Math.cos(tilt), Math.sin(tilt)];
  const [nx, ny] = [horizon.dy * rise, -horizon.dx * rise];
  const turned = ([x, y, w]: VanishingPoint): VanishingPoint => {
    if (w === 0) return [c * x - s * y, s * x + c * y, 0];
    const [u, v] = [x - horizon.x, y - horizon.y];
    return [horizon.x + nx + c * u - s * v, horizon.y + ny + s * u + c * v, 1];
  };
  const { right, left, height } = frame.points;
  const centre = frame.centre && placeOfPoint(turned([frame.centre.x, frame.centre.y, 1]));
  return withPoints(
    frame,
    { right: turned(right), left: turned(left), height: isFinitePoint(height) ? height : turned(height) },
    page,
    centre ? { centre } : {},
  );
}

/** Right and left moved apart about the centre of vision, `by` times as far. Throws a PageError where one of them is fixed. */
export function spreadPoints(frame: FrameShape, by: number, page: Extent): FrameShape {
  const { right, left } = frame.points;
  if (frame.fixed.some((way) => way !== 'height')) throw new PageError('A point of the horizon is fixed.');
  if (!isFinitePoint(right) || !isFinitePoint(left))
    throw new PageError('Only a frame with two points on its horizon can be spread.');
  const camera = cameraOf(frame, page);
  const middle = isCamera(camera) ? camera.centre : { x: page.width / 2, y: page.height / 2 };
  // Along the horizon about the foot of the centre, so that it stays where it is.
  const foot = footOnLine({ x: left[0], y: left[1] }, { x: right[0], y: right[1] }, middle);
  const factor = clamp(by, 0.01, 100);
  const moved = ([x, y]: VanishingPoint) =>
    vanishingPoint(foot.x + (x - foot.x) * factor, foot.y + (y - foot.y) * factor, 1);
  return withPoints(frame, { ...frame.points, right: moved(right), left: moved(left) }, page);
}

/**
 * A frame with a point sent infinitely far in the direction in which it lies: right and left along the line to the other one,
 * the upright up or down, or away from the page's middle. Throws a PageError for a point that is fixed.
 */
export function sentToInfinity(frame: FrameShape, way: FrameWay, page: Extent): FrameShape {
  const [x, y] = frame.points[way];
  const [ox, oy, ow] = frame.points[way === 'right' ? 'left' : 'right'];
  const middle = { x: page.width / 2, y: page.height / 2 };
  if (way === 'height') return movePoint(frame, way, [0, y > middle.y ? 1 : -1, 0], page);
  const from = ow === 1 ? { x: ox, y: oy } : middle;
  return movePoint(frame, way, vanishingPoint(x - from.x, y - from.y, 0), page);
}
