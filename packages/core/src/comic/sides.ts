import { evenlyWide, joinedSpines, nodeAt, nodeCount, SEGMENT, STRIDE, type Spine } from '../curve';
import { PageError } from '../gate';
import { areaOfRings, boxOfFlat, ringArea, segmentDistanceSquared, type Point } from '../math';
import { lineSpine, polylineSpine } from '../shapes';
import { flatRing } from '../area';

/** A straight line without an end: a place on it and a direction of unit length. */
export interface Line extends Point {
  readonly dx: number;
  readonly dy: number;
}

/** The line through two places; nothing for one place. */
export function lineThrough(from: Point, to: Point): Line | undefined {
  const [x, y] = [to.x - from.x, to.y - from.y];
  const length = Math.hypot(x, y);
  return length > 1e-9 ? { ...{ x: from.x, y: from.y }, dx: x / length, dy: y / length } : undefined;
}

/** How far a place lies to the left of a line as it goes, in a plane whose y goes down: outside of a panel that turns from x towards y. */
export const besideLine = ({ x, y, dx, dy }: Line, at: Point): number => (at.x - x) * dy - (at.y - y) * dx;

/** The line beside another one, so far to its left. */
export const lineBeside = ({ x, y, dx, dy }: Line, by: number): Line => ({ x: x + by * dy, y: y - by * dx, dx, dy });

/** Where two lines cross; nothing where they run side by side. */
export function crossingOf(a: Line, b: Line): Point | undefined {
  const turn = a.dx * b.dy - a.dy * b.dx;
  if (Math.abs(turn) < 1e-6) return undefined;
  const t = ((b.x - a.x) * b.dy - (b.y - a.y) * b.dx) / turn;
  return { x: a.x + t * a.dx, y: a.y + t * a.dy };
}

/** The ends of a side: the nodes that it goes from and to. */
export const sideEnds = (ring: Spine, side: number): readonly [Point, Point] => [
  nodeAt(ring, side),
  nodeAt(ring, (side + 1) % nodeCount(ring)),
];

/** The line through the ends of a side. */
export function sideLine(ring: Spine, side: number): Line {
  const line = lineThrough(...sideEnds(ring, side));
  if (!line) throw new PageError('This side of the panel has no length.');
  return line;
}

/** Whether a side runs straight. */
export function isStraight({ points: p }: Spine, side: number): boolean {
  const i = side * SEGMENT;
  const line = lineThrough({ x: p[i], y: p[i + 1] }, { x: p[i + 9], y: p[i + 10] });
  if (!line) return true;
  return [3, 6].every((k) => Math.abs(besideLine(line, { x: p[i + k], y: p[i + k + 1] })) < STRAIGHT);
}

/** Page px by which the handles of a straight side may stray from it. */
const STRAIGHT = 1e-3;

/** The line along which a side leaves one of its ends: where that is moved, it moves along it. */
export function lineFromEnd(ring: Spine, side: number, end: 0 | 1): Line {
  if (isStraight(ring, side)) return sideLine(ring, side);
  const { points: p } = ring;
  const i = side * SEGMENT + (end === 0 ? 0 : 9);
  const h = side * SEGMENT + (end === 0 ? 3 : 6);
  return lineThrough({ x: p[i], y: p[i + 1] }, { x: p[h], y: p[h + 1] }) ?? sideLine(ring, side);
}

/** A ring with some of its nodes elsewhere. Straight sides stay straight; the handles of others go along with their nodes. */
export function withNodesAt(ring: Spine, moved: ReadonlyMap<number, Point>): Spine {
  const count = nodeCount(ring);
  const points = ring.points.slice();
  const straight = Array.from({ length: count }, (_, side) => isStraight(ring, side));
  for (const [node, at] of moved) {
    const old = nodeAt(ring, node);
    const [dx, dy] = [at.x - old.x, at.y - old.y];
    const shift = (triple: number) => {
      points[STRIDE * triple] += dx;
      points[STRIDE * triple + 1] += dy;
    };
    const put = (triple: number) => points.set([at.x, at.y], STRIDE * triple);
    put(3 * node);
    if (node === 0) put(3 * count);
    shift(3 * node + 1);
    shift(3 * ((node + count - 1) % count) + 2);
  }
  for (let side = 0; side < count; side++)
    if (straight[side] && (moved.has(side) || moved.has((side + 1) % count))) straighten(points, side);
  return { points, closed: true };
}

function straighten(points: Float64Array, side: number): void {
  const i = side * SEGMENT;
  for (let axis = 0; axis < 2; axis++) {
    const [from, to] = [points[i + axis], points[i + 9 + axis]];
    points[i + 3 + axis] = from + (to - from) / 3;
    points[i + 6 + axis] = from + (2 * (to - from)) / 3;
  }
}

/** A ring of straight sides from corner to corner, without a weight. */
export const ringThrough = (corners: readonly Point[]): Spine => evenlyWide(polylineSpine(corners, true), 0);

/** Where an open course begins and ends. */
export const startOf = ({ points }: Spine): Point => ({ x: points[0], y: points[1] });
export const endOf = ({ points }: Spine): Point => ({ x: points[points.length - 3], y: points[points.length - 2] });

/** Parts that go round, as a ring: it ends on the very numbers that it began with. */
export function closedSpine(parts: readonly Spine[]): Spine {
  const { points } = joinedSpines(parts);
  points.copyWithin(points.length - STRIDE, 0, STRIDE);
  return { points, closed: true };
}

/** A straight way from a place to another, without a weight. */
export const wayBetween = (from: Point, to: Point): Spine => evenlyWide(lineSpine(from, to), 0);

/**
 * Throws a PageError for a panel that is folded over, turned inside out or nowhere so wide: `least` page px.
 */
export function checkPanelRing(ring: Spine, least: number): void {
  const flat = flatRing(ring);
  const { minX, minY, maxX, maxY } = boxOfFlat(flat, 2);
  const longest = Math.max(maxX - minX, maxY - minY);
  if (ringArea(flat) < 0 || crossesItself(flat)) throw new PageError('The borders of a panel cannot cross each other.');
  // How wide it is across its length, for a panel that lies aslant as well.
  if (Math.min(maxX - minX, maxY - minY) < least || areaOfRings([flat]) < least * longest * 0.5)
    throw new PageError('A panel needs to be 2 mm wide and high at least.');
}

function crossesItself(ring: Float64Array): boolean {
  const count = ring.length / 2;
  const corner = (k: number) => ({ x: ring[2 * (k % count)], y: ring[2 * (k % count) + 1] });
  for (let a = 0; a < count; a++)
    for (let b = a + 2; b < count; b++) {
      if (a === 0 && b === count - 1) continue;
      if (segmentDistanceSquared(corner(a), corner(a + 1), corner(b), corner(b + 1)) === 0) return true;
    }
  return false;
}
