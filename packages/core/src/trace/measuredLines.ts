import { STRIDE } from '../curve';
import { median } from '../math';
import type { Graph } from './graph';
import type { MeasuredBranch } from './joined';
import { mergeNodes, pairingsOf, type Pairing } from './junctions';
import { measured } from './measure';
import { reachOf, type Reach } from './reach';
import type { Skeleton } from './skeleton';

/** A picture whose lines are measured: what said and settings choose among. */
export interface MeasuredLines {
  readonly skeleton: Skeleton;
  readonly branches: readonly (MeasuredBranch | undefined)[];
  /** The ways in which the ends at each node can go on, the likeliest first. */
  readonly pairings: ReadonlyMap<number, readonly Pairing[]>;
}

/** Half widths and px of a branch beside a node that tell nothing of it. */
const TRIM = 1.25;
const TRIM_MORE = 1;
/** Half widths at a tip whose edges belong to its round. */
const TIP_TRIM = 0.7;
/** Line widths of a branch that say how it goes on. */
const REACH = 1.6;
/** Branches measured between two answers of how far it is. */
const SLICE = 200;

/** Measures all lines of a skeleton on the picture, and works out how they can go on. Yields how far it has come, 0..1. */
export function* measuredLines(skeleton: Skeleton): Generator<number, MeasuredLines> {
  const { graph } = skeleton;
  const branches: (MeasuredBranch | undefined)[] = [];
  for (const branch of graph.branches) {
    if (branch) branches[branch.id] = measuredBranch(skeleton, branch);
    if (branches.length % SLICE === 0) yield (0.9 * branches.length) / graph.branches.length;
  }
  const reach = reachesOf(branches);
  mergeNodes(graph, reach);
  // Where a node was merged away, two branches have become one.
  for (const branch of graph.branches)
    if (branch && branches[branch.id]?.way !== branch.way) branches[branch.id] = measuredBranch(skeleton, branch);
  const last = reachesOf(branches);
  const pairings = new Map<number, readonly Pairing[]>();
  graph.nodes.forEach((node, k) => {
    if (node && node.ends.length > 1) pairings.set(k, pairingsOf(node.ends, last));
  });
  return { skeleton, branches, pairings };
}

function measuredBranch({ raster, graph }: Skeleton, branch: NonNullable<Graph['branches'][number]>): MeasuredBranch {
  const { way, ends, name, isRing } = branch;
  const radius = median(branch.radii);
  const track = measured(raster, way, branch.radii, isRing);
  const count = track.points.length / STRIDE;
  const cut = (k: 0 | 1): number => {
    if (isRing) return 0;
    const end = ends[k];
    if (end.isAtBlack) return Math.round((0.6 * radius) / track.step);
    const isTip = (graph.nodes[end.node]?.ends.length ?? 0) < 2;
    const own = isTip ? TIP_TRIM * Math.min(end.radius, radius) : TRIM * end.radius + TRIM_MORE;
    return Math.round(own / track.step);
  };
  let [from, to] = [cut(0), count - 1 - cut(1)];
  if (to - from < 1) {
    // Too short to tell: what lies in its middle stands.
    const middle = Math.min(count - 2, Math.max(0, Math.round((from + to) / 2)));
    [from, to] = [middle, Math.min(count - 1, middle + 1)];
  }
  return { track, from, to, name, isRing, way };
}

/** How each end of a branch would go on into its node. */
export function reachesOf(branches: readonly (MeasuredBranch | undefined)[]): (end: number) => Reach {
  const known = new Map<number, Reach>();
  return (end) => {
    const old = known.get(end);
    if (old) return old;
    const branch = branches[end >> 1];
    if (!branch) throw new RangeError(`There is no branch ${end >> 1}.`);
    const { track, from, to } = branch;
    const isFirst = (end & 1) === 0;
    const at = isFirst ? from : to;
    const width = track.points[STRIDE * at + 2];
    const length = Math.min(Math.max(REACH * width, 4), Math.max(1, (to - from) * track.step));
    const reach = reachOf(track, at, isFirst ? -1 : 1, length);
    known.set(end, reach);
    return reach;
  };
}
