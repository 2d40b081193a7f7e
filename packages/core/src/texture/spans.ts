import { flattenSpine, STRIDE, type EllipsePath, type GuidePath, type LinePath, type Spine } from '../curve';
import { fromMiddle, trackOf } from '../guides';
import { isInLoop, type Point } from '../math';

/** What is filled: a loop, or an outline with holes in it, all of them closed, page px. */
export type Bounds = readonly Point[] | readonly (readonly Point[])[];

/** The rings of bounds. */
export const ringsOf = (bounds: Bounds): readonly (readonly Point[])[] => (isOneLoop(bounds) ? [bounds] : bounds);

const isOneLoop = (bounds: Bounds): bounds is readonly Point[] => bounds.length === 0 || !Array.isArray(bounds[0]);

/** Whether a place lies within rings, by how often a way out crosses them (even-odd). */
export const isWithin = (rings: readonly (readonly Point[])[], at: Point): boolean =>
  rings.reduce((inside, ring) => (isInLoop(ring, at) ? !inside : inside), false);

/** The parts of a path inside rings and outside a loop, as pairs of measures. */
export function spansInside(
  path: GuidePath,
  rings: readonly (readonly Point[])[],
  middle?: readonly Point[],
): (readonly [number, number])[] {
  if (path.kind === 'line' && !middle) return spansOfLine(path, rings);
  const track = trackOf(path);
  const marks: number[] = [];
  for (const ring of rings) addCrossings(path, ring, marks);
  if (middle) addCrossings(path, middle, marks);
  if (path.kind === 'line') marks.push(...[path.from, path.to].filter((end) => end !== undefined));
  else if (track.period > 0 && marks.length === 0) marks.push(0);
  else if (track.period === 0) marks.push(track.from, track.to);
  marks.sort((a, b) => a - b);
  if (track.period > 0 && marks.length > 0) marks.push(marks[0] + track.period);
  const isFree = (at: number) => {
    const p = track.place(at);
    return isWithin(rings, p) && !(middle && isInLoop(middle, p));
  };
  return marks
    .slice(1)
    .flatMap((to, k) => (to - marks[k] > 1e-6 && isFree((to + marks[k]) / 2) ? [[marks[k], to] as const] : []));
}

/** The same for a straight path, which is inside from every first crossing to the next. */
function spansOfLine(path: LinePath, rings: readonly (readonly Point[])[]): (readonly [number, number])[] {
  const { x, y, dx, dy, from = -Infinity, to = Infinity } = path;
  const marks: number[] = [];
  for (const ring of rings) {
    const last = ring[ring.length - 1];
    let before = (last.x - x) * dy - (last.y - y) * dx;
    for (let k = 0; k < ring.length; k++) {
      const now = (ring[k].x - x) * dy - (ring[k].y - y) * dx;
      if (before < 0 !== now < 0) {
        const [a, b] = [ring[k === 0 ? ring.length - 1 : k - 1], ring[k]];
        const t = before / (before - now);
        marks.push((a.x + (b.x - a.x) * t - x) * dx + (a.y + (b.y - a.y) * t - y) * dy);
      }
      before = now;
    }
  }
  marks.sort((a, b) => a - b);
  const spans: (readonly [number, number])[] = [];
  for (let k = 0; k + 1 < marks.length; k += 2) {
    const [a, b] = [Math.max(from, marks[k]), Math.min(to, marks[k + 1])];
    if (b - a > 1e-6) spans.push([a, b]);
  }
  return spans;
}

/** Adds to `marks` the measures at which a path crosses a loop. */
function addCrossings(path: GuidePath, loop: readonly Point[], marks: number[]): void {
  if (path.kind === 'curve') return addCurveCrossings(path.course, loop, marks);
  for (let k = 0, last = loop[loop.length - 1]; k < loop.length; last = loop[k++]) {
    if (path.kind === 'line') addLineCrossing(path, last, loop[k], marks);
    else addEllipseCrossings(path, last, loop[k], marks);
  }
}

function addLineCrossing(
  { x, y, dx, dy, from = -Infinity, to = Infinity }: LinePath,
  a: Point,
  b: Point,
  marks: number[],
): void {
  const u = (a.x - x) * dy - (a.y - y) * dx;
  const v = (b.x - x) * dy - (b.y - y) * dx;
  if (u < 0 === v < 0) return;
  const t = u / (u - v);
  const at = (a.x + (b.x - a.x) * t - x) * dx + (a.y + (b.y - a.y) * t - y) * dy;
  if (at > from && at < to) marks.push(at);
}

/** Where a leg crosses an ellipse: the ellipse is a circle of radius 1 when its half axes are the units. */
function addEllipseCrossings(ellipse: EllipsePath, a: Point, b: Point, marks: number[]): void {
  const { rx, ry } = ellipse;
  const [p, q] = [fromMiddle(ellipse, a), fromMiddle(ellipse, b)];
  const [px, py, vx, vy] = [p.x / rx, p.y / ry, (q.x - p.x) / rx, (q.y - p.y) / ry];
  const [aa, bb, cc] = [vx * vx + vy * vy, px * vx + py * vy, px * px + py * py - 1];
  const root = bb * bb - aa * cc;
  if (root <= 0 || aa === 0) return;
  for (const sign of [-1, 1]) {
    const t = (-bb + sign * Math.sqrt(root)) / aa;
    if (t >= 0 && t < 1) marks.push(Math.atan2(py + t * vy, px + t * vx) * Math.max(rx, ry));
  }
}

function addCurveCrossings(course: Spine, loop: readonly Point[], marks: number[]): void {
  const flat = flattenSpine(course, 0.1);
  const track = trackOf({ kind: 'curve', course });
  for (let i = STRIDE; i < flat.length; i += STRIDE) {
    const [x, y] = [flat[i - 3], flat[i - 2]];
    const length = Math.hypot(flat[i] - x, flat[i + 1] - y);
    if (length === 0) continue;
    const leg: LinePath = {
      kind: 'line',
      x,
      y,
      dx: (flat[i] - x) / length,
      dy: (flat[i + 1] - y) / length,
      from: 0,
      to: length,
    };
    const own: number[] = [];
    addCrossings(leg, loop, own);
    for (const at of own) marks.push(track.nearest({ x: x + at * leg.dx, y: y + at * leg.dy }));
  }
}
