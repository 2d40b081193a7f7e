import { scaled, sum, type Vector } from '../../math';
import type { Edge, Mantle, Solid, Surface } from '../solid';

const [X, Y, Z]: readonly [Vector, Vector, Vector] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
];

const up = (z: number): Vector => [0, 0, z];

/** A circle about z. */
const rim = (z: number, radius: number): Edge['course'] => ({
  kind: 'arc',
  centre: up(z),
  u: scaled(X, radius),
  v: scaled(Y, radius),
  from: 0,
  to: 2 * Math.PI,
});

/** Below this radius, m, a rim is a point. */
const POINT = 1e-6;

/**
 * What a profile gives that is turned round z: (radius, height) pairs in turn, going up outside. It is closed by discs where
 * it ends away from the axis.
 */
export function turned(profile: readonly (readonly [radius: number, height: number])[]): Solid {
  const surfaces: Surface[] = [];
  const edges: Edge[] = [];
  const bands: number[] = [];
  for (let k = 0; k + 1 < profile.length; k++) bands.push(surfaces.push(band(profile[k], profile[k + 1])) - 1);
  const [first, last] = [profile[0], profile[profile.length - 1]];
  const cap = ([radius, z]: readonly [number, number], normal: Vector): number =>
    radius > POINT ? surfaces.push({ kind: 'disc', centre: up(z), normal, radius, hole: 0 }) - 1 : -1;
  const lower = cap(first, scaled(Z, -1));
  const upper = cap(last, Z);
  profile.forEach(([radius, z], k) => {
    const sides: readonly [number, number] = [k === 0 ? lower : bands[k - 1], k === bands.length ? upper : bands[k]];
    if (radius > POINT) edges.push({ course: rim(z, radius), sides });
  });
  return { surfaces, edges, closed: true };
}

/** Between two rims: a mantle, or a flat ring where they are at one height. */
function band([radius, low]: readonly [number, number], [top, high]: readonly [number, number]): Surface {
  if (Math.abs(high - low) < POINT) {
    // Going outwards its outer side looks down.
    const normal = scaled(Z, top > radius ? -1 : 1);
    return { kind: 'disc', centre: up(low), normal, radius: Math.max(radius, top), hole: Math.min(radius, top) };
  }
  const mantle: Mantle = {
    ...{ kind: 'mantle', u: X, v: Y },
    ...(high > low
      ? { foot: up(low), axis: Z, height: high - low, radius, top }
      : { foot: up(high), axis: Z, height: low - high, radius: top, top: radius }),
  };
  // A profile that comes down again is hollow there.
  return high > low ? mantle : { ...mantle, inside: true };
}

/** A ball that stands on the floor. */
export const ball = (radius: number): Solid => ({
  surfaces: [{ kind: 'ball', centre: sum([0, 0, 0], up(radius)), radius }],
  edges: [],
  closed: true,
});
