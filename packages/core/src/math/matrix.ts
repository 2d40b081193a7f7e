import type { Point } from './point';

/**
 * A plane affine map in the order of SVG's `matrix()` and Canvas2D's `setTransform()`:
 * x' = a·x + c·y + e, y' = b·x + d·y + f.
 */
export type Matrix = readonly [a: number, b: number, c: number, d: number, e: number, f: number];

export const identity: Matrix = [1, 0, 0, 1, 0, 0];

export const translation = (x: number, y: number): Matrix => [1, 0, 0, 1, x, y];

export const scaling = (factor: number): Matrix => [factor, 0, 0, factor, 0, 0];

/** Turns by `angle` radians, clockwise on screen since y points down. */
export function rotation(angle: number): Matrix {
  const c = Math.cos(angle);
  const s = Math.sin(angle);
  return [c, s, -s, c, 0, 0];
}

/** The map that does `first`, then `second`. */
export function then(first: Matrix, second: Matrix): Matrix {
  const [a, b, c, d, e, f] = first;
  const [A, B, C, D, E, F] = second;
  return [A * a + C * b, B * a + D * b, A * c + C * d, B * c + D * d, A * e + C * f + E, B * e + D * f + F];
}

/** Does several maps one after the other. */
export const chain = (...maps: readonly Matrix[]): Matrix => maps.reduce(then, identity);

/** `map`, done about `centre` instead of the origin. */
export const about = (centre: Point, map: Matrix): Matrix =>
  chain(translation(-centre.x, -centre.y), map, translation(centre.x, centre.y));

export function apply(map: Matrix, p: Point): Point {
  return { x: map[0] * p.x + map[2] * p.y + map[4], y: map[1] * p.x + map[3] * p.y + map[5] };
}

/** The map back. Throws a RangeError when `map` flattens the plane. */
export function invert(map: Matrix): Matrix {
  const [a, b, c, d, e, f] = map;
  const determinant = a * d - b * c;
  if (!Number.isFinite(1 / determinant)) throw new RangeError('This map flattens the plane and has no way back.');
  return [
    d / determinant,
    -b / determinant,
    -c / determinant,
    a / determinant,
    (c * f - d * e) / determinant,
    (b * e - a * f) / determinant,
  ];
}

/** How much the map enlarges lengths (the geometric mean over directions). */
export const scaleOf = (map: Matrix): number => Math.sqrt(Math.abs(map[0] * map[3] - map[1] * map[2]));

/** The turn of the map, in radians. */
export const angleOf = (map: Matrix): number => Math.atan2(map[1], map[0]);
