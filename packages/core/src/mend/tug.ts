import { cutAtLengths, lengthOf, courseOf, alongAt, segmentLengths, SEGMENT, STRIDE, type Spine } from '../curve';
import { clamp, type Point } from '../math';

/** How far a pull is felt along a line. */
export interface TugReach {
  /** Page px along the line from the grip to where nothing moves any more. */
  readonly radius: number;
  /** 0 pulls a broad bow, 1 a narrow one. */
  readonly falloff: number;
  /** The ends of an open line stay where they are. */
  readonly isPinned: boolean;
}

/** Cubics within the reach that are longer than this share of it are cut, so that they can follow the pull. */
const LONGEST = 0.4;
/** A pull lengthens them: only from here on they are cut, so that pulling on adds no nodes. */
const BEARABLE = 0.55;
/** Shares of the reach from a node at which its end needs no node of its own. */
const LIMIT = 0.08;

/**
 * Pulls a line at a place (see `Course`) by a step, page px. The pull fades to nothing at the radius, smoothly: where the
 * line was smooth it stays smooth, and its widths go along. Nodes are added only where cubics are too long to bend so.
 */
export function tug(spine: Spine, grip: number, by: Point, { radius, falloff, isPinned }: TugReach): Spine {
  if (!(radius > 0) || (by.x === 0 && by.y === 0)) return spine;
  const lengths = segmentLengths(spine);
  const length = lengths.reduce((sum, own) => sum + own, 0);
  if (length === 0) return spine;
  const course = courseOf(spine);
  const at = (alongAt(course, grip) * length) / (lengthOf(course) || 1);
  const { points, ways } = cutAtLengths(spine, lengths, marksWithin(spine, lengths, at, radius, length));
  const bow = bowOver(radius, 2 + 4 * clamp(falloff, 0, 1));
  const line = { length, isRing: spine.closed, pinnedWithin: isPinned ? radius : 0 };
  const pull = pullAt(at, line, bow);
  // Offsets of triples and the shares of the step that they go by, in turn.
  const moved: number[] = [];
  let along = 0;
  for (let node = 0, i = 0; node <= ways.length; node++, i += SEGMENT) {
    const [share, slope] = pull(along);
    // Handles go as the pull's tangent does, so that both sides of a smooth node stay in line.
    for (const side of [-1, 0, 1] as const) {
      const j = i + side * STRIDE;
      if (j < 0 || j >= points.length) continue;
      const reach = side === 0 ? 0 : side * Math.hypot(points[j] - points[i], points[j + 1] - points[i + 1]);
      moved.push(j, share + slope * reach);
    }
    along += ways[node] ?? 0;
  }
  for (let k = 0; k < moved.length; k += 2) {
    points[moved[k]] += moved[k + 1] * by.x;
    points[moved[k] + 1] += moved[k + 1] * by.y;
  }
  return { points, closed: spine.closed };
}

function marksWithin(spine: Spine, lengths: readonly number[], at: number, radius: number, length: number): number[] {
  const marks: number[] = [];
  let start = 0;
  for (const own of lengths) {
    const away = spine.closed
      ? Math.min(gapTo(at, start, own), gapTo(at - length, start, own), gapTo(at + length, start, own))
      : gapTo(at, start, own);
    const pieces = away < radius && own > BEARABLE * radius ? Math.ceil(own / (LONGEST * radius)) : 1;
    for (let k = 1; k < pieces; k++) marks.push(start + (own * k) / pieces);
    // A cubic that goes on beyond the reach is cut there, so that nothing beyond it moves.
    for (const limit of [at - radius, at + radius])
      if (Math.min(limit - start, start + own - limit) > LIMIT * radius) marks.push(limit);
    start += own;
  }
  return marks.sort((a, b) => a - b);
}

const gapTo = (at: number, start: number, own: number): number => Math.max(0, start - at, at - start - own);

/** The share of a pull, and its slope, page px from where it is felt whole, or along a line. */
type Pull = (along: number) => readonly [share: number, slope: number];

/** A pull that fades to nothing at the radius. */
const bowOver =
  (radius: number, power: number): Pull =>
  (away) => {
    const x = away / radius;
    if (Math.abs(x) >= 1) return [0, 0];
    const rest = 1 - x * x;
    return [rest ** power, (-2 * power * x * rest ** (power - 1)) / radius];
  };

/** The line that is pulled: its ends hold on where they are nearer to the grip than `pinnedWithin` page px. */
interface PulledLine {
  readonly length: number;
  readonly isRing: boolean;
  readonly pinnedWithin: number;
}

/** How a pull at a length along a line is felt all along it. */
function pullAt(at: number, { length, isRing, pinnedWithin }: PulledLine, bow: Pull): Pull {
  return (along) => {
    if (isRing) {
      const away = along - at;
      return bow(away > length / 2 ? away - length : away < -length / 2 ? away + length : away);
    }
    const [share, slope] = bow(along - at);
    if (share === 0) return [share, slope];
    // From nothing at an end that holds on to all at the grip.
    let [hold, holdSlope] = [1, 0];
    for (const [fromEnd, room, side] of [[along, at, 1] as const, [length - along, length - at, -1] as const]) {
      if (room >= pinnedWithin) continue;
      const x = room > 0 ? Math.min(1, fromEnd / room) : fromEnd > 0 ? 1 : 0;
      const own = x * (2 - x);
      const ownSlope = x < 1 && room > 0 ? (side * 2 * (1 - x)) / room : 0;
      holdSlope = holdSlope * own + hold * ownSlope;
      hold *= own;
    }
    return [share * hold, slope * hold + share * holdSlope];
  };
}

/** The share of a pull that another line feels whose nearest place is `away` page px from the grip. */
export function feltBeside(away: number, { radius, falloff }: TugReach): number {
  const x = away / radius;
  return x >= 1 ? 0 : (1 - x * x) ** (2 + 4 * clamp(falloff, 0, 1));
}
