import Flatbush from 'flatbush';
import {
  courseOf,
  directionAt,
  endOf,
  evenlyWide,
  joinedSpines,
  lengthOf,
  makeSpine,
  partOf,
  placeAlong,
  placeOf,
  pointAt,
  reversedSpine,
  wideningAt,
  type Spine,
} from '../curve';
import { clamp, distance, type Point } from '../math';
import type { Edit } from '../page';
import type { EntityId } from '../kind';
import type { Stroke, StrokeEntity } from '../stroke';
import { lineSpine } from '../shapes';
import { LineIndex } from './crossings';
import { seenEnd } from './cut';
import { stopsOf } from './meetings';

/** An end of a line: 0 its start, 1 its end. */
export interface LineEnd<S extends Stroke = Stroke> {
  readonly stroke: S;
  readonly end: 0 | 1;
}

export interface BridgeOptions {
  /** Page px between ends that belong together. */
  readonly gap: number;
  /** Radians that a line may turn by at the bridge. */
  readonly angle: number;
  /** Bridges that run across other ink are made too. */
  readonly mayCross?: boolean;
}

/** Two ends that can be bridged, nearest first. */
export interface Bridge<S extends Stroke = Stroke> {
  readonly a: LineEnd<S>;
  readonly b: LineEnd<S>;
  readonly gap: number;
  readonly angle: number;
}

/** The share of a line that a bridge may take back on its side. */
const TAKEN_BACK = 0.3;
/** The width, page px, of what only looks whether there is ink between two ends. */
const HAIR = 0.01;

/** An end of a line on the page, the way the line would go on from it, and its width. */
interface Tip extends Point {
  readonly dx: number;
  readonly dy: number;
  readonly width: number;
}

/** Where an end is seen to lie, and the way the line would go on from it. */
export function endPoint({ stroke, end }: LineEnd): Tip {
  const { spine } = stroke;
  const place = placeOf(spine, seenEnd(stroke, end));
  const { x, y, width } = pointAt(spine, place);
  const ahead = directionAt(spine, place);
  const sign = end === 0 ? -1 : 1;
  return { x, y, width, dx: sign * ahead.x, dy: sign * ahead.y };
}

/** By how much a line turns that leaves one end and comes in at the other, radians. */
export const turnBetween = (a: LineEnd, b: LineEnd): number => turnOf(endPoint(a), endPoint(b));

const turnOf = (p: Tip, q: Tip): number => Math.acos(clamp(-(p.dx * q.dx + p.dy * q.dy), -1, 1));

/**
 * Two ends made one: both lines keep their course up to near the bridge, and go through it smoothly, in course and weight.
 * Ends that ran past each other are taken back. Two ends of one line make a ring. The line has `a`'s nib and is a line of
 * its own: it has no samples, no guide and no set.
 */
export function bridge<S extends Stroke>(a: LineEnd<S>, b: LineEnd<S>): S {
  const { origin: _gone, guide: _left, copy: _alone, ...rest } = a.stroke;
  if (a.stroke === b.stroke) {
    const spine = seenSpine(a.stroke, [0, 1]);
    const [p, q] = [endPoint({ stroke: a.stroke, end: 1 }), endPoint({ stroke: a.stroke, end: 0 })];
    const [back, front] = takenBack(p, q, spine, spine);
    const length = lengthOf(courseOf(spine));
    const body = partOf(spine, placeAlong(courseOf(spine), front), placeAlong(courseOf(spine), length - back));
    const ring = joinedSpines([body, joint(body, body)]);
    ring.points.set(ring.points.subarray(0, 3), ring.points.length - 3);
    // Everything but these, which may be missing on any stroke, is still there.
    return { ...(rest as S), spine: { ...ring, closed: true }, ends: ['round', 'round'] };
  }
  const [own, theirs] = [seenSpine(a.stroke, [a.end]), seenSpine(b.stroke, [b.end])];
  const first = a.end === 1 ? own : reversedSpine(own);
  const second = b.end === 0 ? theirs : reversedSpine(theirs);
  const [back, front] = takenBack(endPoint(a), endPoint(b), first, second);
  const [one, other] = [courseOf(first), courseOf(second)];
  const head = partOf(first, 0, placeAlong(one, lengthOf(one) - back));
  const tail = partOf(second, placeAlong(other, front), endOf(second));
  const ends = [a.stroke.ends[a.end === 1 ? 0 : 1], b.stroke.ends[b.end === 0 ? 1 : 0]] as const;
  const spine = joinedSpines([head, joint(head, tail), tail]);
  return {
    ...(rest as S),
    spine: a.end === 1 ? spine : reversedSpine(spine),
    ends: a.end === 1 ? ends : [ends[1], ends[0]],
  };
}

/** A line's course without what is cut away at some of its ends. */
function seenSpine(stroke: Stroke, ends: readonly (0 | 1)[]): Spine {
  const { spine } = stroke;
  const [from, to] = [ends.includes(0) ? seenEnd(stroke, 0) : 0, ends.includes(1) ? seenEnd(stroke, 1) : endOf(spine)];
  return from > 0 || to < endOf(spine) ? partOf(spine, from, to) : spine;
}

/** How much of each line is taken back for the bridge, page px: so much that it can be smooth. */
function takenBack(p: Tip, q: Tip, first: Spine, second: Spine): readonly [number, number] {
  const gap = distance(p, q);
  const past = Math.max(0, -((q.x - p.x) * p.dx + (q.y - p.y) * p.dy));
  const aside = Math.abs((q.x - p.x) * p.dy - (q.y - p.y) * p.dx);
  const wanted = past + 1.5 * aside + (gap + Math.max(p.width, q.width)) * Math.min(1, turnOf(p, q));
  return [first, second].map((spine) => Math.min(wanted, TAKEN_BACK * lengthOf(courseOf(spine)))) as [number, number];
}

/**
 * One cubic from the end of a line to the start of another one, leaving and arriving as they do, in weight too as far as it
 * gets neither wider nor thinner on the way than they are.
 */
function joint(head: Spine, tail: Spine): Spine {
  const [from, to] = [placeOf(head, endOf(head)), placeOf(tail, 0)];
  const [p, q] = [pointAt(head, from), pointAt(tail, to)];
  const [d, e] = [directionAt(head, from), directionAt(tail, to)];
  const reach = distance(p, q) / 3;
  const [least, most] = [Math.min(p.width, q.width), Math.max(p.width, q.width)];
  const leaving = p.width + reach * wideningAt(head, endOf(head), 'in');
  const arriving = q.width - reach * wideningAt(tail, 0, 'out');
  return makeSpine(
    Float64Array.of(
      ...[p.x, p.y, p.width],
      ...[p.x + d.x * reach, p.y + d.y * reach, clamp(leaving, least, most)],
      ...[q.x - e.x * reach, q.y - e.y * reach, clamp(arriving, least, most)],
      ...[q.x, q.y, q.width],
    ),
  );
}

/**
 * Ends of lines that belong together: within the gap and the turn, each end in one bridge at most, the best first. A line's
 * own ends make a ring where the line is much longer than the gap. None runs across other ink unless that is asked for.
 */
export function bridgesAmong<S extends Stroke>(
  strokes: readonly S[],
  { gap, angle, mayCross = false }: BridgeOptions,
  all: readonly S[] = strokes,
): Bridge<S>[] {
  const ends = strokes
    .filter(({ spine }) => !spine.closed)
    .flatMap((stroke) => [
      { stroke, end: 0 as const },
      { stroke, end: 1 as const },
    ]);
  if (ends.length === 0) return [];
  const points = ends.map(endPoint);
  const tree = new Flatbush(ends.length);
  for (const { x, y } of points) tree.add(x, y, x, y);
  tree.finish();
  const index = new LineIndex(all);
  const found: Bridge<S>[] = [];
  ends.forEach((a, k) => {
    const { x, y } = points[k];
    for (const n of tree.search(x - gap, y - gap, x + gap, y + gap)) {
      const b = ends[n];
      const away = distance(points[k], points[n]);
      if (n <= k || away > gap) continue;
      if (a.stroke === b.stroke && lengthOf(courseOf(a.stroke.spine)) < 3 * Math.max(gap, away)) continue;
      const turn = turnOf(points[k], points[n]);
      if (turn > angle || !isAhead(points[k], points[n], away)) continue;
      if (!mayCross && runsAcross(a, b, index)) continue;
      found.push({ a, b, gap: away, angle: turn });
    }
  });
  found.sort((p, q) => p.gap + 8 * p.angle - (q.gap + 8 * q.angle));
  const taken = new Set<LineEnd<S>>();
  return found.filter(({ a, b }) => {
    if (taken.has(a) || taken.has(b)) return false;
    taken.add(a);
    taken.add(b);
    return true;
  });
}

/** Whether one end lies ahead of the other, or so near that it does not matter. */
function isAhead(p: Tip, q: Point, away: number): boolean {
  return away <= p.width || (q.x - p.x) * p.dx + (q.y - p.y) * p.dy > -0.3 * away;
}

function runsAcross<S extends Stroke>(a: LineEnd<S>, b: LineEnd<S>, index: LineIndex<S>): boolean {
  const [p, q] = [endPoint(a), endPoint(b)];
  const probe = { ...a.stroke, spine: evenlyWide(lineSpine(p, q), HAIR) };
  const others = index.near(probe, 0).filter((other) => other !== a.stroke && other !== b.stroke);
  return stopsOf(probe, others).some(({ crosses }) => crosses);
}

/** Makes bridges in turn, also between lines that were bridged before: the edits that do it. */
export function bridgeEdits(bridges: readonly Bridge<StrokeEntity>[]): Edit[] {
  const before = new Map<EntityId, StrokeEntity>();
  const now = new Map<EntityId, StrokeEntity | null>();
  // Where each end is by now, and which end that was at first: a line that was bridged has ends of others.
  const places = new Map<string, LineEnd<StrokeEntity>>();
  const names = new Map<string, string>();
  const key = ({ stroke, end }: LineEnd<StrokeEntity>) => `${stroke.id}:${end}`;
  const otherEnd = ({ stroke, end }: LineEnd<StrokeEntity>): LineEnd<StrokeEntity> => ({ stroke, end: end ? 0 : 1 });
  const nameOf = (end: LineEnd<StrokeEntity>) => names.get(key(end)) ?? key(end);
  for (const { a, b } of bridges) {
    before.set(a.stroke.id, a.stroke).set(b.stroke.id, b.stroke);
    const [p, q] = [places.get(key(a)) ?? a, places.get(key(b)) ?? b];
    const joined = bridge(p, p.stroke.id === q.stroke.id ? { ...q, stroke: p.stroke } : q);
    if (p.stroke.id !== q.stroke.id) now.set(q.stroke.id, null);
    now.set(joined.id, joined);
    // The line that is left has the far end of one at its own far end, and that of the other where they met.
    const [far, met] = [nameOf(otherEnd(p)), nameOf(otherEnd(q))];
    for (const [name, end] of [[far, otherEnd(p).end] as const, [met, p.end] as const]) {
      const place = { stroke: joined, end };
      places.set(name, place);
      names.set(key(place), name);
    }
  }
  return [...now].flatMap(([id, after]) => {
    const own = before.get(id);
    return own ? [{ before: own, after }] : [];
  });
}

/** The nearest end of other lines, or the other end of the same one, within `reach` page px of an end. */
export function nearestEnd<S extends StrokeEntity>(
  own: LineEnd<S>,
  among: Iterable<S>,
  reach: number,
): LineEnd<S> | undefined {
  const from = endPoint(own);
  let best: LineEnd<S> | undefined;
  let least = reach;
  for (const stroke of among) {
    if (stroke.spine.closed) continue;
    for (const end of [0, 1] as const) {
      if (stroke.id === own.stroke.id && end === own.end) continue;
      // The line itself stands for its copy in the list.
      const other: LineEnd<S> = { stroke: stroke.id === own.stroke.id ? own.stroke : stroke, end };
      const away = distance(from, endPoint(other));
      if (away <= least) [best, least] = [other, away];
    }
  }
  return best;
}
