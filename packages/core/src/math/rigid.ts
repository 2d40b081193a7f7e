import { dot, scaled, sum, type Vector } from './space';

/** A map of space that keeps lengths and sides: what x, y and z become, and where the origin goes. */
export interface Rigid {
  readonly axes: readonly [Vector, Vector, Vector];
  readonly at: Vector;
}

export const stillRigid: Rigid = {
  axes: [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ],
  at: [0, 0, 0],
};

/** A direction under a rigid map. */
export const turnedBy = ({ axes: [a, b, c] }: Rigid, [x, y, z]: Vector): Vector => [
  a[0] * x + b[0] * y + c[0] * z,
  a[1] * x + b[1] * y + c[1] * z,
  a[2] * x + b[2] * y + c[2] * z,
];

/** A place under a rigid map. */
export const carriedBy = (map: Rigid, place: Vector): Vector => sum(turnedBy(map, place), map.at);

/** The direction that a rigid map takes to this one. */
export const turnedBack = ({ axes }: Rigid, v: Vector): Vector => [dot(axes[0], v), dot(axes[1], v), dot(axes[2], v)];

/** The map that does `first`, then `second`. */
export const rigidThen = (first: Rigid, second: Rigid): Rigid => ({
  axes: [turnedBy(second, first.axes[0]), turnedBy(second, first.axes[1]), turnedBy(second, first.axes[2])],
  at: carriedBy(second, first.at),
});

/** The map back. */
export function rigidBack(map: Rigid): Rigid {
  const [a, b, c] = map.axes;
  const axes: Rigid['axes'] = [
    [a[0], b[0], c[0]],
    [a[1], b[1], c[1]],
    [a[2], b[2], c[2]],
  ];
  return { axes, at: turnedBack(map, scaled(map.at, -1)) };
}

/** The turn of a unit quaternion (x, y, z, w). */
export function rigidOf([x, y, z, w]: readonly [number, number, number, number], at: Vector): Rigid {
  return {
    axes: [
      [1 - 2 * (y * y + z * z), 2 * (x * y + z * w), 2 * (x * z - y * w)],
      [2 * (x * y - z * w), 1 - 2 * (x * x + z * z), 2 * (y * z + x * w)],
      [2 * (x * z + y * w), 2 * (y * z - x * w), 1 - 2 * (x * x + y * y)],
    ],
    at,
  };
}

/** The unit quaternion (x, y, z, w) of a turn (Shepperd 1978). */
export function quaternionOf({ axes: [a, b, c] }: Rigid): readonly [number, number, number, number] {
  const trace = a[0] + b[1] + c[2];
  const most = Math.max(trace, a[0], b[1], c[2]);
  if (most === trace) {
    const s = 2 * Math.sqrt(1 + trace);
    return [(b[2] - c[1]) / s, (c[0] - a[2]) / s, (a[1] - b[0]) / s, s / 4];
  }
  if (most === a[0]) {
    const s = 2 * Math.sqrt(1 + a[0] - b[1] - c[2]);
    return [s / 4, (a[1] + b[0]) / s, (c[0] + a[2]) / s, (b[2] - c[1]) / s];
  }
  if (most === b[1]) {
    const s = 2 * Math.sqrt(1 + b[1] - a[0] - c[2]);
    return [(a[1] + b[0]) / s, s / 4, (b[2] + c[1]) / s, (c[0] - a[2]) / s];
  }
  const s = 2 * Math.sqrt(1 + c[2] - a[0] - b[1]);
  return [(c[0] + a[2]) / s, (b[2] + c[1]) / s, s / 4, (a[1] - b[0]) / s];
}
