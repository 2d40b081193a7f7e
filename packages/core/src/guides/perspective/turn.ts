import { cross, dot, scaled, sum, turnedAbout, unit, type Matrix3x3, type Vector } from '../../math';
import { FRAME_WAYS, type FrameShape } from '../guide';
import { cameraOrThrow, frameOfCamera, type Camera } from './camera';
import type { Extent } from './frame';

/** How a camera is turned: radians, to the right, upwards, and clockwise; and how many times as long its focal length is. */
export interface Turn {
  readonly yaw?: number;
  readonly tilt?: number;
  readonly roll?: number;
  readonly zoom?: number;
}

/** A camera turned where it stands. Yaw goes about the upright of the frame, tilt about the level line across the view. */
export function turnedCamera({ centre, focal, axes }: Camera, { yaw = 0, tilt = 0, roll = 0, zoom = 1 }: Turn): Camera {
  const { height } = axes;
  // The level line across the view; looking straight up or down, the page's own.
  const level = Math.hypot(height[0], height[1]) > 1e-9 ? unit([-height[1], height[0], 0]) : ([1, 0, 0] as const);
  const turned = (axis: Vector): Vector => {
    const yawed = turnedAbout(axis, height, yaw);
    return turnedAbout(turnedAbout(yawed, level, -tilt), [0, 0, 1], -roll);
  };
  return {
    centre,
    focal: focal * zoom,
    axes: { right: turned(axes.right), left: turned(axes.left), height: turned(axes.height) },
  };
}

/**
 * A second frame of the same camera: a box turned by `yaw` radians on the same horizon. Throws a PageError where the frame has
 * no camera.
 */
export function turnFrame(frame: FrameShape, yaw: number, page: Extent): FrameShape {
  const camera = cameraOrThrow(frame, page);
  const { right, left, height } = camera.axes;
  const away = (axis: Vector): Vector => (axis[2] < 0 ? scaled(axis, -1) : axis);
  const axes = [turnedAbout(right, height, yaw), turnedAbout(left, height, yaw)].map(away);
  const [first, second] = axes[0][0] >= axes[1][0] ? axes : [axes[1], axes[0]];
  const { asleep: _awake, fixed: _free, edges: _none, ...settings } = frame;
  return frameOfCamera({ ...camera, axes: { right: first, left: second, height } }, page, settings);
}

/**
 * The map of the page from what one camera sees to what another sees from the same place: K₂R₂R₁ᵀK₁⁻¹, the homography of the
 * plane at infinity (Hartley & Zisserman 2004, §8.4). It takes the points of one frame to those of the other, and the picture
 * of every plane to the picture of the same plane. Nothing where the frames are mirror images of each other.
 */
export function cameraMap(before: Camera, after: Camera): Matrix3x3 | undefined {
  const pairs = FRAME_WAYS.map((way): readonly [Vector, Vector] => {
    const [a, b] = [before.axes[way], after.axes[way]];
    return [a, dot(a, b) < 0 ? scaled(b, -1) : b];
  });
  const sides = [0, 1].map((k) => dot(cross(pairs[0][k], pairs[1][k]), pairs[2][k]));
  if (sides[0] * sides[1] < 0) return undefined;
  const r = (row: number, column: number) => pairs.reduce((whole, [a, b]) => whole + b[row] * a[column], 0);
  const [f, g] = [before.focal, after.focal];
  const { x, y } = before.centre;
  const { x: u, y: v } = after.centre;
  // Row by row of K₂·R, then times K₁⁻¹ from the right, up to the factor f.
  const rows = [0, 1, 2].map((column) => [
    g * r(0, column) + u * r(2, column),
    g * r(1, column) + v * r(2, column),
    r(2, column),
  ]);
  const m = [0, 1, 2].flatMap((row) => [
    rows[0][row],
    rows[1][row],
    f * rows[2][row] - x * rows[0][row] - y * rows[1][row],
  ]);
  // What stays before the viewer keeps a depth above 0.
  const by = 1 / f;
  return [m[0] * by, m[1] * by, m[2] * by, m[3] * by, m[4] * by, m[5] * by, m[6] * by, m[7] * by, m[8] * by];
}

/** The camera between two, `share` of the way from the first to the second. */
export function cameraBetween(from: Camera, to: Camera, share: number): Camera {
  const pairs = FRAME_WAYS.map((way): readonly [Vector, Vector] => {
    const [a, b] = [from.axes[way], to.axes[way]];
    return [a, dot(a, b) < 0 ? scaled(b, -1) : b];
  });
  // The axis and angle of the rotation that takes the first to the second (from its skew part and its trace).
  const twist = pairs.reduce<Vector>((whole, [a, b]) => sum(whole, cross(a, b)), [0, 0, 0]);
  const trace = pairs.reduce((whole, [a, b]) => whole + dot(a, b), 0);
  const angle = Math.atan2(Math.hypot(...twist), trace - 1);
  const turned = (axis: Vector): Vector =>
    Math.hypot(...twist) < 1e-12 ? axis : turnedAbout(axis, unit(twist), share * angle);
  const { axes } = from;
  return {
    centre: {
      x: from.centre.x + (to.centre.x - from.centre.x) * share,
      y: from.centre.y + (to.centre.y - from.centre.y) * share,
    },
    focal: from.focal * (to.focal / from.focal) ** share,
    axes: { right: turned(axes.right), left: turned(axes.left), height: turned(axes.height) },
  };
}
