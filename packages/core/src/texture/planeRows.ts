import { PageError } from '../gate';
import { onPlane } from '../guides';
import { invertProjective, type Matrix3x3, type Point } from '../math';
import { powerIn, type PlaneField, type Row, type Rowing } from './row';

/** Rows to either side of the plane's origin. */
const FARTHEST = 2_000;

/** A line of the page, a·x + b·y + c = 0 with a normal of length 1. */
type Line = readonly [a: number, b: number, c: number];

/** Rows that are parallel and evenly spaced on a plane, as they are seen. Throws a PageError for a loop beyond its horizon. */
export function* planeRows(field: PlaneField, loop: readonly Point[], rowing: Rowing): Generator<Row> {
  const { map, angle } = field;
  const { spacing, stray, touch } = rowing;
  const back = invertProjective(map);
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  let [low, high] = [Infinity, -Infinity];
  for (const p of loop) {
    const on = onPlane(map, p);
    if (!on) throw new PageError('This loop reaches over the horizon of the plane.');
    const across = (on.y * c - on.x * s) / spacing;
    low = Math.min(low, across);
    high = Math.max(high, across);
  }
  const middle = middleOf(loop);
  const lineAt = (k: number) => mappedLine(back, [-s, c, -k * spacing]);
  for (let k = Math.ceil(Math.max(-FARTHEST, low)); k <= Math.min(FARTHEST, high); k++) {
    const at = k + stray();
    const [line, next] = [lineAt(at), lineAt(at + 1)];
    if (!line || !next) continue;
    const [a, b, off] = line;
    const foot = { x: -a * off, y: -b * off };
    const beside = touch > 0 ? [lineAt(k - powerIn(k)), lineAt(k + powerIn(k))] : [];
    const ends = stretch({ foot, dx: -b, dy: a }, beside, touch, middle);
    const narrowing = (p: Point) => Math.abs(valueAt(next, p)) / spacing;
    if (ends) yield { k, path: { kind: 'line', x: foot.x, y: foot.y, dx: -b, dy: a, ...ends }, narrowing };
  }
}

/** A line of a plane as it is seen on the page; nothing where that is its horizon. */
function mappedLine(back: Matrix3x3, [a, b, c]: Line): Line | undefined {
  const column = (k: number) => a * back[k] + b * back[3 + k] + c * back[6 + k];
  const [x, y, z] = [column(0), column(1), column(2)];
  const length = Math.hypot(x, y);
  return length > 1e-12 * Math.abs(z) ? [x / length, y / length, z / length] : undefined;
}

const valueAt = ([a, b, c]: Line, { x, y }: Point): number => a * x + b * y + c;

/** Where along a row the lines beside it are at least so far off, on the side of a place; nothing where they never are. */
function stretch(
  { foot, dx, dy }: { readonly foot: Point; readonly dx: number; readonly dy: number },
  beside: readonly (Line | undefined)[],
  touch: number,
  { x, y }: Point,
): { readonly from?: number; readonly to?: number } | undefined {
  let [from, to] = [-Infinity, Infinity];
  const near = (x - foot.x) * dx + (y - foot.y) * dy;
  for (const line of beside) {
    if (!line) continue;
    // The distance from the line grows evenly along the row.
    const rise = line[0] * dx + line[1] * dy;
    const start = valueAt(line, foot);
    const sign = start + rise * near < 0 ? -1 : 1;
    if (Math.abs(rise) < 1e-12) {
      if (sign * start < touch) return undefined;
      continue;
    }
    const at = (sign * touch - start) / rise;
    if (sign * rise > 0) from = Math.max(from, at);
    else to = Math.min(to, at);
  }
  if (from >= to) return undefined;
  return { ...(from > -Infinity && { from }), ...(to < Infinity && { to }) };
}

const middleOf = (loop: readonly Point[]): Point => ({
  x: loop.reduce((sum, p) => sum + p.x, 0) / loop.length,
  y: loop.reduce((sum, p) => sum + p.y, 0) / loop.length,
});
