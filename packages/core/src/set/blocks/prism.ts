import { carriedBy, scaled, turnedBy, type Rigid, type Vector } from '../../math';
import { faceOf, type Edge, type Solid, type Surface } from '../solid';

/** A corner of an outline; the side that leaves it may be an arc about a middle. */
export interface Corner {
  readonly x: number;
  readonly y: number;
  /** The middle of the arc to the next corner, which turns from x towards y (`ccw`) or the other way. */
  readonly round?: { readonly x: number; readonly y: number; readonly ccw: boolean };
}

/** Degrees that a chord of an arc goes over where it bounds a flat face. */
const CHORD = Math.PI / 90;

/**
 * What an outline gives that is drawn out along z, from 0 to `height`, before `map` puts it where it belongs. The outer ring
 * turns from x towards y, holes the other way. Sides of a `smooth` outline are a curve.
 */
export function prism(rings: readonly (readonly Corner[])[], height: number, map: Rigid, smooth = false): Solid {
  const surfaces: Surface[] = [];
  const edges: Edge[] = [];
  const at = (x: number, y: number, z: number): Vector => carriedBy(map, [x, y, z]);
  const flat = rings.map(outlined);
  const lower = surfaces.push(faceOf(flat.map((ring) => [...ring].reverse().map(([x, y]) => at(x, y, 0))))) - 1;
  const upper = surfaces.push(faceOf(flat.map((ring) => ring.map(([x, y]) => at(x, y, height))))) - 1;
  rings.forEach((ring, r) => {
    const count = ring.length;
    const sides = ring.map((corner, k) => surfaces.push(side(corner, ring[(k + 1) % count], height, map)) - 1);
    ring.forEach((corner, k) => {
      const next = ring[(k + 1) % count];
      for (const [z, cap] of [
        [0, lower],
        [height, upper],
      ])
        edges.push({
          course: legOf(corner, next, z, map),
          sides: [cap, sides[k]],
          ...(smooth && { run: `${r}:${z === 0 ? 'lower' : 'upper'}` }),
        });
      edges.push({
        course: { kind: 'segment', from: at(corner.x, corner.y, 0), to: at(corner.x, corner.y, height) },
        sides: [sides[(k + count - 1) % count], sides[k]],
      });
    });
  });
  return { surfaces, edges, closed: true };
}

/** The angles at which the arc from a corner begins and ends; the end is the greater one. */
function arcAngles(corner: Corner, next: Corner, round: NonNullable<Corner['round']>): readonly [number, number] {
  const [a, b] = [corner, next].map(({ x, y }) => Math.atan2(y - round.y, x - round.x));
  const [from, to] = round.ccw ? [a, b] : [b, a];
  return [from, to <= from + 1e-12 ? to + 2 * Math.PI : to];
}

function outlined(ring: readonly Corner[]): [number, number][] {
  return ring.flatMap((corner, k): [number, number][] => {
    const { round } = corner;
    if (!round) return [[corner.x, corner.y]];
    const [from, to] = arcAngles(corner, ring[(k + 1) % ring.length], round);
    const radius = Math.hypot(corner.x - round.x, corner.y - round.y);
    const count = Math.max(2, Math.ceil((to - from) / CHORD));
    return Array.from({ length: count }, (_, step): [number, number] => {
      const share = step / count;
      const angle = round.ccw ? from + (to - from) * share : to - (to - from) * share;
      return [round.x + radius * Math.cos(angle), round.y + radius * Math.sin(angle)];
    });
  });
}

function legOf(corner: Corner, next: Corner, z: number, map: Rigid): Edge['course'] {
  const { round } = corner;
  const at = (x: number, y: number): Vector => carriedBy(map, [x, y, z]);
  if (!round) return { kind: 'segment', from: at(corner.x, corner.y), to: at(next.x, next.y) };
  const radius = Math.hypot(corner.x - round.x, corner.y - round.y);
  const [from, to] = arcAngles(corner, next, round);
  const [u, v] = [scaled(turnedBy(map, [1, 0, 0]), radius), scaled(turnedBy(map, [0, 1, 0]), radius)];
  return { kind: 'arc', centre: at(round.x, round.y), u, v, from, to };
}

function side(corner: Corner, next: Corner, height: number, map: Rigid): Surface {
  const at = (x: number, y: number, z: number): Vector => carriedBy(map, [x, y, z]);
  const { round } = corner;
  if (!round)
    return faceOf([
      [at(corner.x, corner.y, 0), at(next.x, next.y, 0), at(next.x, next.y, height), at(corner.x, corner.y, height)],
    ]);
  const radius = Math.hypot(corner.x - round.x, corner.y - round.y);
  return {
    kind: 'mantle',
    foot: at(round.x, round.y, 0),
    axis: turnedBy(map, [0, 0, 1]),
    u: turnedBy(map, [1, 0, 0]),
    v: turnedBy(map, [0, 1, 0]),
    ...{ height, radius, top: radius, range: arcAngles(corner, next, round) },
    // With the solid on the left of its outline, an arc that turns the other way is hollow.
    ...(!round.ccw && { inside: true as const }),
  };
}

/** The map that lays an outline's x and y along two axes of a block, with z along the third, from a place on. */
export const laidAlong = (x: Vector, y: Vector, z: Vector, at: Vector): Rigid => ({ axes: [x, y, z], at });

export const rectangle = (x: number, y: number, width: number, height: number): Corner[] => [
  { x, y },
  { x: x + width, y },
  { x: x + width, y: y + height },
  { x, y: y + height },
];
