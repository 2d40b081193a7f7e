/** A place or a direction in space: x to the right, y down, z away from the eye. */
export type Vector = readonly [x: number, y: number, z: number];

export const dot = (a: Vector, b: Vector): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

export const cross = (a: Vector, b: Vector): Vector => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];

export const scaled = (a: Vector, by: number): Vector => [a[0] * by, a[1] * by, a[2] * by];

export const sum = (a: Vector, b: Vector): Vector => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];

/** A vector of length 1. Throws a RangeError for one that has no length. */
export function unit(a: Vector): Vector {
  const length = Math.hypot(...a);
  if (!(length > 0) || !Number.isFinite(length)) throw new RangeError('A vector without length has no direction.');
  return scaled(a, 1 / length);
}

/** A vector turned about a unit axis by `angle` radians (Rodrigues' formula). */
export function turnedAbout(a: Vector, axis: Vector, angle: number): Vector {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  return sum(sum(scaled(a, c), scaled(cross(axis, a), s)), scaled(axis, dot(axis, a) * (1 - c)));
}

export const minus = (a: Vector, b: Vector): Vector => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];

export const lengthOfVector = (a: Vector): number => Math.sqrt(a[0] * a[0] + a[1] * a[1] + a[2] * a[2]);

/** The place `share` of the way from a to b. */
export const between = (a: Vector, b: Vector, share: number): Vector => [
  a[0] + (b[0] - a[0]) * share,
  a[1] + (b[1] - a[1]) * share,
  a[2] + (b[2] - a[2]) * share,
];

/** Two unit vectors that stand square to a unit vector and to each other: a, first, second turn as x, y, z do. */
export function squareTo(a: Vector): readonly [Vector, Vector] {
  const first = unit(cross(a, Math.abs(a[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0]));
  return [first, cross(a, first)];
}
