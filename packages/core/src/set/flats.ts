import { dot, squareTo, type Vector } from '../math';
import { generatorOf, type Ball, type Mantle, type Solid, type Surface } from './solid';

/** A flat polygon of a solid, and the number of the surface that it is of. */
export interface FlatFace {
  readonly surface: number;
  readonly rings: readonly (readonly Vector[])[];
  /** Its plane: unit normal, and n·x of its places. */
  readonly normal: Vector;
  readonly offset: number;
}

/** Flats that a round surface is parted into, once round, where nothing else is said. */
const FLATS = 24;

const flatted = new WeakMap<Solid, Map<number, readonly FlatFace[]>>();

/** A solid as flat polygons: what is round is parted into so many once round. Kept with the solid. */
export function flatsOf(solid: Solid, count = FLATS): readonly FlatFace[] {
  const known = flatted.get(solid) ?? new Map<number, readonly FlatFace[]>();
  flatted.set(solid, known);
  const made =
    known.get(count) ??
    solid.surfaces.flatMap((surface, k) =>
      flatRings(surface, count).flatMap((rings): FlatFace[] => {
        const turn = normalOf(rings[0]);
        const long = Math.hypot(...turn);
        if (!(long > 0)) return [];
        const normal: Vector = [turn[0] / long, turn[1] / long, turn[2] / long];
        return [{ surface: k, rings, normal, offset: dot(normal, rings[0][0]) }];
      }),
    );
  known.set(count, made);
  return made;
}

/** A surface as flat polygons, each its rings. */
export function flatRings(surface: Surface, flats: number): readonly (readonly (readonly Vector[])[])[] {
  switch (surface.kind) {
    case 'face':
      return [surface.rings];
    case 'disc': {
      const { centre, radius, hole, normal } = surface;
      const ring = (r: number) => {
        const mantle: Mantle = { ...roundOn(normal), foot: centre, height: 1, radius: r, top: r };
        return Array.from({ length: flats }, (_, k) => generatorOf(mantle, (2 * Math.PI * k) / flats)[0]);
      };
      return [hole > 0 ? [ring(radius), ring(hole)] : [ring(radius)]];
    }
    case 'mantle': {
      const [from, to] = surface.range ?? [0, 2 * Math.PI];
      const count = Math.max(2, Math.ceil(((to - from) / (2 * Math.PI)) * flats));
      const at = (k: number) => generatorOf(surface, from + ((to - from) * k) / count);
      return Array.from({ length: count }, (_, k) => {
        const [a, b] = [at(k), at(k + 1)];
        return [[a[0], b[0], b[1], a[1]]];
      });
    }
    case 'ball':
      return ballFlats(surface, flats);
  }
}

const roundOn = (axis: Vector): Pick<Mantle, 'kind' | 'axis' | 'u' | 'v'> => {
  const [u, v] = squareTo(axis);
  return { kind: 'mantle', axis, u, v };
};

/** A ball as rings of flats about an axis, which begin anew at a height of `at` radii above its middle. */
export function ballFlats(
  { centre, radius }: Ball,
  flats: number,
  axis: Vector = [0, 0, 1],
  at = 0,
): (readonly (readonly Vector[])[])[] {
  const [u, v] = squareTo(axis);
  const waist = Math.asin(Math.max(-0.99, Math.min(0.99, at)));
  const rows = flats / 4;
  const heights = [
    ...Array.from({ length: rows }, (_, row) => -Math.PI / 2 + ((waist + Math.PI / 2) * row) / rows),
    ...Array.from({ length: rows + 1 }, (_, row) => waist + ((Math.PI / 2 - waist) * row) / rows),
  ];
  const place = (up: number, round: number): Vector => {
    const [out, along] = [radius * Math.cos(up), radius * Math.sin(up)];
    const [c, s] = [out * Math.cos(round), out * Math.sin(round)];
    return [
      centre[0] + u[0] * c + v[0] * s + axis[0] * along,
      centre[1] + u[1] * c + v[1] * s + axis[1] * along,
      centre[2] + u[2] * c + v[2] * s + axis[2] * along,
    ];
  };
  return heights.slice(1).flatMap((high, row) =>
    Array.from({ length: flats }, (_, k) => {
      const [from, to] = [(2 * Math.PI * k) / flats, (2 * Math.PI * (k + 1)) / flats];
      const low = heights[row];
      return [[place(low, from), place(low, to), place(high, to), place(high, from)]];
    }),
  );
}

/** The normal of a ring by its turn, of no set length (Newell's method). */
export function normalOf(ring: readonly Vector[]): Vector {
  let [x, y, z] = [0, 0, 0];
  for (let k = 0, last = ring.length - 1; k < ring.length; last = k++) {
    const [a, b] = [ring[last], ring[k]];
    x += (a[1] - b[1]) * (a[2] + b[2]);
    y += (a[2] - b[2]) * (a[0] + b[0]);
    z += (a[0] - b[0]) * (a[1] + b[1]);
  }
  return [x, y, z];
}

/** The part of a ring on the side of a plane that its normal looks to (Sutherland & Hodgman 1974). */
export function cutRing(ring: readonly Vector[], normal: Vector, offset: number): readonly Vector[] {
  const away = ring.map((p) => dot(normal, p) - offset);
  if (away.every((value) => value >= 0)) return ring;
  return ring.flatMap((p, k): Vector[] => {
    const next = (k + 1) % ring.length;
    const q = ring[next];
    const isIn = away[k] >= 0;
    if (isIn === away[next] >= 0) return isIn ? [p] : [];
    const t = away[k] / (away[k] - away[next]);
    const cut: Vector = [p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t, p[2] + (q[2] - p[2]) * t];
    return isIn ? [p, cut] : [cut];
  });
}
