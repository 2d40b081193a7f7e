import type { Tied, Ends } from './tied';
import type { StrokeEntity } from '../stroke';
import { distance, type Point } from '../math';
import { laidAnew } from './laidAnew';
import { project } from '../guides';
/** Ends closer than this, page px, have met. */
const MET = 0.5;
const ROUNDS = 3_000;
const CLOSE = 1e-10;

/**
 * All lines with their new ends: ends that met are drawn to their common middle, lines are brought back to what their guide
 * allows, over and over until both hold. Lines that nothing pulls at stay the very same.
 */
export function solved(lines: readonly Tied[]): { readonly before: StrokeEntity; readonly stroke: StrokeEntity }[] {
  const clusters = meetings(lines);
  const places = lines.map(({ moved }) => [...moved]);
  const reached = reachedFrom(lines, clusters);
  for (let round = 0; round < ROUNDS && clusters.length > 0; round++) {
    let gap = 0;
    for (const cluster of clusters) {
      if (!cluster.some(([line]) => reached.has(line))) continue;
      const x = cluster.reduce((sum, [line, end]) => sum + places[line][end].x, 0) / cluster.length;
      const y = cluster.reduce((sum, [line, end]) => sum + places[line][end].y, 0) / cluster.length;
      for (const [line, end] of cluster) {
        gap = Math.max(gap, distance(places[line][end], { x, y }));
        places[line][end] = { x, y };
      }
    }
    lines.forEach((line, k) => {
      if (reached.has(k)) places[k] = obedient(line, [places[k][0], places[k][1]]);
    });
    if (gap < CLOSE) break;
  }
  return lines.map((line, k) => ({
    before: line.stroke,
    stroke: reached.has(k) ? laidAnew(line, [places[k][0], places[k][1]]) : line.stroke,
  }));
}

type EndOf = readonly [line: number, end: 0 | 1];

/** Ends that met before the move, by groups of two and more. */
function meetings(lines: readonly Tied[]): EndOf[][] {
  const all = lines.flatMap(({ ends }, k): { at: Point; of: EndOf }[] => [
    { at: ends[0], of: [k, 0] },
    { at: ends[1], of: [k, 1] },
  ]);
  const groups: { at: Point; of: EndOf[] }[] = [];
  // By squares as wide as the tolerance: what has met lies in the same or the next one.
  const squares = new Map<string, (typeof groups)[number][]>();
  const square = (value: number) => Math.floor(value / MET);
  for (const { at, of } of all) {
    const [column, row] = [square(at.x), square(at.y)];
    const near = [-1, 0, 1].flatMap((i) => [-1, 0, 1].flatMap((j) => squares.get(`${column + i},${row + j}`) ?? []));
    const group = near.find((one) => distance(one.at, at) <= MET);
    if (group) {
      group.of.push(of);
      continue;
    }
    const fresh = { at, of: [of] };
    groups.push(fresh);
    const key = `${column},${row}`;
    squares.set(key, [...(squares.get(key) ?? []), fresh]);
  }
  return groups.flatMap(({ of }) => (of.length > 1 ? [of] : []));
}

/** Lines that were moved themselves or hang together with one that was. */
function reachedFrom(lines: readonly Tied[], clusters: readonly EndOf[][]): Set<number> {
  const reached = new Set(lines.flatMap(({ isMoved }, k) => (isMoved ? [k] : [])));
  for (let size = -1; size !== reached.size;) {
    size = reached.size;
    for (const cluster of clusters)
      if (cluster.some(([line]) => reached.has(line))) for (const [line] of cluster) reached.add(line);
  }
  return reached;
}

/** The ends nearest to those asked for that the line's guide allows. */
function obedient({ shape, path }: Tied, [a, b]: Ends): Point[] {
  if (shape.kind === 'rails') return onLine({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 }, shape.angle, a, b);
  if (shape.kind === 'rays') {
    // The direction through the point that both ends lie closest to: the main axis of their moments.
    const [xx, yy, xy] = [a, b].reduce(
      ([u, v, w], p) => [u + (p.x - shape.x) ** 2, v + (p.y - shape.y) ** 2, w + (p.x - shape.x) * (p.y - shape.y)],
      [0, 0, 0],
    );
    return onLine(shape, 0.5 * Math.atan2(2 * xy, xx - yy), a, b);
  }
  return [a, b].map((p) => {
    const { x, y } = project(path, p);
    return { x, y };
  });
}

function onLine(on: Point, angle: number, ...points: readonly Point[]): Point[] {
  const [dx, dy] = [Math.cos(angle), Math.sin(angle)];
  return points.map(({ x, y }) => {
    const along = (x - on.x) * dx + (y - on.y) * dy;
    return { x: on.x + along * dx, y: on.y + along * dy };
  });
}
