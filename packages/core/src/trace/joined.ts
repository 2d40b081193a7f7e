import { STRIDE } from '../curve';
import type { Point } from '../math';
import { other, type Graph } from './graph';
import { commonPlace, type Pairing, type ReachOf } from './junctions';
import type { Track } from './resampled';
import { backwards, wayBetween } from './reach';

/** A branch as it was measured, and which of its points are to be trusted: `from` up to and with `to`. */
export interface MeasuredBranch {
  readonly track: Track;
  readonly from: number;
  readonly to: number;
  /** A name that is the same as long as the ink is. */
  readonly name: number;
  readonly isRing: boolean;
  /** The way that it was measured along. */
  readonly way: Float64Array;
}

/** How a line ends: on nothing, on another line, or in a black. */
export type LineEnd = 'tip' | 'joint' | 'black';

/** Branches put together: points with widths, and how it ends. */
export interface RawLine {
  readonly key: string;
  readonly triples: number[];
  readonly ends: readonly [LineEnd, LineEnd];
  /** The ends of branches that it comes to, in turn. */
  readonly way: readonly number[];
  readonly isRing: boolean;
}

/** What lines are put together from. */
export interface Assembly {
  readonly graph: Graph;
  readonly branches: readonly (MeasuredBranch | undefined)[];
  readonly reach: ReachOf;
  /** How the ends at a node go on, by the number of the node. */
  readonly pairings: ReadonlyMap<number, Pairing>;
  /** Ends that go on into each other over a gap. */
  readonly bridges: readonly (readonly [number, number])[];
}

/** Lines as they run over junctions: pairs go on into each other, the other ends run up to what they meet there. */
export function joinedLines({ graph, branches, reach, pairings, bridges }: Assembly): RawLine[] {
  const partner = new Map<number, number>();
  for (const [p, q] of [...[...pairings.values()].flatMap(({ pairs }) => pairs), ...bridges]) {
    partner.set(p, q);
    partner.set(q, p);
  }
  const used = new Set<number>();
  const lines: RawLine[] = [];
  /** Goes from an end of a branch along it, and on over junctions. */
  const follow = (start: number, isRing: boolean) => {
    const triples: number[] = [];
    const way: number[] = [];
    let names = Infinity;
    let end = start;
    for (;;) {
      const branch = branches[end >> 1];
      if (!branch) break;
      used.add(end >> 1);
      way.push(end);
      if (end === start) names = branch.name;
      append(triples, branch, end);
      const far = other(end);
      const next = partner.get(far);
      if (next === undefined) return { triples, way, last: far, names: Math.min(names, branch.name) };
      if (isRing && next === start) {
        triples.push(...wayBetween(reach(far), reach(next), branch.track.step));
        return { triples, way, last: far, names: Math.min(names, branch.name) };
      }
      // A line that comes back to where it was already ends there.
      if (used.has(next >> 1)) return { triples, way, last: far, names: Math.min(names, branch.name) };
      triples.push(...wayBetween(reach(far), reach(next), branch.track.step));
      end = next;
    }
    return { triples, way, last: end, names };
  };
  const kindOf = (end: number): LineEnd => {
    const of = graph.branches[end >> 1]?.ends[end & 1];
    if (of?.isAtBlack) return 'black';
    return of && (graph.nodes[of.node]?.ends.length ?? 0) > 1 ? 'joint' : 'tip';
  };
  const startAt = (start: number) => {
    const { triples, way, last, names } = follow(start, false);
    const ends = [kindOf(start), kindOf(last)] as const;
    if (ends[0] === 'joint') triples.unshift(...backwards(upTo(start, triples.slice(0, STRIDE))));
    if (ends[1] === 'joint') triples.push(...upTo(last, triples.slice(-STRIDE)));
    lines.push({ key: `${names}`, triples, ends, way, isRing: false });
  };
  /** The points from the last one that was measured to what an end runs up to. */
  const upTo = (end: number, last: readonly number[]): number[] => {
    const of = graph.branches[end >> 1]?.ends[end & 1];
    const node = of && graph.nodes[of.node];
    if (!of || !node) return [];
    const own = reach(end);
    const to = targetOf(end, node, of.node);
    const length = Math.hypot(to.x - last[0], to.y - last[1]);
    const parts = Math.max(1, Math.round(length / 1.5));
    return Array.from({ length: parts }, (_, k) => {
      const share = (k + 1) / parts;
      return [last[0] + share * (to.x - last[0]), last[1] + share * (to.y - last[1]), own.width];
    }).flat();
  };
  const targetOf = (
    end: number,
    node: Point & { readonly radius: number; readonly ends: readonly number[] },
    number: number,
  ): Point => {
    const own = reach(end);
    const through = pairings.get(number)?.pairs ?? [];
    let best: { readonly at: Point; readonly far: number } | undefined;
    for (const [p, q] of through) {
      const [one, two] = [reach(p), reach(q)];
      const way = [one.x, one.y, one.width, ...wayBetween(one, two, 1), two.x, two.y, two.width];
      const hit = firstHit(own, way);
      if (hit && (!best || hit.far < best.far)) best = hit;
    }
    if (best && best.far < 3 * node.radius + 2 * own.width + 4) return best.at;
    const alone = node.ends.filter((one) => !through.some((pair) => pair.includes(one)));
    return through.length > 0 ? node : commonPlace(alone.map(reach), node, node.radius);
  };
  for (const branch of graph.branches) {
    if (!branch || branch.isRing) continue;
    for (const end of [2 * branch.id, 2 * branch.id + 1]) if (!used.has(branch.id) && !partner.has(end)) startAt(end);
  }
  for (const branch of graph.branches) {
    if (!branch || used.has(branch.id)) continue;
    const measured = branches[branch.id];
    if (!measured) continue;
    if (branch.isRing) {
      used.add(branch.id);
      lines.push({
        key: `${branch.name}`,
        triples: [...measured.track.points],
        ends: ['joint', 'joint'],
        way: [2 * branch.id],
        isRing: true,
      });
      continue;
    }
    const { triples, way, names } = follow(2 * branch.id, true);
    lines.push({ key: `${names}`, triples, ends: ['joint', 'joint'], way, isRing: true });
  }
  return lines;
}

/** Adds the points of a branch that are to be trusted, away from one of its ends. */
function append(triples: number[], { track: { points }, from, to }: MeasuredBranch, end: number): void {
  const isForward = (end & 1) === 0;
  for (let n = 0; n <= to - from; n++) {
    const i = STRIDE * (isForward ? from + n : to - n);
    triples.push(points[i], points[i + 1], points[i + 2]);
  }
}

/** Where a reach, carried on straight, first meets a way of triples. */
function firstHit({ x, y, angle }: Point & { readonly angle: number }, way: readonly number[]) {
  const [ux, uy] = [Math.cos(angle), Math.sin(angle)];
  let best: { readonly at: Point; readonly far: number } | undefined;
  for (let i = 0; i + STRIDE < way.length; i += STRIDE) {
    const [ax, ay] = [way[i], way[i + 1]];
    const [dx, dy] = [way[i + 3] - ax, way[i + 4] - ay];
    const d = ux * dy - uy * dx;
    if (Math.abs(d) < 1e-9) continue;
    const far = ((ax - x) * dy - (ay - y) * dx) / d;
    const share = ((ax - x) * uy - (ay - y) * ux) / d;
    if (share < -0.01 || share > 1.01 || far < -2) continue;
    if (!best || far < best.far) best = { at: { x: x + far * ux, y: y + far * uy }, far };
  }
  return best;
}
