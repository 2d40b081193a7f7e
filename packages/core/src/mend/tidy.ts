import {
  alongAt,
  courseOf,
  directionAt,
  endOf,
  evenlyWide,
  joinedSpines,
  lengthOf,
  placeOf,
  pointAt,
  reversedSpine,
  widestOf,
  type Spine,
} from '../curve';
import { boxOfPoints, growBox, inOneGo, type Point } from '../math';
import type { Edit } from '../page';
import type { EntityId } from '../kind';
import type { StrokeEntity } from '../stroke';
import { lineSpine } from '../shapes';
import { crossingsOfTwo, LineIndex } from './crossings';
import { cutAtStop, pieceOf, type Cut } from './cut';
import { GLANCE, type Stop } from './meetings';
import { asDrawn, keptPlace, type ShownAs } from './shownLine';
import { stopping } from './stopping';

export interface TidyOptions {
  /** Ends that overshoot a crossing by less than this, page px, are snipped. */
  readonly overshoot: number;
  /** Ends that fall short of a line by less than this, page px, are grown to meet it; 0 grows none. */
  readonly gap: number;
  /** Ends that are left as they are, by their keys. */
  readonly exceptions?: ReadonlySet<string>;
  /** Lines that may be changed; the others only stop them. All where none is given. */
  readonly mayChange?: (stroke: StrokeEntity) => boolean;
  /** What lines are shown as: it is the ink that is seen which overshoots or falls short. */
  readonly shownAs?: ShownAs;
}

/** An end that is tidied: where it is, by how much it overshoots or falls short, page px. */
export interface LooseEnd extends Point {
  /** Says which end of which line: what an exception is named by. */
  readonly key: string;
  readonly strokeId: EntityId;
  readonly kind: 'overshoot' | 'short';
  readonly length: number;
  readonly isException: boolean;
}

export interface Tidied {
  readonly edits: readonly Edit[];
  readonly report: readonly LooseEnd[];
}

/** Page px of visible overshoot below which an end is fine as it is. */
const FINE = 0.05;
/** Passes after which what stops what no longer changes on any page that people draw. */
const PASSES = 6;

interface Line {
  readonly kept: StrokeEntity;
  /** The line as it is shown. */
  readonly stroke: StrokeEntity;
  /** For each end what it may overshoot, from the end inwards. */
  readonly near: readonly [NearStop[], NearStop[]];
  /** For each end whether its ink meets another line. */
  readonly touches: [boolean, boolean];
  /** For each end the stop that it overshoots, if any. */
  readonly at: [NearStop | undefined, NearStop | undefined];
}

interface NearStop {
  readonly stop: Stop<StrokeEntity>;
  /** The line that it meets there, unless that is a ring. */
  readonly other: Line | undefined;
  /** How far the middle of the line goes on beyond it, page px. */
  readonly beyond: number;
}

/**
 * Snips every end that overshoots a crossing by less than a length, and grows those that fall short by less than a gap, each
 * flush into the line it meets. An overshoot is no reason to cut another line at it: two lines that run past a corner are
 * both cut at the corner.
 */
export function tidyEnds(strokes: readonly StrokeEntity[], options: TidyOptions): Tidied {
  return inOneGo(tidying(strokes, options));
}

/** The same in parts: between them it yields the share that is done, so that whoever asked can stop it. */
export function* tidying(strokes: readonly StrokeEntity[], options: TidyOptions): Generator<number, Tidied> {
  const { mayChange = () => true, shownAs = asDrawn } = options;
  const index = new LineIndex(strokes.map(shownAs));
  const stops = yield* stopping(index);
  const lines = new Map<EntityId, Line>();
  strokes.forEach((kept, k) => {
    const stroke = index.strokes[k];
    if (!kept.spine.closed)
      lines.set(kept.id, { kept, stroke, near: [[], []], touches: [false, false], at: [undefined, undefined] });
  });
  strokes.forEach(({ id }, k) => {
    const line = lines.get(id);
    if (line) findNear(line, stops[k], lines, options.overshoot);
  });
  settle(lines);
  const edits: Edit[] = [];
  const report: LooseEnd[] = [];
  let done = 0;
  for (const line of lines.values()) {
    if (done++ % 64 === 0) yield 0.8 + (0.2 * done) / lines.size;
    if (!mayChange(line.kept)) continue;
    const ends = ([0, 1] as const).map((end) => looseEnd(line, end, options, index));
    report.push(...ends.flatMap((one) => (one ? [one.told] : [])));
    const taken = ends.map((one) => (one && !one.told.isException ? one : undefined));
    const after = tidied(line, taken[0], taken[1]);
    if (after) edits.push({ before: line.kept, after });
  }
  return { edits, report };
}

/** Decides which stop each end overshoots: the nearest one that is not itself on an overshoot. */
function settle(lines: ReadonlyMap<EntityId, Line>): void {
  const isFirm = ({ stop: { otherAt }, other }: NearStop): boolean => {
    if (!other) return true;
    const [first, last] = other.at;
    return (!first || otherAt >= first.stop.at - 1e-6) && (!last || otherAt <= last.stop.at + 1e-6);
  };
  for (let pass = 0; pass < PASSES; pass++) {
    let hasChanged = false;
    for (const { near, at } of lines.values())
      for (const end of [0, 1] as const) {
        const found = near[end].find(isFirm);
        hasChanged ||= found !== at[end];
        at[end] = found;
      }
    if (!hasChanged) return;
  }
}

/** The share of a line beyond which it is no overshoot that goes on past a crossing, but the line itself. */
const MOST_SHARE = 1 / 3;

/** Finds for each end the stops that it may overshoot by less than a limit. */
function findNear(
  { stroke: { spine }, near, touches }: Line,
  stops: readonly Stop<StrokeEntity>[],
  lines: ReadonlyMap<EntityId, Line>,
  limit: number,
): void {
  const course = courseOf(spine);
  const length = lengthOf(course);
  const most = Math.min(limit, MOST_SHARE * length);
  for (const stop of stops) {
    const along = alongAt(course, stop.at);
    for (const end of [0, 1] as const) {
      const beyond = end === 0 ? along : length - along;
      if (beyond <= most) near[end].push({ stop, other: lines.get(stop.other.id), beyond });
      if (beyond <= widthAtEnd(spine, end) / 2 + FINE) touches[end] = true;
    }
  }
  for (const list of near) list.sort((a, b) => a.beyond - b.beyond);
}

const widthAtEnd = ({ points }: Spine, end: 0 | 1): number => points[end === 0 ? 2 : points.length - 1];

interface Loose {
  readonly told: LooseEnd;
  readonly stop: Stop<StrokeEntity>;
  /** What is added to reach the line, where it falls short. */
  readonly added?: Spine;
}

function looseEnd(
  line: Line,
  end: 0 | 1,
  { gap, exceptions }: TidyOptions,
  index: LineIndex<StrokeEntity>,
): Loose | undefined {
  const { stroke } = line;
  const found = line.at[end];
  const tip = pointAt(stroke.spine, placeOf(stroke.spine, end === 0 ? 0 : endOf(stroke.spine)));
  const key = `${stroke.id}:${end}`;
  const told = (kind: LooseEnd['kind'], length: number): LooseEnd => ({
    ...{ key, strokeId: stroke.id, kind, length, x: tip.x, y: tip.y },
    isException: exceptions?.has(key) === true,
  });
  if (found) {
    const { stop, beyond: length } = found;
    const covered = pointAt(stop.other.spine, placeOf(stop.other.spine, stop.otherAt)).width / 2;
    const seen = length + (stroke.ends[end] === 'round' ? tip.width / 2 : 0) - covered;
    if (typeof stroke.ends[end] !== 'string' || seen <= FINE) return undefined;
    return { told: told('overshoot', length), stop };
  }
  return gap > 0 ? shortEnd(line, end, gap, index, told) : undefined;
}

/** An end that nothing stops, where the line drawn on straight would meet another one within a gap. */
function shortEnd(
  { stroke, touches }: Line,
  end: 0 | 1,
  gap: number,
  index: LineIndex<StrokeEntity>,
  told: (kind: LooseEnd['kind'], length: number) => LooseEnd,
): Loose | undefined {
  const { spine } = stroke;
  const place = placeOf(spine, end === 0 ? 0 : endOf(spine));
  const tip = pointAt(spine, place);
  const course = courseOf(spine);
  if (touches[end] || lengthOf(course) < FINE) return undefined;
  const heading = directionAt(spine, place);
  const sign = end === 0 ? -1 : 1;
  // As far as ink may lie, and on to the middle of what it belongs to.
  const ahead = (reach: number) =>
    evenlyWide(lineSpine(tip, { x: tip.x + sign * heading.x * reach, y: tip.y + sign * heading.y * reach }), tip.width);
  const [dx, dy] = [sign * heading.x * (gap + tip.width), sign * heading.y * (gap + tip.width)];
  const ink = growBox(boxOfPoints([tip, { x: tip.x + dx, y: tip.y + dy }]), tip.width / 2);
  const near = index.within(ink).filter((other) => other !== stroke);
  if (near.length === 0) return undefined;
  const added = ahead(gap + tip.width + Math.max(...near.map((other) => widestOf(other.spine))) / 2);
  const probe: StrokeEntity = { ...stroke, spine: added, ends: ['flat', 'flat'] };
  const met = firstCrossing(probe, near);
  if (!met) return undefined;
  const covered = pointAt(met.other.spine, placeOf(met.other.spine, met.otherAt)).width / 2;
  const length = alongAt(courseOf(added), met.at) - covered - (stroke.ends[end] === 'round' ? tip.width / 2 : 0);
  if (length > gap || length <= 0) return undefined;
  return { told: told('short', length), stop: met, added };
}

/** Where a line first crosses one of others. */
function firstCrossing(line: StrokeEntity, others: readonly StrokeEntity[]): Stop<StrokeEntity> | undefined {
  let first: Stop<StrokeEntity> | undefined;
  for (const other of others)
    for (const { atA, atB, angle } of crossingsOfTwo([line, other], 0, 1))
      if (angle > GLANCE && (!first || atA < first.at)) first = { at: atA, other, otherAt: atB, crosses: true };
  return first;
}

function tidied({ kept, stroke }: Line, first: Loose | undefined, last: Loose | undefined): StrokeEntity | undefined {
  if (!first && !last) return undefined;
  // What is grown is put on before the cut: its places come first or last.
  const long = grown(stroke, first?.added, last?.added);
  const whole = kept === stroke ? long : grown(kept, first?.added, last?.added);
  const before = first?.added ? 1 : 0;
  const placed = ({ stop, added }: Loose, end: 0 | 1): Stop<StrokeEntity> => ({
    ...stop,
    at: !added ? stop.at + before : end === 0 ? 1 - stop.at : before + endOf(stroke.spine) + stop.at,
  });
  const asKept = ({ at, end }: Cut): Cut => ({ at: keptPlace({ kept: whole, shown: long }, at), end });
  const from = asKept(first ? cutAtStop(long, placed(first, 0), false) : { at: 0, end: stroke.ends[0] });
  const to = asKept(last ? cutAtStop(long, placed(last, 1), true) : { at: endOf(long.spine), end: stroke.ends[1] });
  return from.at < to.at ? pieceOf(whole, from, to) : undefined;
}

/** A line with what was added at its ends, as wide as it ends there. */
function grown(stroke: StrokeEntity, first: Spine | undefined, last: Spine | undefined): StrokeEntity {
  const { spine } = stroke;
  const parts = [
    ...(first ? [reversedSpine(evenlyWide(first, widthAtEnd(spine, 0)))] : []),
    spine,
    ...(last ? [evenlyWide(last, widthAtEnd(spine, 1))] : []),
  ];
  return parts.length > 1 ? { ...stroke, spine: joinedSpines(parts) } : stroke;
}
