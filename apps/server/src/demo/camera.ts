import type { Point } from '@true-nib/core/math';

/** A place in the scene, in metres: x to the right, y up, z away. */
export type Place = readonly [x: number, y: number, z: number];

export interface CameraOptions {
  /** Where the picture's centre of vision lies, page px. */
  readonly centre: Point;
  /** Focal length in page px. */
  readonly focal: number;
  readonly eye: Place;
  /** Turns in radians: to the right, and upwards. */
  readonly yaw?: number;
  readonly pitch?: number;
}

/** A pinhole camera: places in the scene to places on the page, and to its own axes (x to the right, y up, z away). */
export function camera({ centre, focal, eye, yaw = 0, pitch = 0 }: CameraOptions) {
  const [cy, sy, cp, sp] = [Math.cos(yaw), Math.sin(yaw), Math.cos(pitch), Math.sin(pitch)];
  const seen = ([x, y, z]: Place): Place => {
    const [dx, dy, dz] = [x - eye[0], y - eye[1], z - eye[2]];
    const [ax, az] = [dx * cy - dz * sy, dx * sy + dz * cy];
    return [ax, dy * cp - az * sp, dy * sp + az * cp];
  };
  const project = (place: Place): Point => {
    const [x, y, z] = seen(place);
    const depth = Math.max(0.05, z);
    return { x: centre.x + (focal * x) / depth, y: centre.y - (focal * y) / depth };
  };
  /** Where lines of a direction meet; far away rather than infinite when they do not. */
  const vanishing = (direction: Place): Point => {
    const [x, y, z] = seen([direction[0] + eye[0], direction[1] + eye[1], direction[2] + eye[2]]);
    const depth = Math.abs(z) < 1e-4 ? 1e-4 : z;
    return { x: centre.x + (focal * x) / depth, y: centre.y - (focal * y) / depth };
  };
  return { seen, project, vanishing };
}

/** A flat face of the scene: `at(s, t)` is the place `s` metres along and `t` metres up (or across). */
export const face =
  (origin: Place, along: Place, up: Place) =>
  (s: number, t: number): Place => [
    origin[0] + along[0] * s + up[0] * t,
    origin[1] + along[1] * s + up[1] * t,
    origin[2] + along[2] * s + up[2] * t,
  ];
