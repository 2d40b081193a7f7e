import { distance, type Point } from '../math';
import type { Graph } from './graph';
import type { ReachOf } from './junctions';
import { turnBetween } from './reach';

/** Two ends of branches that look at each other over a short stretch of paper: perhaps one line that was broken. */
export interface Gap extends Point {
  readonly ends: readonly [number, number];
  readonly width: number;
}

/** Line widths that a gap may be wide, and the turn over it up to which it may be one line, radians. */
const MOST_WIDTHS = 4;
const MOST_TURN = Math.PI / 4;

/** The gaps between ends of lines; each end counts for the nearest alone. */
export function gapsBetween(graph: Graph, reach: ReachOf, usual: number): Gap[] {
  const tips: { readonly end: number; readonly at: Point; readonly radius: number }[] = [];
  for (const branch of graph.branches)
    for (const [k, end] of branch?.ends.entries() ?? []) {
      if (!branch || branch.isRing || end.isAtBlack || graph.nodes[end.node]?.ends.length !== 1) continue;
      tips.push({ end: 2 * branch.id + k, at: reach(2 * branch.id + k), radius: end.radius });
    }
  const side = (MOST_WIDTHS + 2) * usual + 4;
  const cells = new Map<string, number[]>();
  const cell = ({ x, y }: Point, dx = 0, dy = 0) => `${Math.floor(x / side) + dx},${Math.floor(y / side) + dy}`;
  tips.forEach(({ at }, k) => cells.set(cell(at), [...(cells.get(cell(at)) ?? []), k]));
  const found: Gap[] = [];
  tips.forEach((one, k) => {
    for (let dy = -1; dy <= 1; dy++)
      for (let dx = -1; dx <= 1; dx++)
        for (const j of cells.get(cell(one.at, dx, dy)) ?? []) {
          const two = tips[j];
          // What was measured stops a radius short of each tip.
          const width = distance(one.at, two.at) - one.radius - two.radius;
          if (j <= k || one.end >> 1 === two.end >> 1 || width > MOST_WIDTHS * usual + 2) continue;
          if (turnBetween(reach(one.end), reach(two.end)) > MOST_TURN) continue;
          const at = { x: (one.at.x + two.at.x) / 2, y: (one.at.y + two.at.y) / 2 };
          found.push({ ...at, ends: [one.end, two.end], width: Math.max(1, width) });
        }
  });
  const taken = new Set<number>();
  return found
    .sort((one, two) => one.width - two.width)
    .filter(({ ends }) => {
      if (ends.some((end) => taken.has(end))) return false;
      ends.forEach((end) => taken.add(end));
      return true;
    });
}
