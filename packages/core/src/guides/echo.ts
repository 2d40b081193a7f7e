import type { EchoShape } from './guide';
import { type GuidePath, spineLength, fitSpine, flattenSpine, STRIDE, type Spine } from '../curve';
import { boxOfPoints, distance, nearestShare, pointToLeg, type Box, type Point } from '../math';

/** Page px that the echoed curve may stray from the true parallel, in fitting and in sampling. */
const FIT = 0.03;
const SAMPLING = 0.01;
/** Page px between two samples of the curve at most. */
const STEP = 6;
/** Radians between two samples of the arc that goes round an outer corner. */
const ARC_STEP = 0.05;
/** Samples beyond the end of what is true within which the parallel crosses itself, where it does so at a cusp. */
const NEAR = 8;
/** Points that share a box while distances are judged. */
const CHUNK = 16;

interface Sampled {
  readonly points: readonly Point[];
  /** Unit normals to the left of the way (y down); two at a corner. */
  readonly closed: boolean;
}

/**
 * The parallel of a curve through a point: every place of it lies as far from the curve as that point does, on the same side.
 * Where the true parallel would run nearer to another part of the curve (beyond cusps, in crossings) that part is left out
 * and what is left meets in a corner. An open curve goes straight on at both ends. Nothing where the point lies on the curve
 * itself, or where nothing of the parallel is left.
 */
export function echoThrough(course: Spine, through: Point): Spine | undefined {
  const base = sampled(course);
  if (base.points.length < 2) return undefined;
  const goingOn = extended(base);
  const { offset } = signedDistance(goingOn, through);
  if (Math.abs(offset) < 1e-6) return course;
  const raw = rawParallel(goingOn, offset);
  const runs = validRuns(raw, nearTest(base.points, base.closed, Math.abs(offset)), base.closed);
  const lines = joinedRuns(raw, runs, base.closed);
  const nearest = lines
    .map((line) => ({ line, away: Math.min(...line.pieces.map((points) => lineDistance(points, through))) }))
    .sort((a, b) => a.away - b.away)[0];
  return nearest && fitted(nearest.line);
}

function sampled(course: Spine): Sampled {
  const flat = flattenSpine(course, SAMPLING);
  const points: Point[] = [];
  for (let i = 0; i < flat.length; i += STRIDE) {
    const p = { x: flat[i], y: flat[i + 1] };
    const last = points.at(-1);
    if (!last) points.push(p);
    else {
      const length = distance(last, p);
      if (length < 1e-6) continue;
      const pieces = Math.ceil(length / STEP);
      for (let k = 1; k <= pieces; k++)
        points.push({ x: last.x + ((p.x - last.x) * k) / pieces, y: last.y + ((p.y - last.y) * k) / pieces });
    }
  }
  const closed = course.closed || (points.length > 3 && distance(points[0], points[points.length - 1]) < 1e-6);
  if (closed) points.pop();
  return { points, closed };
}

/** An open curve with a straight stretch at both ends, as long as itself, and 500 px at least. */
function extended({ points, closed }: Sampled): Sampled {
  if (closed) return { points, closed };
  const beyond = (from: Point, to: Point): Point => {
    const length = Math.max(500, (points.length * STEP) / 2);
    const own = distance(from, to);
    return { x: to.x + ((to.x - from.x) * length) / own, y: to.y + ((to.y - from.y) * length) / own };
  };
  const { length } = points;
  return { points: [beyond(points[1], points[0]), ...points, beyond(points[length - 2], points[length - 1])], closed };
}

/** How far a point lies from a line, above 0 to the right of its way (y down). */
function signedDistance({ points, closed }: Sampled, p: Point): { readonly offset: number } {
  let best = { away: Infinity, side: 1, lean: 0 };
  const count = closed ? points.length : points.length - 1;
  for (let k = 0; k < count; k++) {
    const [a, b] = [points[k], points[(k + 1) % points.length]];
    const [dx, dy] = [b.x - a.x, b.y - a.y];
    const t = nearestShare(p.x, p.y, a.x, a.y, b.x, b.y);
    const [ex, ey] = [p.x - a.x - t * dx, p.y - a.y - t * dy];
    const away = Math.hypot(ex, ey);
    // At a corner that both its legs are equally near, the one that the point stands more squarely beside tells the side.
    const cross = dx * ey - dy * ex;
    const lean = away > 0 ? Math.abs(cross) / (Math.hypot(dx, dy) * away) : 0;
    if (away < best.away - 1e-9 || (away < best.away + 1e-9 && lean > best.lean))
      best = { away, side: cross < 0 ? -1 : 1, lean };
  }
  return { offset: best.away * best.side };
}

/** Every point of the line moved out along its normal; round the outside of corners an arc. */
function rawParallel({ points, closed }: Sampled, offset: number): Point[] {
  const raw: Point[] = [];
  const { length } = points;
  const heading = (k: number): number => {
    const [a, b] = [points[(k + length) % length], points[(k + 1 + length) % length]];
    return Math.atan2(b.y - a.y, b.x - a.x);
  };
  const push = (p: Point, angle: number) =>
    raw.push({ x: p.x - offset * Math.sin(angle), y: p.y + offset * Math.cos(angle) });
  for (let k = 0; k < length; k++) {
    const isEnd = !closed && (k === 0 || k === length - 1);
    if (isEnd) {
      push(points[k], heading(k === 0 ? 0 : k - 1));
      continue;
    }
    const before = heading(k - 1);
    const turn = turnBetween(before, heading(k));
    // A smooth bend has one normal; at a corner the outside goes round it and the inside crosses itself.
    if (Math.abs(turn) < 0.2) push(points[k], before + turn / 2);
    else {
      const isOutside = turn * offset < 0;
      const steps = isOutside ? Math.ceil(Math.abs(turn) / ARC_STEP) : 1;
      for (let n = 0; n <= steps; n++) push(points[k], before + (turn * n) / steps);
    }
  }
  return raw;
}

/** The turn from one heading to another, −π..π. */
function turnBetween(from: number, to: number): number {
  const turn = to - from;
  return turn - 2 * Math.PI * Math.round(turn / (2 * Math.PI));
}

/** Whether a point keeps its distance from the whole line. */
function nearTest(points: readonly Point[], closed: boolean, offset: number): (p: Point) => boolean {
  const chunks: { readonly from: number; readonly to: number; readonly box: Box }[] = [];
  const count = closed ? points.length : points.length - 1;
  for (let from = 0; from < count; from += CHUNK) {
    const to = Math.min(count, from + CHUNK);
    const own = points.slice(from, to + 1);
    if (to === points.length) own.push(points[0]);
    chunks.push({ from, to, box: boxOfPoints(own) });
  }
  const least = offset - 0.5 * SAMPLING - 1e-4 * offset;
  return ({ x, y }) => {
    for (const { from, to, box } of chunks) {
      const [bx, by] = [Math.max(box.minX - x, x - box.maxX, 0), Math.max(box.minY - y, y - box.maxY, 0)];
      if (bx * bx + by * by >= least * least) continue;
      for (let k = from; k < to; k++) {
        const [a, b] = [points[k], points[(k + 1) % points.length]];
        if (pointToLeg(x, y, a.x, a.y, b.x, b.y) < least * least) return false;
      }
    }
    return true;
  };
}

interface Run {
  readonly from: number;
  readonly to: number;
}

/** The stretches of the raw parallel that are true, as index ranges; of a closed one the last may run on over the end. */
function validRuns(raw: readonly Point[], isTrue: (p: Point) => boolean, closed: boolean): Run[] {
  const runs: Run[] = [];
  let from = -1;
  raw.forEach((p, k) => {
    if (isTrue(p)) {
      if (from < 0) from = k;
    } else if (from >= 0) {
      runs.push({ from, to: k - 1 });
      from = -1;
    }
  });
  if (from >= 0) runs.push({ from, to: raw.length - 1 });
  const [first, last] = [runs[0], runs[runs.length - 1]];
  if (closed && runs.length > 1 && first.from === 0 && last.to === raw.length - 1)
    return [...runs.slice(1, -1), { from: last.from, to: raw.length + first.to }];
  return runs;
}

/** Stretches that meet end to end in corners. */
interface Line {
  readonly pieces: readonly (readonly Point[])[];
  readonly closed: boolean;
}

/** Joins stretches where the parallel crosses itself between them; others stay lines of their own. */
function joinedRuns(raw: readonly Point[], runs: readonly Run[], closed: boolean): Line[] {
  const at = (k: number) => raw[k % raw.length];
  const pointsOf = ({ from, to }: Run) => Array.from({ length: to - from + 1 }, (_, k) => at(from + k));
  if (closed && runs.length === 1 && runs[0].to - runs[0].from === raw.length - 1)
    return [{ pieces: [[...pointsOf(runs[0]), at(runs[0].from)]], closed: true }];
  const lines: { pieces: Point[][]; closed: boolean }[] = [];
  runs.forEach((run, k) => {
    const crossing = k > 0 ? crossingBetween(at, runs[k - 1].to, run.from) : undefined;
    const line = lines.at(-1);
    if (!line || !crossing) return void lines.push({ pieces: [pointsOf(run)], closed: false });
    line.pieces[line.pieces.length - 1].push(crossing);
    line.pieces.push([crossing, ...pointsOf(run)]);
  });
  const crossing =
    closed && lines.length > 0 ? crossingBetween(at, runs[runs.length - 1].to, runs[0].from + raw.length) : undefined;
  if (crossing) {
    const [first, last] = [lines[0], lines[lines.length - 1]];
    first.pieces[0].unshift(crossing);
    last.pieces[last.pieces.length - 1].push(crossing);
    if (first === last) lines[0] = { ...first, closed: true };
    else {
      lines.shift();
      last.pieces.push(...first.pieces);
    }
  }
  return lines.filter(({ pieces }) => pieces.some((points) => points.length > 1));
}

/** Where the parallel, run on from `end` and back from `start` through what is not true, crosses itself. */
function crossingBetween(at: (k: number) => Point, end: number, start: number): Point | undefined {
  for (let reach = 1; reach <= Math.min(NEAR, start - end); reach++)
    for (let i = 0; i < reach; i++) {
      const j = reach - 1 - i;
      const crossing = segmentCrossing(at(end + i), at(end + i + 1), at(start - j - 1), at(start - j));
      if (crossing) return crossing;
    }
  return undefined;
}

function segmentCrossing(a: Point, b: Point, c: Point, d: Point): Point | undefined {
  const [ux, uy, vx, vy] = [b.x - a.x, b.y - a.y, d.x - c.x, d.y - c.y];
  const cross = ux * vy - uy * vx;
  if (Math.abs(cross) < 1e-12) return undefined;
  const s = ((c.x - a.x) * vy - (c.y - a.y) * vx) / cross;
  const t = ((c.x - a.x) * uy - (c.y - a.y) * ux) / cross;
  return s >= 0 && s <= 1 && t >= 0 && t <= 1 ? { x: a.x + s * ux, y: a.y + s * uy } : undefined;
}

function lineDistance(points: readonly Point[], p: Point): number {
  let best = Infinity;
  for (let k = 1; k < points.length; k++) {
    const [a, b] = [points[k - 1], points[k]];
    best = Math.min(best, pointToLeg(p.x, p.y, a.x, a.y, b.x, b.y));
  }
  return Math.sqrt(best);
}

/** Every stretch fitted on its own, so that the corners between them stay sharp. */
function fitted({ pieces, closed }: Line): Spine {
  const triples: number[] = [];
  for (const points of pieces) {
    if (points.length < 2) continue;
    const { points: own } = fitSpine(
      points.map(({ x, y }) => ({ x, y, width: 1 })),
      FIT,
    );
    triples.push(...(triples.length === 0 ? own : own.subarray(STRIDE)));
  }
  if (closed) triples.splice(-STRIDE, STRIDE, triples[0], triples[1], 1);
  return { points: Float64Array.from(triples), closed };
}

/** The last path of an echo: a hand asks again and again from where it started. */
const echoes = new WeakMap<EchoShape, { readonly at: Point; readonly path: GuidePath | undefined }>();

/** The path of an echo through a place; nothing for a curve of no length. */
export function echoThroughOnce(shape: EchoShape, { x, y }: Point): GuidePath | undefined {
  const known = echoes.get(shape);
  if (known && known.at.x === x && known.at.y === y) return known.path;
  const course = spineLength(shape.course) > 0 ? echoThrough(shape.course, { x, y }) : undefined;
  const path: GuidePath | undefined = course && { kind: 'curve', course };
  echoes.set(shape, { at: { x, y }, path });
  return path;
}
