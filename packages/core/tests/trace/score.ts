import { pointAt, segmentCount, segmentLengths, type Spine } from '../../src/curve';
import type { TracedLine } from '../../src/trace';
import { sampled, type TrueLine } from './icons';

/** How a tracing compares with the lines that were drawn. Lengths in px. */
export interface Score {
  readonly there: number[];
  readonly back: number[];
  readonly width: number[];
  lines: [traced: number, drawn: number];
  nodes: [traced: number, drawn: number];
  crossings: [right: number, all: number];
  tees: [right: number, all: number];
  corners: [right: number, all: number];
  readonly overlaps: number[];
}

export const newScore = (): Score => ({
  ...{ there: [], back: [], width: [], overlaps: [] },
  ...{ lines: [0, 0], nodes: [0, 0], crossings: [0, 0], tees: [0, 0], corners: [0, 0] },
});

export const mean = (list: readonly number[]): number =>
  list.reduce((sum, value) => sum + value, 0) / Math.max(1, list.length);

export const share = ([right, all]: readonly [number, number]): number => (all ? right / all : 1);

/** Points in cells, for what lies nearest. */
function near(points: readonly (readonly [number, number])[], side: number) {
  const cells = new Map<string, (readonly [number, number])[]>();
  for (const point of points) {
    const key = `${Math.floor(point[0] / side)},${Math.floor(point[1] / side)}`;
    const known = cells.get(key);
    if (known) known.push(point);
    else cells.set(key, [point]);
  }
  return (x: number, y: number): number => {
    let best = side;
    for (let dy = -1; dy <= 1; dy++)
      for (let dx = -1; dx <= 1; dx++)
        for (const [px, py] of cells.get(`${Math.floor(x / side) + dx},${Math.floor(y / side) + dy}`) ?? [])
          best = Math.min(best, Math.hypot(px - x, py - y));
    return best;
  };
}

/** Adds an icon's tracing to a score; `scale` is px of the scan to one of the icon, `line` the true width, px. */
export function addTo(
  score: Score,
  drawn: readonly TrueLine[],
  traced: readonly TracedLine[],
  scale: number,
  line: number,
): void {
  const spaced = drawn.map(({ points }) => points.map(([x, y]): readonly [number, number] => [x * scale, y * scale]));
  const dense = spaced.flatMap((points) => points.flatMap((p, k) => (k ? between(points[k - 1], p) : [p])));
  const side = Math.max(8, 2 * line);
  const toTrue = near(dense, side);
  const samples = traced.flatMap(({ spine }) => sampled(spine));
  for (const [x, y, w] of samples) {
    score.there.push(toTrue(x, y));
    score.width.push(Math.abs(w - line) / line);
  }
  const fine = traced.flatMap(({ spine }) => fineOf(spine));
  const toTraced = near(fine, side);
  for (const points of spaced) for (const [x, y] of points) score.back.push(toTraced(x, y));
  score.lines = [score.lines[0] + traced.length, score.lines[1] + drawn.length];
  score.nodes = [
    score.nodes[0] + traced.reduce((sum, { spine }) => sum + segmentCount(spine), 0),
    score.nodes[1] + drawn.reduce((sum, { cubics }) => sum + cubics, 0),
  ];
  const ends = traced.flatMap(({ spine }) => (spine.closed ? [] : [endOf(spine, 0), endOf(spine, 1)]));
  meetings(score, drawn, spaced, ends, fine, line, scale);
  cornersIn(score, drawn, spaced, traced, scale, line);
}

function between(a: readonly [number, number], b: readonly [number, number]): [number, number][] {
  const count = Math.max(1, Math.ceil(Math.hypot(b[0] - a[0], b[1] - a[1]) / 0.25));
  return Array.from({ length: count }, (_, k) => [
    a[0] + ((b[0] - a[0]) * (k + 1)) / count,
    a[1] + ((b[1] - a[1]) * (k + 1)) / count,
  ]);
}

function fineOf(spine: Spine): [number, number][] {
  const fine: [number, number][] = [];
  const lengths = segmentLengths(spine);
  for (let segment = 0; segment < lengths.length; segment++)
    for (let k = 0, count = Math.max(2, Math.ceil(lengths[segment] / 0.2)); k < count; k++) {
      const { x, y } = pointAt(spine, { segment, t: k / (count - 1) });
      fine.push([x, y]);
    }
  return fine;
}

const endOf = ({ points }: Spine, k: 0 | 1): readonly [number, number] =>
  k === 0 ? [points[0], points[1]] : [points[points.length - 3], points[points.length - 2]];

/** Crossings over which both lines go on, and ends on another line, which alone end there. */
function meetings(
  score: Score,
  drawn: readonly TrueLine[],
  spaced: readonly (readonly (readonly [number, number])[])[],
  ends: readonly (readonly [number, number])[],
  fine: readonly (readonly [number, number])[],
  line: number,
  scale: number,
): void {
  const toTraced = near(fine, 2 * line);
  const endsNear = (x: number, y: number, reach: number) =>
    ends.filter(([px, py]) => Math.hypot(px - x, py - y) < reach).length;
  const crossings: (readonly [number, number])[] = [];
  const tees: (readonly [number, number])[] = [];
  const all: (readonly [number, number, number, number])[] = [];
  spaced.forEach((one, a) =>
    spaced.forEach((two, b) => {
      if (a === b) return;
      if (!drawn[a].isClosed)
        for (const at of [one[0], one[one.length - 1]]) {
          const k = nearestOf(two, at);
          const bends = drawn[b].corners.some(
            ([cx, cy]) => Math.hypot(cx * scale - at[0], cy * scale - at[1]) < 2 * line,
          );
          const isInner =
            !bends && (drawn[b].isClosed || (alongFrom(two, k, 1) > 2 * line && alongFrom(two, k, -1) > 2 * line));
          if (Math.hypot(two[k][0] - at[0], two[k][1] - at[1]) < 0.1 * line && isInner && stands(one, two, at, k))
            tees.push(at);
        }
      if (b < a) return;
      for (let i = 1; i < one.length; i++)
        for (let j = 1; j < two.length; j++) {
          const hit = crossed(one[i - 1], one[i], two[j - 1], two[j]);
          if (hit)
            all.push([
              hit[0],
              hit[1],
              ...([one, two].map((way, n) =>
                drawn[n === 0 ? a : b].isClosed
                  ? Infinity
                  : Math.min(alongFrom(way, n === 0 ? i : j, 1), alongFrom(way, n === 0 ? i : j, -1)),
              ) as [number, number]),
            ]);
        }
    }),
  );
  // A corner beside it makes a place of its own kind.
  const bends = drawn.flatMap(({ corners }) => corners.map(([x, y]) => [x * scale, y * scale] as const));
  for (const [x, y, p, q] of all)
    if (Math.min(p, q) > 2.5 * line && bends.every(([cx, cy]) => Math.hypot(cx - x, cy - y) > 2.5 * line))
      crossings.push([x, y]);
  const alone = (x: number, y: number, list: readonly (readonly [number, number])[]) =>
    list.filter(([px, py]) => Math.hypot(px - x, py - y) < 3 * line).length <= 1;
  const special = [...all.map(([x, y]) => [x, y] as const), ...tees];
  for (const [x, y] of crossings)
    if (alone(x, y, special)) {
      score.crossings[1]++;
      if (process.env.DBG && endsNear(x, y, 1.5 * line) !== 0)
        console.log('   missed crossing', x.toFixed(1), y.toFixed(1), endsNear(x, y, 1.5 * line));
      if (endsNear(x, y, 1.5 * line) === 0 && toTraced(x, y) < 0.5 * line) score.crossings[0]++;
    }
  for (const [x, y] of tees)
    if (alone(x, y, special)) {
      score.tees[1]++;
      if (process.env.DBG && !(endsNear(x, y, 1.5 * line) === 1 && toTraced(x, y) < 0.5 * line))
        console.log('   missed tee', x.toFixed(1), y.toFixed(1), endsNear(x, y, 1.5 * line));
      if (endsNear(x, y, 1.5 * line) === 1 && toTraced(x, y) < 0.5 * line) score.tees[0]++;
    }
}

/** Whether a line meets another at 30° at least. */
function stands(
  one: readonly (readonly [number, number])[],
  two: readonly (readonly [number, number])[],
  at: readonly [number, number],
  k: number,
): boolean {
  const way = at === one[0] ? one : [...one].reverse();
  const near = way[Math.min(4, way.length - 1)];
  const [a, b] = [two[Math.max(0, k - 2)], two[Math.min(two.length - 1, k + 2)]];
  const [ux, uy, vx, vy] = [near[0] - at[0], near[1] - at[1], b[0] - a[0], b[1] - a[1]];
  return Math.abs(ux * vy - uy * vx) >= 0.5 * Math.hypot(ux, uy) * Math.hypot(vx, vy);
}

function nearestOf(way: readonly (readonly [number, number])[], [x, y]: readonly [number, number]): number {
  let best = 0;
  way.forEach(([px, py], k) => {
    if (Math.hypot(px - x, py - y) < Math.hypot(way[best][0] - x, way[best][1] - y)) best = k;
  });
  return best;
}

function alongFrom(way: readonly (readonly [number, number])[], from: number, by: 1 | -1): number {
  let length = 0;
  for (let k = from; k + by >= 0 && k + by < way.length; k += by)
    length += Math.hypot(way[k + by][0] - way[k][0], way[k + by][1] - way[k][1]);
  return length;
}

function crossed(
  a: readonly [number, number],
  b: readonly [number, number],
  c: readonly [number, number],
  d: readonly [number, number],
): [number, number] | undefined {
  const [ux, uy, vx, vy] = [b[0] - a[0], b[1] - a[1], d[0] - c[0], d[1] - c[1]];
  const cross = ux * vy - uy * vx;
  if (Math.abs(cross) < Math.sin(Math.PI / 6) * Math.hypot(ux, uy) * Math.hypot(vx, vy)) return undefined;
  const s = ((c[0] - a[0]) * vy - (c[1] - a[1]) * vx) / cross;
  const t = ((c[0] - a[0]) * uy - (c[1] - a[1]) * ux) / cross;
  return s >= 0 && s < 1 && t >= 0 && t < 1 ? [a[0] + s * ux, a[1] + s * uy] : undefined;
}

/** True corners with room about them, and whether the tracing turns there at a node. */
function cornersIn(
  score: Score,
  drawn: readonly TrueLine[],
  spaced: readonly (readonly (readonly [number, number])[])[],
  traced: readonly TracedLine[],
  scale: number,
  line: number,
): void {
  const sharp: (readonly [number, number])[] = [];
  for (const { spine } of traced) {
    const { points, closed } = spine;
    const count = segmentCount(spine);
    for (let k = closed ? 0 : 1; k < count; k++) {
      const i = 9 * k;
      const before = k === 0 ? points.length - 3 : i;
      const into = direction(points, before - 3, before) ?? direction(points, before - 6, before);
      const out = direction(points, i, i + 3) ?? direction(points, i, i + 6);
      if (
        into &&
        out &&
        Math.abs(Math.atan2(into[0] * out[1] - into[1] * out[0], into[0] * out[0] + into[1] * out[1])) > Math.PI / 7
      )
        sharp.push([points[i], points[i + 1]]);
    }
  }
  drawn.forEach((one, a) => {
    for (const corner of one.corners) {
      const [x, y] = [corner[0] * scale, corner[1] * scale];
      const k = nearestOf(spaced[a], [x, y]);
      const isFar = one.isClosed || Math.min(alongFrom(spaced[a], k, 1), alongFrom(spaced[a], k, -1)) > 2.5 * line;
      const other = spaced.some((way, b) => b !== a && way.some(([px, py]) => Math.hypot(px - x, py - y) < 2.5 * line));
      const next = one.corners.some((c) => c !== corner && Math.hypot(c[0] * scale - x, c[1] * scale - y) < 4 * line);
      if (!isFar || other || next) continue;
      score.corners[1]++;
      if (process.env.DBG && !sharp.some(([px, py]) => Math.hypot(px - x, py - y) < 0.5 * line))
        console.log('   missed corner', x.toFixed(1), y.toFixed(1));
      if (sharp.some(([px, py]) => Math.hypot(px - x, py - y) < 0.5 * line)) score.corners[0]++;
    }
  });
}

function direction(points: Float64Array, from: number, to: number): [number, number] | undefined {
  const [dx, dy] = [points[to] - points[from], points[to + 1] - points[from + 1]];
  return Math.hypot(dx, dy) > 1e-6 ? [dx, dy] : undefined;
}
