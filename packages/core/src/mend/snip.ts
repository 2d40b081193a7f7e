import {
  alongAt,
  courseOf,
  endOf,
  lengthOf,
  makeSpine,
  movedPlace,
  partOf,
  placeAlong,
  startedAt,
  STRIDE,
  widestOf,
  type Spine,
} from '../curve';
import { outlineOf } from '../ink';
import { ringArea, withoutRings } from '../math';
import type { Stroke } from '../stroke';
import { cutAtStop, pieceOf, type Cut } from './cut';
import { editedCourse } from './edited';
import { stopsOf, type Stop } from './meetings';

/**
 * A line in pieces between its stops. An open line with n stops has n + 1 pieces, from its start to its end; a ring has n,
 * the last of which goes on through its first node.
 */
export interface Pieces<S extends Stroke = Stroke> {
  readonly stroke: S;
  readonly stops: readonly Stop<S>[];
  /** By how much its layer shows the line wider than it is. */
  readonly thickness?: number;
}

/** A line in pieces among others; `gap` is how far ink may miss ink and still stop it, page px. */
export const piecesOf = <S extends Stroke>(stroke: S, others: Iterable<S>, gap = 0): Pieces<S> => ({
  stroke,
  stops: stopsOf(stroke, others, gap),
});

/** The number of the piece on which a place lies. */
export function pieceAt({ stroke, stops }: Pieces, place: number): number {
  const k = stops.filter(({ at }) => at <= place).length;
  return stroke.spine.closed && k === 0 ? stops.length : k;
}

/** The course of a piece, from stop to stop, as it is shown before it goes. */
export function courseOfPiece({ stroke, stops }: Pieces, piece: number): Spine {
  const { spine } = stroke;
  if (!spine.closed) {
    const [from, to] = [stops[piece - 1]?.at ?? 0, stops[piece]?.at ?? endOf(spine)];
    return pieceOf(stroke, { at: from, end: 'flat' }, { at: to, end: 'flat' }).spine;
  }
  const from = stops[(piece - 1 + stops.length) % stops.length].at;
  const to = stops[piece % stops.length].at;
  const open = { ...stroke, spine: { ...startedAt(spine, from), closed: false } };
  const end = to === from ? endOf(open.spine) : movedPlace(to, from, endOf(spine));
  return pieceOf(open, { at: 0, end: 'flat' }, { at: end, end: 'flat' }).spine;
}

/**
 * What is left of a line when pieces of it are taken: the runs between them, cut flush inside the lines they end at. What
 * would be left of it wholly under another line is not left. With no piece taken the line itself.
 */
export function withoutPieces<S extends Stroke>(pieces: Pieces<S>, gone: ReadonlySet<number>): S[] {
  if (gone.size === 0) return [pieces.stroke];
  if (pieces.stroke.fills) return closedWithout(pieces, gone);
  const { thickness = 1 } = pieces;
  const { stroke, stops, taken } = pieces.stroke.spine.closed ? opened(pieces, gone) : { ...pieces, taken: gone };
  const left: S[] = [];
  for (let from = 0; from <= stops.length; from++) {
    if (taken.has(from)) continue;
    let to = from;
    while (to < stops.length && !taken.has(to + 1)) to++;
    const run = runOf(stroke, stops[from - 1], stops[to], thickness);
    if (run) left.push(run);
    from = to;
  }
  return left;
}

/** The outline of something filled: where pieces of it went, it goes straight on from what is left to what is left. */
function closedWithout<S extends Stroke>(pieces: Pieces<S>, gone: ReadonlySet<number>): S[] {
  const { stroke, stops } = pieces;
  const isGone = (piece: number) => gone.has(piece) || (piece === stops.length && gone.has(0));
  const points: number[] = [];
  for (let piece = 1; piece <= stops.length; piece++) {
    if (isGone(piece)) continue;
    const [...own] = courseOfPiece(pieces, piece).points;
    if (points.length === 0) points.push(...own.slice(0, STRIDE));
    else straightTo(points, own);
    points.push(...own.slice(STRIDE));
  }
  if (points.length === 0) return [];
  straightTo(points, points);
  return [editedCourse(stroke, makeSpine(Float64Array.from(points), true))];
}

/** Goes straight to the first of some points, where it is not there already, and ends on its very numbers. */
function straightTo(points: number[], [u, v, width]: readonly number[]): void {
  const [x, y, from] = points.slice(-STRIDE);
  if (Math.hypot(u - x, v - y) < 1e-9) points.splice(-STRIDE, STRIDE);
  else for (const t of [1 / 3, 2 / 3]) points.push(x + (u - x) * t, y + (v - y) * t, from + (width - from) * t);
  points.push(u, v, width);
}

/** A ring cut open in the middle of one of the pieces that go: both halves go. */
function opened<S extends Stroke>({ stroke, stops }: Pieces<S>, gone: ReadonlySet<number>) {
  const { spine } = stroke;
  const count = endOf(spine);
  const taken = [...gone][0] % stops.length;
  const from = stops[(taken - 1 + stops.length) % stops.length].at;
  const to = stops[taken].at;
  const stretch = to > from ? to - from : to - from + count;
  const start = (from + stretch / 2) % count;
  const moved = (place: number) => movedPlace(place, start, count);
  const cut = { ...stroke, spine: { ...startedAt(spine, start), closed: false } };
  const order = stops.map((stop, k) => ({
    stop: { ...stop, at: moved(stop.at), ...(stop.other === stroke && { other: cut, otherAt: moved(stop.otherAt) }) },
    k,
  }));
  order.sort((a, b) => a.stop.at - b.stop.at);
  const numbers = new Set([...gone].map((k) => k % stops.length));
  return {
    stroke: cut,
    stops: order.map(({ stop }) => stop),
    taken: new Set([0, stops.length, ...order.flatMap(({ k }, n) => (numbers.has(k) ? [n] : []))]),
  };
}

function runOf<S extends Stroke>(
  stroke: S,
  first: Stop<S> | undefined,
  last: Stop<S> | undefined,
  thickness: number,
): S | undefined {
  const { spine, ends } = stroke;
  const from: Cut = first ? cutAtStop(stroke, first, false, thickness) : { at: 0, end: ends[0] };
  const to: Cut = last ? cutAtStop(stroke, last, true, thickness) : { at: endOf(spine), end: ends[1] };
  if (from.at >= to.at) return undefined;
  const run = pieceOf(stroke, from, to);
  // From one end to a line that covers it: nothing of it would be seen.
  const cover = first && last ? undefined : (first ?? last);
  return cover && cover.other !== stroke && liesUnder(run, cover) ? undefined : run;
}

/** Page px of a rim that nobody sees. */
const RIM = 0.05;

/**
 * Whether all ink of a line, but a rim, lies in that of the line that stops it. Only short lines are looked at, and of the
 * other one only what is near: long ones do not.
 */
function liesUnder<S extends Stroke>(run: S, { other, otherAt }: Stop<S>): boolean {
  const length = lengthOf(courseOf(run.spine));
  const width = widestOf(run.spine);
  const reach = 3 * (width + widestOf(other.spine)) + 4;
  if (length > reach) return false;
  const standing = withoutRings(outlineOf(run).rings, outlineOf(partAround(other, otherAt, 2 * reach)).rings);
  return standing.reduce((sum, ring) => sum + ringArea(ring), 0) < 2 * RIM * (length + width);
}

/** The part of a line within some page px of a place, along it; the whole where it is a ring or a blot. */
function partAround<S extends Stroke>(stroke: S, place: number, reach: number): S {
  const { spine, ends, fills } = stroke;
  if (spine.closed || fills) return stroke;
  const course = courseOf(spine);
  const along = alongAt(course, place);
  const [from, to] = [placeAlong(course, along - reach), placeAlong(course, along + reach)];
  if (from <= 0 && to >= endOf(spine)) return stroke;
  const kept = [from <= 0 ? ends[0] : 'round', to >= endOf(spine) ? ends[1] : 'round'] as const;
  return { ...stroke, spine: partOf(spine, from, to), ends: kept };
}
