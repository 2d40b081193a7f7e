import { makeSpine, SEGMENT, STRIDE, type Spine } from '../curve';
import { distance, type Point } from '../math';
import { cornersOf, type Corner } from './corners';
import { fitted } from './fitted';
import type { Graph } from './graph';
import { joinedLines, type MeasuredBranch, type RawLine } from './joined';
import { isUnsurePairing, mergeNodes, pairingsOf, saidPairing, type Pairing } from './junctions';
import { measured } from './measure';
import { backwards, reachOf, turned, type Reach } from './reach';
import { resampled } from './resampled';
import type { Dot, Skeleton } from './skeleton';
import { tipped } from './tips';
import type { Place, Said, TracedLine, TraceSettings } from './types';

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
  const { graph, raster } = skeleton;
  const branches: (MeasuredBranch | undefined)[] = [];
  for (const branch of graph.branches) {
    if (branch) branches[branch.id] = measuredBranch(skeleton, branch);
    if (branches.length % SLICE === 0) yield (0.9 * branches.length) / graph.branches.length;
  }
  const reach = reachesOf(branches);
  mergeNodes(graph, reach);
  // Where a node was merged away, two branches have become one.
  for (const branch of graph.branches)
    if (branch && branches[branch.id]?.way !== branch.way) branches[branch.id] = measuredBranch({ ...skeleton, raster }, branch);
  const last = reachesOf(branches);
  const pairings = new Map<number, readonly Pairing[]>();
  graph.nodes.forEach((node, k) => {
    if (node && node.ends.length > 1) pairings.set(k, pairingsOf(node.ends, last));
  });
  return { skeleton, branches, pairings };
}

function measuredBranch({ raster, graph }: Skeleton, branch: NonNullable<Graph['branches'][number]>): MeasuredBranch {
  const { way, ends, name, isRing } = branch;
  const radius = middling(branch.radii);
  const track = measured(raster, way, radius, isRing);
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

function reachesOf(branches: readonly (MeasuredBranch | undefined)[]): (end: number) => Reach {
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

/** The lines of a picture as they were measured, as settings and the artist's own word have them. Px of the picture. */
export function linesOf(
  { skeleton, branches, pairings }: MeasuredLines,
  settings: TraceSettings,
  given: readonly Said[],
): { readonly lines: TracedLine[]; readonly places: Place[] } {
  const { graph, raster, scale, usual } = skeleton;
  const said = given.map((one) => ({ ...one, x: one.x * scale, y: one.y * scale }));
  const saidNear = (at: Point, as: readonly Said['as'][], reach: number) =>
    said.filter((one) => as.includes(one.as) && distance(one, at) <= reach).at(-1);
  const reach = reachesOf(branches);
  const places: Place[] = [];
  const chosen = new Map<number, Pairing>();
  for (const [node, ways] of pairings) {
    const at = graph.nodes[node];
    if (!at || ways.length === 0) continue;
    const word = saidNear(at, ['junction'], at.radius + usual + 3);
    const pairing = (word?.as === 'junction' && saidPairing(ways, reach, word.pairs)) || ways[0];
    chosen.set(node, pairing);
    places.push({
      kind: 'junction',
      x: at.x,
      y: at.y,
      choice: ways.indexOf(pairing),
      choices: ways.length,
      isUnsure: !word && isUnsurePairing(ways, reach),
      radius: at.radius,
    });
  }
  const raws = joinedLines({ graph, branches, reach, pairings: chosen });
  const lines: TracedLine[] = [];
  const tips: (Point & { readonly angle: number; readonly width: number; readonly line: number })[] = [];
  for (const raw of raws) {
    const line = finished(raw, tips);
    if (line) lines.push(...line);
  }
  for (const dot of skeleton.dots) lines.push(dotLine(dot));
  places.push(...gapsBetween(tips, usual));
  return { lines: lines.map((line) => scaledLine(line, 1 / scale)), places: places.map((place) => scaledPlace(place, 1 / scale)) };

  function finished(raw: RawLine, found: typeof tips): TracedLine[] | undefined {
    let { triples } = raw;
    if (triples.length < 2 * STRIDE) return undefined;
    const width = middleWidth(triples);
    for (const k of [1, 0] as const) {
      if (raw.isRing || raw.ends[k] === 'joint') continue;
      if (k === 0) triples = backwards(triples);
      if (raw.ends[k] === 'black') triples = intoBlack(triples, width);
      else {
        const end = { x: triples[triples.length - 3], y: triples[triples.length - 2] };
        const word = saidNear(end, ['pointed', 'blunt'], 2 * width + 4);
        const tip = tipped(raster, triples, width, word?.as === 'pointed' || word?.as === 'blunt' ? word.as : undefined);
        triples = tip.triples;
        const n = triples.length;
        const at = { x: triples[n - 3], y: triples[n - 2] };
        const angle = Math.atan2(triples[n - 2] - triples[n - 5], triples[n - 3] - triples[n - 6]);
        found.push({ ...at, angle, width, line: lines.length });
        const isThinning = tip.left > 0.25 && tip.left < 0.85;
        places.push({ kind: 'tip', ...at, choice: tip.isPointed ? 0 : 1, choices: 2, isUnsure: !word && isThinning, radius: width });
      }
      if (k === 0) triples = backwards(triples);
    }
    const track = resampled(triples, Math.max(1, Math.min(2.5, width / 5)), raw.isRing);
    const least = 0.7 * settings.corners;
    const corners: Corner[] = [];
    for (const corner of cornersOf(track, raw.isRing, least)) {
      const word = saidNear(corner, ['corner', 'smooth'], width + 3);
      const isCorner = word ? word.as === 'corner' : corner.turn >= settings.corners;
      if (isCorner) corners.push(corner);
      const isUnsure = !word && corner.turn < 1.3 * settings.corners;
      places.push({ kind: 'corner', x: corner.x, y: corner.y, choice: isCorner ? 0 : 1, choices: 2, isUnsure, radius: width });
    }
    const { points, closed } = fitted(track, corners, raw.isRing, settings.smoothness * (scale === 1 ? 1 : 1.5));
    // A line that comes back to the very place where it began is a ring with a corner there.
    const isBack = !closed && raw.ends[0] === 'joint' && raw.ends[1] === 'joint' && comesBack(points, width / 2);
    if (isBack) points.set(points.subarray(0, STRIDE), points.length - STRIDE);
    return [{ key: raw.key, spine: { points, closed: closed || isBack } }];
  }
}

const comesBack = (points: Float64Array, within: number): boolean =>
  points.length > SEGMENT + STRIDE &&
  Math.hypot(points[0] - points[points.length - 3], points[1] - points[points.length - 2]) < within;

const dotLine = ({ x, y, width, at }: Dot): TracedLine => ({
  key: `dot${at}`,
  spine: makeSpine(Float64Array.of(x, y, width, x, y, width, x, y, width, x, y, width)),
});

function middleWidth(triples: readonly number[]): number {
  const widths: number[] = [];
  for (let i = 2; i < triples.length; i += STRIDE) widths.push(triples[i]);
  return middling(widths);
}

/** The middle of numbers in order. */
const middling = (values: ArrayLike<number>): number => Float64Array.from(values).sort()[values.length >> 1] ?? 1;

/** Lets a line go on into the black that it ends at, by as much as it is wide. */
function intoBlack(triples: readonly number[], width: number): number[] {
  const track = resampled(triples, 1, false);
  const end = reachOf(track, track.points.length / STRIDE - 1, 1, Math.max(4, 1.5 * width));
  const far = width + 1.5;
  return [...triples, end.x + far * Math.cos(end.angle), end.y + far * Math.sin(end.angle), end.width];
}

/** Tips that look at each other over a short gap: perhaps one line that was broken. */
function gapsBetween(tips: readonly (Point & { readonly angle: number; readonly width: number; readonly line: number })[], usual: number): Place[] {
  const places: Place[] = [];
  const side = 4 * usual + 4;
  const cells = new Map<string, number[]>();
  tips.forEach(({ x, y }, k) => {
    const cell = `${Math.floor(x / side)},${Math.floor(y / side)}`;
    cells.set(cell, [...(cells.get(cell) ?? []), k]);
  });
  tips.forEach((one, k) => {
    const [cx, cy] = [Math.floor(one.x / side), Math.floor(one.y / side)];
    for (let dy = -1; dy <= 1; dy++)
      for (let dx = -1; dx <= 1; dx++)
        for (const j of cells.get(`${cx + dx},${cy + dy}`) ?? []) {
          const two = tips[j];
          const gap = distance(one, two);
          if (j <= k || gap > side || gap < 0.5) continue;
          const chord = Math.atan2(two.y - one.y, two.x - one.x);
          const off = Math.abs(turned(one.angle - chord)) + Math.abs(turned(two.angle - chord - Math.PI));
          if (off > Math.PI / 4) continue;
          places.push({ kind: 'gap', x: (one.x + two.x) / 2, y: (one.y + two.y) / 2, choice: 0, choices: 2, isUnsure: true, radius: gap / 2 });
        }
  });
  return places;
}

const scaledSpine = ({ points, closed }: Spine, by: number): Spine => ({ points: points.map((value) => value * by), closed });

const scaledLine = ({ key, spine }: TracedLine, by: number): TracedLine => ({ key, spine: by === 1 ? spine : scaledSpine(spine, by) });

const scaledPlace = (place: Place, by: number): Place => ({ ...place, x: place.x * by, y: place.y * by, radius: place.radius * by });
