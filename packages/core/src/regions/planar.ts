import { ringArea } from '../math';
import { split, type Segments } from './splitting';
import { nearestToTheLeft } from './toTheLeft';

/** Parts of a page px that corners are counted in: whole numbers, so that every question about them has an exact answer. */
const GRID = 256;

/** A face of a planar map: no line goes through it. */
export interface Face {
  /** Its outer ring (area above 0), then its holes (below 0), page px. The unbounded face has holes alone. */
  readonly rings: readonly Float64Array[];
  /** Which sources fill it, by their numbers, ascending. */
  readonly of: readonly number[];
}

/** A plane cut up by lines. */
export interface PlanarMap {
  readonly vertices: number;
  readonly edges: number;
  /** Parts of the lines that hang together. */
  readonly components: number;
  /** The unbounded face comes first. */
  readonly faces: readonly Face[];
}

/**
 * The faces that the outlines of shapes make together, each shape (a source) being rings that are filled by the non-zero
 * rule. Corners are rounded to 1/256 page px, and lines go through corners that lie within `weld` page px of them; they are
 * split where they meet until nothing crosses any more (Hobby 1999), then every face is walked round once. V − E + F = 1 +
 * C holds, and the rings of all faces together have no area (Euler).
 */
export function planarMap(sources: readonly (readonly ArrayLike<number>[])[], weld = 0): PlanarMap {
  const lines = split(onGrid(sources), weld * GRID);
  const graph = graphOf(lines);
  const cycles = cyclesOf(graph);
  const { faceOf, count, components } = facesOf(graph, cycles);
  const filled = filledBy(graph, faceOf, count);
  const rings: Float64Array[][] = Array.from({ length: count }, () => []);
  for (const [k, cycle] of cycles.entries()) {
    const ring = ringOf(graph, cycle.halves);
    if (cycle.area > 0) rings[faceOf.byCycle[k]].unshift(ring);
    else rings[faceOf.byCycle[k]].push(ring);
  }
  return {
    vertices: graph.used,
    edges: graph.from.length / 2,
    components,
    faces: rings.map((own, k) => ({ rings: own, of: filled[k] })),
  };
}

/** The legs of all rings in whole parts of a px, without those of no length. */
function onGrid(sources: readonly (readonly ArrayLike<number>[])[]): Segments {
  const legs: number[] = [];
  for (const [source, rings] of sources.entries())
    for (const ring of rings) {
      const count = ring.length;
      let [x, y] = [Math.round(ring[count - 2] * GRID), Math.round(ring[count - 1] * GRID)];
      for (let i = 0; i < count; i += 2) {
        const [u, v] = [Math.round(ring[i] * GRID), Math.round(ring[i + 1] * GRID)];
        if (u !== x || v !== y) legs.push(x, y, u, v, source);
        [x, y] = [u, v];
      }
    }
  const count = legs.length / 5;
  const ends = new Float64Array(4 * count);
  const of = new Int32Array(count);
  for (let k = 0; k < count; k++) {
    for (let j = 0; j < 4; j++) ends[4 * k + j] = legs[5 * k + j];
    of[k] = legs[5 * k + 4];
  }
  return { ends, of };
}

type Wind = readonly [source: number, by: number];

/** Lines without crossings: each edge as two halves, one each way; the other half of `h` is `h ^ 1`. */
interface Graph {
  readonly xs: readonly number[];
  readonly ys: readonly number[];
  readonly from: Int32Array;
  /** By half: the one that follows it round the face on its left (seen with y up). */
  readonly next: Int32Array;
  /** By edge: by how much each source winds more often round what lies left of its first half than round what lies right of it. */
  readonly winds: readonly (readonly Wind[])[];
  /** Vertices at which an edge ends. */
  readonly used: number;
}

function graphOf({ ends, of }: Segments): Graph {
  const [xs, ys]: number[][] = [[], []];
  const vertices = new Map<number, number>();
  const vertexAt = (x: number, y: number): number => {
    const key = (x + 0x2000000) * 0x4000000 + (y + 0x2000000);
    let vertex = vertices.get(key);
    if (vertex === undefined) {
      vertices.set(key, (vertex = xs.length));
      xs.push(x);
      ys.push(y);
    }
    return vertex;
  };
  // Lines that lie on one another are one edge, which winds as all of them do.
  const places = new Map<number, number>();
  const edges: { readonly a: number; readonly b: number; winds: Wind[] }[] = [];
  for (let k = 0; k < of.length; k++) {
    const [a, b] = [vertexAt(ends[4 * k], ends[4 * k + 1]), vertexAt(ends[4 * k + 2], ends[4 * k + 3])];
    const [low, high, by] = a < b ? [a, b, 1] : [b, a, -1];
    const key = low * 0x4000000 + high;
    const place = places.get(key);
    if (place === undefined) {
      places.set(key, edges.length);
      edges.push({ a: low, b: high, winds: [[of[k], by]] });
    } else edges[place].winds = together(edges[place].winds, of[k], by);
  }
  const telling = edges.filter(({ winds }) => winds.length > 0);
  const from = new Int32Array(2 * telling.length);
  const winds: (readonly Wind[])[] = [];
  for (const [k, edge] of telling.entries()) {
    from[2 * k] = edge.a;
    from[2 * k + 1] = edge.b;
    winds.push(edge.winds);
  }
  const around: number[][] = xs.map(() => []);
  for (let h = 0; h < from.length; h++) around[from[h]].push(h);
  const next = new Int32Array(from.length);
  for (const halves of around) {
    if (halves.length > 2) halves.sort(byDirection(xs, ys, from));
    // What comes in along one edge leaves by the next one clockwise.
    for (const [k, half] of halves.entries()) next[half ^ 1] = halves[(k + halves.length - 1) % halves.length];
  }
  return { xs, ys, from, next, winds, used: around.filter((halves) => halves.length > 0).length };
}

function together(winds: readonly Wind[], source: number, by: number): Wind[] {
  const known = winds.find(([other]) => other === source)?.[1] ?? 0;
  const others = winds.filter(([other]) => other !== source);
  return known + by === 0 ? others : [...others, [source, known + by]];
}

/** Halves that leave one vertex by the way they go, counter-clockwise from the x axis (seen with y up): exact. */
const byDirection =
  (xs: readonly number[], ys: readonly number[], from: Int32Array) =>
  (g: number, h: number): number => {
    const [ux, uy] = [xs[from[g ^ 1]] - xs[from[g]], ys[from[g ^ 1]] - ys[from[g]]];
    const [vx, vy] = [xs[from[h ^ 1]] - xs[from[h]], ys[from[h ^ 1]] - ys[from[h]]];
    const [upper, other] = [uy > 0 || (uy === 0 && ux > 0), vy > 0 || (vy === 0 && vx > 0)];
    if (upper !== other) return upper ? -1 : 1;
    return vx * uy - ux * vy;
  };

/** The way round a face, or round the outside of a part that hangs together: above 0 the one, below 0 the other. */
interface Cycle {
  readonly halves: readonly number[];
  /** In parts of the grid, signed. */
  readonly area: number;
}

function cyclesOf({ xs, ys, from, next }: Graph): Cycle[] {
  const seen = new Uint8Array(from.length);
  const cycles: Cycle[] = [];
  for (let start = 0; start < from.length; start++) {
    if (seen[start]) continue;
    const halves: number[] = [];
    let twice = 0;
    const [ox, oy] = [xs[from[start]], ys[from[start]]];
    for (let half = start; !seen[half]; half = next[half]) {
      seen[half] = 1;
      halves.push(half);
      const [a, b] = [from[half], from[half ^ 1]];
      twice += (xs[a] - ox) * (ys[b] - oy) - (xs[b] - ox) * (ys[a] - oy);
    }
    cycles.push({ halves, area: twice / 2 });
  }
  return cycles;
}

/** The number of its face by cycle and by half; 0 is the unbounded face. */
interface FaceOf {
  readonly byCycle: Int32Array;
  readonly byHalf: Int32Array;
}

function facesOf(
  graph: Graph,
  cycles: readonly Cycle[],
): { readonly faceOf: FaceOf; readonly count: number; readonly components: number } {
  const { from } = graph;
  const byCycle = new Int32Array(cycles.length);
  const cycleOf = new Int32Array(from.length);
  let count = 1;
  for (const [k, { halves, area }] of cycles.entries()) {
    if (area > 0) byCycle[k] = count++;
    for (const half of halves) cycleOf[half] = k;
  }
  // What goes round the outside of a part lies in the face to its left, or in that of what lies there.
  const outside = cycles.flatMap(({ area }, k) => (area > 0 ? [] : [k]));
  const beside = nearestToTheLeft(
    graph,
    outside.map((k) => leftmost(graph, cycles[k])),
  );
  const leftOf = new Map(outside.map((k, at) => [k, beside[at]]));
  for (const first of outside) {
    const way: number[] = [];
    let k = first;
    // Each lies farther to the left than the last, so this ends; those that were known are not gone through again.
    while (cycles[k].area <= 0) {
      way.push(k);
      const half = leftOf.get(k) ?? -1;
      if (half < 0) break;
      k = cycleOf[half];
    }
    const face = byCycle[k];
    for (const one of way) {
      byCycle[one] = face;
      leftOf.set(one, -1);
    }
  }
  const byHalf = new Int32Array(from.length);
  for (let h = 0; h < byHalf.length; h++) byHalf[h] = byCycle[cycleOf[h]];
  return { faceOf: { byCycle, byHalf }, count, components: outside.length };
}

/** The half of a cycle that leaves where it reaches farthest to the left. */
function leftmost({ xs, ys, from }: Graph, { halves }: Cycle): number {
  return halves.reduce((best, half) => {
    const [a, b] = [from[half], from[best]];
    return xs[a] < xs[b] || (xs[a] === xs[b] && ys[a] < ys[b]) ? half : best;
  }, halves[0]);
}

/** By face: which sources fill it, found by stepping over edges from the unbounded face, where nothing is filled. */
function filledBy({ from, winds }: Graph, { byHalf }: FaceOf, count: number): (readonly number[])[] {
  const windings: (Map<number, number> | undefined)[] = Array.from({ length: count });
  windings[0] = new Map();
  const halvesOf: number[][] = Array.from({ length: count }, () => []);
  for (let h = 0; h < from.length; h++) halvesOf[byHalf[h]].push(h);
  const ways = [0];
  for (let face = ways.pop(); face !== undefined; face = ways.pop())
    for (const half of halvesOf[face]) {
      const other = byHalf[half ^ 1];
      if (windings[other]) continue;
      const winding = new Map(windings[face]);
      // From the left of this half to the left of its other.
      const sign = half % 2 === 0 ? -1 : 1;
      for (const [source, by] of winds[half >> 1]) {
        const left = (winding.get(source) ?? 0) + sign * by;
        if (left === 0) winding.delete(source);
        else winding.set(source, left);
      }
      windings[other] = winding;
      ways.push(other);
    }
  return windings.map((winding) => [...(winding?.keys() ?? [])].sort((a, b) => a - b));
}

/** A cycle as a ring, page px. */
function ringOf({ xs, ys, from }: Graph, halves: readonly number[]): Float64Array {
  const ring = new Float64Array(2 * halves.length);
  for (const [k, half] of halves.entries()) {
    ring[2 * k] = xs[from[half]] / GRID;
    ring[2 * k + 1] = ys[from[half]] / GRID;
  }
  return ring;
}

/** Page px² of a face. */
export const faceArea = ({ rings }: Pick<Face, 'rings'>): number =>
  rings.reduce((sum, ring) => sum + ringArea(ring), 0);
