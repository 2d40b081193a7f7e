import { flattenSpine } from '../curve';
import { boxOfFlat, emptyBox, reversedRing, ringArea, uniteBoxes, type Box } from '../math';
import type { Stroke, StrokeGrain } from '../stroke';
import { cutRings, type PlainEnds } from './cutEnds';
import { broken } from './grain';

/**
 * The inked shape of a stroke: closed rings of x, y pairs in page px, filled together by the non-zero rule. A clean line is
 * one ring.
 */
export interface Outline {
  readonly rings: readonly Float64Array[];
  readonly box: Box;
}

/** Page px that an outline may stray from the true shape when nothing else is asked for: invisible at 800 %. */
export const OUTLINE_TOLERANCE = 0.025;

const known = new WeakMap<Stroke, Map<number, Outline>>();

/** The outline of a stroke, made once for each stroke and tolerance (page px). */
export function outlineOf(stroke: Stroke, tolerance = OUTLINE_TOLERANCE): Outline {
  let outlines = known.get(stroke);
  if (!outlines) known.set(stroke, (outlines = new Map()));
  let outline = outlines.get(tolerance);
  if (!outline) {
    const rings = inkedRings(flattenSpine(stroke.spine, tolerance), stroke, tolerance);
    const box = rings.map((ring) => boxOfFlat(ring, 2)).reduce(uniteBoxes, emptyBox);
    outlines.set(tolerance, (outline = { rings, box }));
  }
  return outline;
}

const NO_GRAIN: StrokeGrain = { seed: 0, offset: 0 };

/**
 * What a nib inks along a line of discs (triples x, y, width), which may be a part of a stroke that starts `along` page px
 * down it: a flat tip and broken edges included. `tolerance` in page px.
 */
export function inkedRings(
  line: Float64Array,
  { nib, ends, grain = NO_GRAIN, fills }: Pick<Stroke, 'nib' | 'ends' | 'grain' | 'fills'>,
  tolerance: number,
  along = 0,
): Float64Array[] {
  const { edge, tip } = nib;
  const lines = edge ? broken(line, edge, grain, along) : [line];
  const ring = (part: Float64Array, plain: PlainEnds) =>
    tip?.shape === 'flat'
      ? flatOutline(part, plain, tip.angle, tip.thickness, tolerance)
      : outlinePolyline(part, plain, tolerance);
  const rings = lines.flatMap((one) => cutRings(one, ends, ring));
  return fills ? filled(line, rings) : rings;
}

/** All that a line goes round, besides what it inks itself, where it has a width. Both wind the same way, so neither is a hole. */
function filled(line: Float64Array, rings: Float64Array[]): Float64Array[] {
  const inside = new Float64Array((line.length / 3) * 2);
  let widest = 0;
  for (let k = 0; 3 * k < line.length; k++) {
    inside[2 * k] = line[3 * k];
    inside[2 * k + 1] = line[3 * k + 1];
    widest = Math.max(widest, line[3 * k + 2]);
  }
  // A nib so dry that nothing of it touches the paper leaves what it goes round.
  if (widest < 1e-3 || rings.length === 0) return [inside];
  const turnsOther = ringArea(inside) * ringArea(rings[0]) < 0;
  return [turnsOther ? reversedRing(inside) : inside, ...rings];
}

/** A flat tip is a disc pressed flat: where the page is stretched against it, it draws as a round one does. */
function flatOutline(
  line: Float64Array,
  ends: PlainEnds,
  angle: number,
  thickness: number,
  tolerance: number,
): Float64Array {
  const [cosine, sine] = [Math.cos(angle), Math.sin(angle)];
  const stretched = line.slice();
  for (let i = 0; i < line.length; i += 3) {
    stretched[i] = line[i] * cosine + line[i + 1] * sine;
    stretched[i + 1] = (line[i + 1] * cosine - line[i] * sine) / thickness;
  }
  const ring = outlinePolyline(stretched, ends, tolerance);
  for (let i = 0; i < ring.length; i += 2) {
    const along = ring[i];
    const across = ring[i + 1] * thickness;
    ring[i] = along * cosine - across * sine;
    ring[i + 1] = along * sine + across * cosine;
  }
  return ring;
}

/**
 * The closed path around a polyline of discs (triples x, y, width): the hulls of neighbouring discs, walked once down the
 * left and back up the right. Outer sides of turns get arcs; inner sides go to where the edges cross or, in hard turns, through
 * the disc's centre, so that every part winds the same way and the non-zero fill has neither holes nor notches.
 * `tolerance` is how far an arc's chord may stray, page px. Returns x, y pairs.
 */
export function outlinePolyline(line: Float64Array, ends: PlainEnds, tolerance: number): Float64Array {
  const discs = outerDiscs(line);
  const count = discs.length / 3;
  const path = new Path(count, tolerance);
  if (count === 1) {
    path.arc(discs, 0, 0, 2 * Math.PI);
    return path.points();
  }
  const band: Band = { discs, legs: tangents(discs), path };
  for (let k = 0; k < count - 1; k++) walk(band, k, 1, k > 0 ? k - 1 : -1);
  turnBack(band, count - 1, 1, ends[1]);
  for (let k = count - 2; k >= 0; k--) walk(band, k, -1, k < count - 2 ? k + 1 : -1);
  turnBack(band, 0, -1, ends[0]);
  return path.points();
}

/** Drops discs that lie inside a neighbour: there the width jumps faster than the line moves. */
function outerDiscs(line: Float64Array): Float64Array {
  const kept: number[] = [line[0], line[1], line[2] / 2];
  for (let i = 3; i < line.length; i += 3) {
    const radius = line[i + 2] / 2;
    for (;;) {
      const j = kept.length - 3;
      const gap = Math.hypot(line[i] - kept[j], line[i + 1] - kept[j + 1]);
      const slack = 1e-6;
      if (gap + radius <= kept[j + 2] + slack) break;
      if (gap + kept[j + 2] > radius + slack) {
        kept.push(line[i], line[i + 1], radius);
        break;
      }
      kept.length = j;
      if (j === 0) {
        kept.push(line[i], line[i + 1], radius);
        break;
      }
    }
  }
  return Float64Array.from(kept);
}

/** For each leg its direction along (cos, sin) and how its tangents lean forward: ux, uy, forward, sideways. */
function tangents(discs: Float64Array): Float64Array {
  const legs = new Float64Array((discs.length / 3 - 1) * 4);
  for (let i = 0, j = 0; i + 3 < discs.length; i += 3, j += 4) {
    const dx = discs[i + 3] - discs[i];
    const dy = discs[i + 4] - discs[i + 1];
    const gap = Math.sqrt(dx * dx + dy * dy);
    const forward = (discs[i + 2] - discs[i + 5]) / gap;
    legs[j] = dx / gap;
    legs[j + 1] = dy / gap;
    legs[j + 2] = forward;
    legs[j + 3] = Math.sqrt(Math.max(0, 1 - forward * forward));
  }
  return legs;
}

/** The x of leg `k`'s outward normal on the `side` we walk (1 down the line's one side, −1 back up the other). */
const normalX = (legs: Float64Array, k: number, side: number) =>
  legs[4 * k] * legs[4 * k + 2] + side * legs[4 * k + 1] * legs[4 * k + 3];
const normalY = (legs: Float64Array, k: number, side: number) =>
  legs[4 * k + 1] * legs[4 * k + 2] - side * legs[4 * k] * legs[4 * k + 3];

/** A line of discs, the tangents of its legs, and the path that is written around it. */
interface Band {
  readonly discs: Float64Array;
  readonly legs: Float64Array;
  readonly path: Path;
}

/** Joins leg `from` (−1: none) to leg `k` on one side, and goes along leg `k`. */
function walk({ discs, legs, path }: Band, k: number, side: number, from: number): void {
  const start = 3 * (side > 0 ? k : k + 1);
  const end = 3 * (side > 0 ? k + 1 : k);
  const nx = normalX(legs, k, side);
  const ny = normalY(legs, k, side);
  const radius = discs[start + 2];
  const px = from < 0 ? nx : normalX(legs, from, side);
  const py = from < 0 ? ny : normalY(legs, from, side);
  /** How far along the sum of both normals the one point lies that joins the legs; 0: they need more than one. */
  let out = 0;
  if (from >= 0) {
    const sine = px * ny - py * nx;
    const cosine = px * nx + py * ny;
    const sagitta = (radius * (1 - cosine)) / 4;
    if (sine < 0) {
      // Inner side: where the edges of the two legs cross, if that leaves half of each leg at least.
      const room = 0.25 * Math.min(legLength(discs, k), legLength(discs, from));
      if (cosine > 0 && -sine * radius <= room * (1 + cosine)) out = radius / (1 + cosine);
      else path.to(discs[start], discs[start + 1]);
    } else if (sagitta > path.tolerance) {
      const begin = Math.atan2(py, px);
      path.arc(discs, start, begin, begin + Math.atan2(sine, cosine));
    } else if (4 * sagitta <= path.tolerance) {
      // Outer side: the middle of so small an arc is as good as its chord.
      out = radius / Math.sqrt(2 + 2 * cosine);
    }
  }
  if (out > 0) path.replaceLast(discs[start] + out * (px + nx), discs[start + 1] + out * (py + ny));
  else path.to(discs[start] + radius * nx, discs[start + 1] + radius * ny);
  path.to(discs[end] + discs[end + 2] * nx, discs[end + 1] + discs[end + 2] * ny);
}

function legLength(discs: Float64Array, k: number): number {
  const [dx, dy] = [discs[3 * k + 3] - discs[3 * k], discs[3 * k + 4] - discs[3 * k + 1]];
  return Math.sqrt(dx * dx + dy * dy);
}

/** The end of a line at a disc that is reached on one side: half around the disc, or straight across. */
function turnBack({ discs, legs, path }: Band, disc: number, side: number, end: PlainEnds[0]): void {
  if (end === 'flat' || discs[3 * disc + 2] <= path.tolerance) return;
  const leg = side > 0 ? disc - 1 : disc;
  const begin = Math.atan2(normalY(legs, leg, side), normalX(legs, leg, side));
  const stop = Math.atan2(normalY(legs, leg, -side), normalX(legs, leg, -side));
  const sweep = (stop - begin + 4 * Math.PI) % (2 * Math.PI);
  path.arc(discs, 3 * disc, begin, begin + sweep);
}

/** A path that grows; `tolerance` is how far the chords of its arcs may stray, page px. */
class Path {
  private sheet: Float64Array;
  private end = 0;

  /** With room for the sides of as many discs; arcs may take more. */
  constructor(
    discs: number,
    readonly tolerance: number,
  ) {
    this.sheet = new Float64Array(5 * discs + 64);
  }

  to(x: number, y: number): void {
    if (this.end + 2 > this.sheet.length) {
      const larger = new Float64Array(this.sheet.length * 2);
      larger.set(this.sheet);
      this.sheet = larger;
    }
    this.sheet[this.end++] = x;
    this.sheet[this.end++] = y;
  }

  replaceLast(x: number, y: number): void {
    this.sheet[this.end - 2] = x;
    this.sheet[this.end - 1] = y;
  }

  /** The inner points of an arc around the disc (x, y, radius) at `at`, with rising angle; its ends are left to the legs. */
  arc(discs: Float64Array, at: number, begin: number, stop: number): void {
    const x = discs[at];
    const y = discs[at + 1];
    const radius = discs[at + 2];
    const sweep = stop - begin;
    const widest = radius > this.tolerance ? 2 * Math.acos(1 - this.tolerance / radius) : Math.PI / 2;
    const steps = Math.max(1, Math.ceil(sweep / Math.min(widest, Math.PI / 2)));
    for (let k = sweep >= 2 * Math.PI ? 0 : 1; k < steps; k++) {
      const angle = begin + (sweep * k) / steps;
      this.to(x + radius * Math.cos(angle), y + radius * Math.sin(angle));
    }
  }

  points(): Float64Array {
    return this.sheet.slice(0, this.end);
  }
}
