import type { Point } from '../math';
import { dropBranch, joinAt, wayLength, type Graph } from './graph';
import { turnBetween, turned, type Reach } from './reach';

/** The reach of an end of a branch into its node. */
export type ReachOf = (end: number) => Reach;

/** Which ends go on into each other, and how far they would have to turn in all, radians. */
export interface Pairing {
  readonly pairs: readonly (readonly [number, number])[];
  readonly turn: number;
}

const DEGREE = Math.PI / 180;
/** Two lines that cross bend no more than so on either side of the stretch that they share. */
const CROSSING = 26 * DEGREE;
/** Line widths that two crossing lines share at most. */
const SHARED = 7;
/** What it counts to let two branches end where they could go on. */
const ENDING = 36 * DEGREE;
/** A pair that would turn farther is none. */
const MOST_TURN = 60 * DEGREE;
/** Where the next best pairing is so near, or the best one turns so far, the machine is in doubt. */
const UNSURE_LEAD = 10 * DEGREE;
const UNSURE_TURN = 30 * DEGREE;
/** Ends up to which all pairings are looked through. */
const ALL_OF = 6;

/**
 * Thinned, two lines that cross meet in two nodes with a stretch between that belongs to both. Such nodes become one, if both
 * lines go on straight over it; nodes nearer to each other than their ink is wide become one in any case.
 */
export function mergeNodes(graph: Graph, reach: ReachOf): void {
  for (const branch of [...graph.branches]) {
    if (!branch || branch.isRing || graph.branches[branch.id] !== branch) continue;
    const [a, b] = branch.ends.map(({ node }) => node);
    const [one, two] = [graph.nodes[a], graph.nodes[b]];
    if (!one || !two || a === b || one.ends.length < 3 || two.ends.length < 3) continue;
    const length = wayLength(branch.way);
    const radii = one.radius + two.radius;
    if (length < 0.9 * radii + 1 || (length < SHARED * radii && isCrossed(graph, branch.id, reach)))
      merge(graph, branch.id);
  }
}

function isCrossed(graph: Graph, id: number, reach: ReachOf): boolean {
  const branch = graph.branches[id];
  if (!branch) return false;
  const outer = branch.ends.map(({ node }, k) => graph.nodes[node]?.ends.filter((end) => end !== 2 * id + k) ?? []);
  if (outer[0].length !== 2 || outer[1].length !== 2) return false;
  const [[p, q], [r, s]] = outer.map((ends) => ends.map(reach));
  const fits = (one: number, two: number) => Math.max(one, two) < CROSSING;
  return fits(turnBetween(p, r), turnBetween(q, s)) || fits(turnBetween(p, s), turnBetween(q, r));
}

/** Makes one node of the two that a branch lies between. */
function merge(graph: Graph, id: number): void {
  const branch = graph.branches[id];
  if (!branch) return;
  const [a, b] = branch.ends.map(({ node }) => node);
  dropBranch(graph, id);
  const [one, two] = [graph.nodes[a], graph.nodes[b]];
  if (!one || !two) return;
  for (const end of two.ends) {
    const far = graph.branches[end >> 1];
    if (far) far.ends[end & 1].node = a;
  }
  graph.nodes[a] = {
    x: (one.x + two.x) / 2,
    y: (one.y + two.y) / 2,
    radius: Math.max(one.radius, two.radius, wayLength(branch.way) / 2),
    ends: [...one.ends, ...two.ends],
  };
  graph.nodes[b] = undefined;
  joinAt(graph, a);
}

/** All ways in which the ends at a node can go on into each other, the likeliest first. */
export function pairingsOf(ends: readonly number[], reach: ReachOf): Pairing[] {
  const reaches = new Map(ends.map((end) => [end, reach(end)]));
  const turn = (p: number, q: number): number => {
    const [one, two] = [reaches.get(p), reaches.get(q)];
    // A branch that comes back to its own node is as good a pair as any other.
    return one && two ? turnBetween(one, two) : Infinity;
  };
  const most = Math.floor(ends.length / 2);
  const all: Pairing[] = [];
  const choose = (left: readonly number[], pairs: readonly (readonly [number, number])[], sum: number) => {
    const [first, ...rest] = left;
    if (first === undefined) {
      all.push({ pairs, turn: sum + (most - pairs.length) * ENDING });
      return;
    }
    for (const second of rest) {
      const by = turn(first, second);
      if (by < MOST_TURN || ends.length <= 3)
        choose(
          rest.filter((end) => end !== second),
          [...pairs, [first, second]],
          sum + by,
        );
    }
    choose(rest, pairs, sum);
  };
  if (ends.length <= ALL_OF) choose(ends, [], 0);
  else all.push(greedy(ends, turn));
  return all.sort((one, two) => one.turn - two.turn).slice(0, 6);
}

/** Where very many meet: the straightest pair first, then the straightest of the others. */
function greedy(ends: readonly number[], turn: (p: number, q: number) => number): Pairing {
  const pairs: (readonly [number, number])[] = [];
  let left = [...ends];
  let sum = 0;
  for (;;) {
    let best: readonly [number, number, number] = [-1, -1, ENDING];
    for (const p of left) for (const q of left) if (p < q && turn(p, q) < best[2]) best = [p, q, turn(p, q)];
    if (best[0] < 0) return { pairs, turn: sum };
    pairs.push([best[0], best[1]]);
    sum += best[2];
    left = left.filter((end) => end !== best[0] && end !== best[1]);
  }
}

/** Whether another pairing is nearly as likely, or the likeliest is a strain. */
export function isUnsurePairing(pairings: readonly Pairing[], reach: ReachOf): boolean {
  const [best, next] = pairings;
  if (!best) return false;
  const strained = best.pairs.some(([p, q]) => turnBetween(reach(p), reach(q)) > UNSURE_TURN);
  return strained || (next !== undefined && next.turn - best.turn < UNSURE_LEAD);
}

/** The direction in which a branch leaves its node, radians. */
export const leaving = ({ angle }: Reach): number => turned(angle + Math.PI);

/** The pairing that comes nearest to what was said, by the directions of branches. */
export function saidPairing(
  pairings: readonly Pairing[],
  reach: ReachOf,
  pairs: readonly (readonly [number, number])[],
): Pairing | undefined {
  const apart = ([p, q]: readonly [number, number], [a, b]: readonly [number, number]) => {
    const [one, two] = [leaving(reach(p)), leaving(reach(q))];
    const straight = Math.max(Math.abs(turned(one - a)), Math.abs(turned(two - b)));
    return Math.min(straight, Math.max(Math.abs(turned(one - b)), Math.abs(turned(two - a))));
  };
  const fits = (pairing: Pairing) =>
    pairing.pairs.length === pairs.length &&
    pairs.every((said) => pairing.pairs.some((pair) => apart(pair, said) < 30 * DEGREE));
  return pairings.find(fits);
}

/** A place that several reaches make for: where they come nearest to all of them, or the middle of the node. */
export function commonPlace(reaches: readonly Reach[], node: Point, radius: number): Point {
  // Least squares of the distances from all their lines (normals nₖ): Σ nₖnₖᵀ p = Σ nₖnₖᵀ pₖ.
  let [a, b, d, p, q] = [0, 0, 0, 0, 0];
  for (const { x, y, angle } of reaches) {
    const [nx, ny] = [-Math.sin(angle), Math.cos(angle)];
    const along = nx * x + ny * y;
    a += nx * nx;
    b += nx * ny;
    d += ny * ny;
    p += nx * along;
    q += ny * along;
  }
  const determinant = a * d - b * b;
  if (determinant < 0.05 * reaches.length) return node;
  const place = { x: (p * d - q * b) / determinant, y: (a * q - b * p) / determinant };
  return Math.hypot(place.x - node.x, place.y - node.y) <= 1.2 * radius + 1 ? place : node;
}
