import { STRIDE } from '../curve';
import type { Point } from '../math';
import { other, type Graph } from './graph';
import { commonPlace, type Pairing, type ReachOf } from './junctions';
import { straightTo, type Track } from './resampled';
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
export const joinedLines = (assembly: Assembly): RawLine[] => new Joiner(assembly).joined();

/** A way over branches: where it came to, and the lowest of its names at either end. */
interface Followed {
  readonly triples: number[];
  readonly way: readonly number[];
  readonly last: number;
  readonly name: number;
}

class Joiner {
  private readonly partner = new Map<number, number>();
  private readonly used = new Set<number>();
  private readonly lines: RawLine[] = [];

  constructor(private readonly assembly: Assembly) {
    const { pairings, bridges } = assembly;
    for (const [p, q] of [...[...pairings.values()].flatMap(({ pairs }) => pairs), ...bridges]) {
      this.partner.set(p, q);
      this.partner.set(q, p);
    }
  }

  joined(): RawLine[] {
    const { graph, branches } = this.assembly;
    for (const branch of graph.branches) {
      if (!branch || branch.isRing) continue;
      for (const end of [2 * branch.id, 2 * branch.id + 1])
        if (!this.used.has(branch.id) && !this.partner.has(end)) this.addFrom(end);
    }
    // What is left goes round.
    for (const branch of graph.branches) {
      if (!branch || this.used.has(branch.id)) continue;
      const measured = branches[branch.id];
      if (!measured) continue;
      const start = 2 * branch.id;
      const { triples, way, name } = branch.isRing
        ? { triples: [...measured.track.points], way: [start], name: branch.name }
        : this.follow(start);
      this.used.add(branch.id);
      this.lines.push({ key: `${name}`, triples, ends: ['joint', 'joint'], way, isRing: true });
    }
    return this.lines;
  }

  private addFrom(start: number): void {
    const { triples, way, last, name } = this.follow(start);
    const ends = [this.kindOf(start), this.kindOf(last)] as const;
    if (ends[0] === 'joint') triples.unshift(...backwards(this.upTo(start, triples.slice(0, STRIDE))));
    if (ends[1] === 'joint') triples.push(...this.upTo(last, triples.slice(-STRIDE)));
    this.lines.push({ key: `${name}`, triples, ends, way, isRing: false });
  }

  /** Goes from an end of a branch along it and on over junctions, to where it ends or comes back to where it began. */
  private follow(start: number): Followed {
    const { branches, reach } = this.assembly;
    const triples: number[] = [];
    const way: number[] = [];
    let name = Infinity;
    for (let end = start; ;) {
      const branch = branches[end >> 1];
      if (!branch) return { triples, way, last: end, name };
      this.used.add(end >> 1);
      way.push(end);
      if (end === start) name = branch.name;
      append(triples, branch, end);
      const far = other(end);
      const next = this.partner.get(far);
      const goesOn = next !== undefined && (next === start || !this.used.has(next >> 1));
      if (goesOn) triples.push(...wayBetween(reach(far), reach(next), branch.track.step));
      if (!goesOn || next === start) return { triples, way, last: far, name: Math.min(name, branch.name) };
      end = next;
    }
  }

  private kindOf(end: number): LineEnd {
    const { graph } = this.assembly;
    const of = graph.branches[end >> 1]?.ends[end & 1];
    if (of?.isAtBlack) return 'black';
    return of && (graph.nodes[of.node]?.ends.length ?? 0) > 1 ? 'joint' : 'tip';
  }

  /** The points from the last one that was measured to what an end runs up to. */
  private upTo(end: number, last: readonly number[]): number[] {
    const to = this.targetOf(end);
    return to ? straightTo(last, [to.x, to.y, this.assembly.reach(end).width]) : [];
  }

  /** What an end runs up to: the line that goes through its node, or the place where all that end there meet. */
  private targetOf(end: number): Point | undefined {
    const { graph, pairings, reach } = this.assembly;
    const of = graph.branches[end >> 1]?.ends[end & 1];
    const node = of && graph.nodes[of.node];
    if (!of || !node) return undefined;
    const own = reach(end);
    const through = pairings.get(of.node)?.pairs ?? [];
    const hits = through.flatMap(([p, q]) => {
      const [one, two] = [reach(p), reach(q)];
      return firstHit(own, [one.x, one.y, one.width, ...wayBetween(one, two, 1), two.x, two.y, two.width]) ?? [];
    });
    const [nearest] = hits.sort((one, two) => one.far - two.far);
    if (nearest && nearest.far < 3 * node.radius + 2 * own.width + 4) return nearest.at;
    if (through.length > 0) return node;
    return commonPlace(node.ends.map(reach), node, node.radius);
  }
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
