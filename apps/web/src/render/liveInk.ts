import { flattenCubic, SEGMENT, STRIDE, mapSpine } from '@true-nib/core/curve';
import { inkedRings, type LiveStroke } from '@true-nib/core/ink';
import {
  applyProjective,
  boxesMeet,
  boxOfDiscs,
  depthAt,
  emptyBox,
  growBox,
  identity,
  invert,
  isEmptyBox,
  mapBox,
  scaleOf,
  slopeAt,
  then,
  uniteBoxes,
  type Box,
  type Matrix,
  type Matrix3x3,
} from '@true-nib/core/math';
import { mapNib, styledStroke, styledWidth, type StrokeGrain } from '@true-nib/core/stroke';
import type { InkStyle, Nib } from '@true-nib/core/nib';
import type { MarkShape } from '@true-nib/core/drawn';
import { clipTo, paintTolerance, traceRings, type Context2D } from './inkPaint';
import type { InHand } from './stackPaint';

/** Nearer to the horizon of a projective copy than this nothing is drawn, as in the strokes that are kept. */
const NEAR = 0.02;
/** Points of the flattened line that share one box. */
const CHUNK = 4;

export interface LiveInkOptions {
  /** Paints what lies over the stroke's layer into a device-px box, on what is there. */
  readonly paintAbove?: (box: Box) => void;
  /** Paints a device-px box anew with the stroke, which `lay` lays, as a part of its layer; on `context` alone without it. */
  readonly within?: ((box: Box, lay: InHand['lay']) => void) | undefined;
  /** How the layer shows its lines. */
  readonly style?: InkStyle | undefined;
  /** Only what lies in here shows. */
  readonly clip?: MarkShape | undefined;
  /** Where else the stroke is drawn: the maps of its symmetries, itself first. */
  readonly copies?: readonly (Matrix | Matrix3x3)[] | undefined;
}

/**
 * Paints a stroke while it is drawn, with its symmetric copies. What has settled is flattened once; each look repaints only
 * the boxes of the tails, with just the parts of the lines that reach into them: pixel for pixel what the whole outlines
 * would give there.
 */
export class LiveInk {
  private readonly lines: readonly LiveLine[];
  private readonly laid: readonly LaidLine[];
  private readonly tolerance: number;
  private readonly widen: ((width: number) => number) | undefined;
  private readonly paintAbove: (box: Box) => void;
  private readonly within: LiveInkOptions['within'];
  private readonly style: InkStyle | undefined;
  private readonly clip: MarkShape | undefined;
  readonly copies: readonly (Matrix | Matrix3x3)[];

  constructor(
    readonly live: LiveStroke,
    private readonly context: Context2D,
    /** Page px to device px. */
    private readonly map: Matrix,
    { paintAbove = () => undefined, within, style, clip, copies = [identity] }: LiveInkOptions = {},
  ) {
    this.paintAbove = paintAbove;
    this.clip = clip;
    this.within = within;
    this.style = style;
    this.copies = copies;
    // The nib as the layer shows it.
    const nib: Nib = { ...(style?.nib ?? live.nib), color: style?.color ?? live.nib.color };
    this.widen = styledWidth(live.nib, style);
    this.tolerance = paintTolerance(scaleOf(map));
    const lineUnder = (copy: Matrix | Matrix3x3) => new LiveLine(this.tolerance, copy, nib, live.grain);
    const drawn = lineUnder(identity);
    this.laid = copies.map((copy) =>
      isCongruent(copy, nib) ? new LaidLine(drawn, copy) : new LaidLine(lineUnder(copy), identity),
    );
    this.lines = [...new Set(this.laid.map(({ line }) => line))];
  }

  /** The spine as the layer shows it, and how many of its numbers have settled. */
  private course(): { readonly points: Float64Array; readonly settledLength: number } {
    const { live, style, widen } = this;
    // Tapers and profiles of the layer's own nib lie over the whole line, and move on with its end.
    if (style?.nib && (style.nib.profile || style.nib.taperIn + style.nib.taperOut > 0))
      return { points: styledStroke(live.stroke(), style).spine.points, settledLength: STRIDE };
    const { points } = live.spine();
    if (widen) for (let i = 2; i < points.length; i += STRIDE) points[i] = widen(Math.max(0, points[i]));
    return { points, settledLength: Math.max(STRIDE, live.settledLength) };
  }

  /** Brings the picture up to date with the samples so far. Answers the device-px box that was painted. */
  paint(): Box {
    const { points, settledLength } = this.course();
    for (const line of this.lines) line.follow(points, settledLength);
    const dirty = this.laid.map((line) => line.follow());
    return dirty.reduce((whole, box) => uniteBoxes(whole, this.repaint(box)), emptyBox);
  }

  /** The device-px box of all of it. */
  get whole(): Box {
    const box = this.laid.reduce((all, { whole }) => uniteBoxes(all, whole), emptyBox);
    return isEmptyBox(box) ? box : this.onDevice(box);
  }

  /** Lays all of it on a context under a map from page px to the context's. */
  layAll(context: Context2D, map: Matrix): void {
    const box = this.laid.reduce((all, { whole }) => uniteBoxes(all, whole), emptyBox);
    if (!isEmptyBox(box)) this.lay(context, map, box);
  }

  private onDevice(box: Box): Box {
    return wholePx(growBox(mapBox(this.map, box), 1.5));
  }

  private repaint(dirty: Box): Box {
    const { context, map, within } = this;
    if (isEmptyBox(dirty)) return dirty;
    const device = this.onDevice(dirty);
    const touched = growBox(dirty, 3 / Math.hypot(map[0], map[1]));
    if (within) {
      within(device, (target, to) => this.lay(target, to, touched));
      return device;
    }
    context.save();
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.clearRect(device.minX, device.minY, device.maxX - device.minX, device.maxY - device.minY);
    context.beginPath();
    context.rect(device.minX, device.minY, device.maxX - device.minX, device.maxY - device.minY);
    context.clip();
    this.lay(context, map, touched);
    this.paintAbove(device);
    context.restore();
    return device;
  }

  /** Lays what reaches into a box of the page. */
  private lay(context: Context2D, map: Matrix, touched: Box): void {
    const { clip } = this;
    if (!clip) return this.layWhole(context, map, touched);
    context.save();
    clipTo(context, clip, map);
    this.layWhole(context, map, touched);
    context.restore();
  }

  private layWhole(context: Context2D, map: Matrix, touched: Box): void {
    for (const laid of this.laid) {
      if (!boxesMeet(laid.whole, touched)) continue;
      const { nib } = laid.line;
      context.setTransform(...laid.under(map));
      context.fillStyle = nib.color;
      context.beginPath();
      for (const rings of laid.ringsIn(touched)) traceRings(context, rings);
      context.globalAlpha = nib.opacity ?? 1;
      context.fill();
      context.globalAlpha = 1;
    }
  }
}

/** Whether a copy is the line itself laid elsewhere. The two sides of a broken edge differ: a mirrored one breaks in its own way. */
function isCongruent(copy: Matrix | Matrix3x3, { edge }: Nib): copy is Matrix {
  if (copy.length === 9) return false;
  const [a, b, c, d] = copy;
  const isTurn = Math.abs(a - d) + Math.abs(b + c) < EXACT;
  const isMirror = Math.abs(a + d) + Math.abs(b - c) < EXACT;
  return Math.abs(Math.hypot(a, b) - 1) < EXACT && (isTurn || (isMirror && !edge));
}

/** How far the parts of a map may be off those of a turn. */
const EXACT = 1e-9;

/** A line of a stroke under way where one of its copies lies. */
class LaidLine {
  /** The box of all of it so far, page px. */
  whole: Box = emptyBox;
  private readonly back: Matrix;
  /** The box of what may still change, page px. */
  private tail: Box = emptyBox;

  constructor(
    readonly line: LiveLine,
    /** From where the line is to the page. */
    private readonly place: Matrix,
  ) {
    this.back = invert(place);
  }

  /** From where the line is to where a map takes the page. */
  under(map: Matrix): Matrix {
    return then(this.place, map);
  }

  /** Takes over the line as it is now. Answers the box of what has changed, page px. */
  follow(): Box {
    const before = this.tail;
    this.tail = this.line.tailBox(this.place);
    const dirty = uniteBoxes(uniteBoxes(before, this.line.freshBox(this.place)), this.tail);
    this.whole = uniteBoxes(this.whole, dirty);
    return dirty;
  }

  /** The outlines of what reaches into a box of the page, where the line is. */
  ringsIn(touched: Box): Float64Array[][] {
    return this.line.ringsIn(this.place === identity ? touched : mapBox(this.back, touched));
  }
}

/** One line of a stroke under way: its course under a map of the page, flattened as far as it has settled. */
class LiveLine {
  private readonly line: number[] = [];
  private readonly chunks: Box[] = [];
  private settled = 0;
  private mapped = new Float64Array(0);
  private tail: number[] = [];
  /** Where in `line` begins what settled last. */
  private fresh = 0;
  /** Outlines since it was followed last, by the chunks that they go from and to. */
  private readonly rings = new Map<number, Float64Array[]>();
  /** Lengths of the settled line up to the start of each chunk, page px. */
  private readonly lengths: number[] = [];
  private ownNib: Nib;

  constructor(
    private readonly tolerance: number,
    private readonly copy: Matrix | Matrix3x3,
    nib: Nib,
    private readonly grain: StrokeGrain | undefined,
  ) {
    this.ownNib = copy.length === 9 ? nib : mapNib(nib, 1, copy);
  }

  get nib(): Nib {
    return this.ownNib;
  }

  /** Takes over the course as it is now. */
  follow(course: Float64Array, settledLength: number): void {
    const { copy } = this;
    // A projective image is no spine with the same handles: its flattened points are mapped one by one.
    const isAsDrawn = copy === identity || copy.length === 9;
    const points = isAsDrawn ? course : this.mappedTail(course, copy);
    this.settle(points, settledLength);
    this.flattenTail(points);
    this.rings.clear();
  }

  /** The box of what has settled since it was followed before, under a map that keeps lengths. */
  freshBox(place: Matrix): Box {
    const { line, fresh } = this;
    return fresh === line.length ? emptyBox : boxOfDiscs(line, Math.max(0, fresh - STRIDE), line.length, place);
  }

  /** The box of what has not settled, under a map that keeps lengths. */
  tailBox(place: Matrix): Box {
    return boxOfDiscs(this.tail, 0, this.tail.length, place);
  }

  /** The course under a map, of which only what has not settled yet is told anew. */
  private mappedTail(course: Float64Array, copy: Matrix): Float64Array {
    if (this.mapped.length < course.length) {
      const old = this.mapped;
      this.mapped = new Float64Array(2 * course.length);
      this.mapped.set(old);
    }
    this.mapped.set(mapSpine({ points: course.subarray(this.settled), closed: false }, copy).points, this.settled);
    return this.mapped.subarray(0, course.length);
  }

  /** A pen that presses on where it came down widens the first point until something has settled. */
  private begin(points: Float64Array): void {
    // As the kept copy has it: turned as the map turns things where the line begins.
    if (this.line.length === 0 && this.copy.length === 9)
      this.ownNib = mapNib(this.ownNib, 1, slopeAt(this.copy, points[0], points[1]));
    for (let axis = 0; axis < STRIDE; axis++) this.line[axis] = points[axis];
    this.carry(this.line, 0);
  }

  private settle(points: Float64Array, settledLength: number): void {
    if (this.settled === 0) this.begin(points);
    const start = (this.fresh = this.line.length);
    for (; this.settled + SEGMENT < settledLength; this.settled += SEGMENT)
      flattenCubic(points, this.settled, this.tolerance, this.line);
    this.carry(this.line, start);
    this.box(start);
  }

  /** Takes flattened points from an index on to where a projective copy has them; those behind the viewer stay at the last one. */
  private carry(line: number[], from: number): void {
    const { copy } = this;
    if (copy.length !== 9) return;
    for (let i = from; i < line.length; i += STRIDE) {
      if (depthAt(copy, line[i], line[i + 1]) > NEAR) {
        const { x, y } = applyProjective(copy, line[i], line[i + 1]);
        [line[i], line[i + 1]] = [x, y];
      } else if (i >= STRIDE) [line[i], line[i + 1]] = [line[i - STRIDE], line[i + 1 - STRIDE]];
    }
  }

  /** Boxes of whole chunks, and of the last, still growing one. */
  private box(from: number): void {
    const first = Math.max(0, Math.floor((from / STRIDE - 1) / CHUNK));
    this.chunks.length = Math.min(this.chunks.length, first);
    for (let chunk = first; chunk * CHUNK * STRIDE < this.line.length; chunk++) {
      const begin = Math.max(0, chunk * CHUNK - 1) * STRIDE;
      const end = Math.min(this.line.length, (chunk + 1) * CHUNK * STRIDE);
      this.chunks[chunk] = boxOfDiscs(this.line, begin, end);
      // A chunk starts at the last point of the one before.
      if (chunk === 0) this.lengths[0] = 0;
      this.lengths[chunk + 1] = this.lengths[chunk] + lengthOfTriples(this.line, begin, end);
    }
  }

  private flattenTail(points: Float64Array): void {
    this.tail = this.line.slice(-STRIDE);
    for (let i = this.settled; i + SEGMENT < points.length; i += SEGMENT)
      flattenCubic(points, i, this.tolerance, this.tail);
    this.carry(this.tail, STRIDE);
  }

  /** The outlines of the stretches that reach into a box, each longer by a chunk at both ends. */
  ringsIn(box: Box): Float64Array[][] {
    const { chunks } = this;
    const last = chunks.length - 1;
    const isWanted = (k: number) =>
      k === last ||
      boxesMeet(chunks[k], box) ||
      (k > 0 && boxesMeet(chunks[k - 1], box)) ||
      boxesMeet(chunks[k + 1], box);
    const all: Float64Array[][] = [];
    for (let k = 0; k <= last; k++) {
      if (!isWanted(k)) continue;
      const begin = k;
      while (k < last && isWanted(k + 1)) k++;
      all.push(this.ringsOf(begin, k));
    }
    return all;
  }

  private ringsOf(begin: number, end: number): Float64Array[] {
    const isLast = end === this.chunks.length - 1;
    const key = begin * this.chunks.length + end;
    let rings = this.rings.get(key);
    if (!rings) {
      const from = Math.max(0, begin * CHUNK - 1) * STRIDE;
      const to = Math.min(this.line.length, (end + 1) * CHUNK * STRIDE);
      const stretch = this.stretch(from, to, isLast ? this.tail : []);
      const stroke = { nib: this.ownNib, ends: ['round', 'round'], grain: this.grain } as const;
      this.rings.set(key, (rings = inkedRings(stretch, stroke, this.tolerance, this.lengths[begin])));
    }
    return rings;
  }

  /** Numbers `from..to` of the line, and all of `tail` but its first point, which is the line's last. */
  private stretch(from: number, to: number, tail: readonly number[]): Float64Array {
    const points = new Float64Array(to - from + Math.max(0, tail.length - STRIDE));
    let end = 0;
    for (let i = from; i < to; i++) points[end++] = this.line[i];
    for (let i = STRIDE; i < tail.length; i++) points[end++] = tail[i];
    return points;
  }
}

function lengthOfTriples(line: readonly number[], from: number, to: number): number {
  let length = 0;
  for (let i = from + STRIDE; i < to; i += STRIDE)
    length += Math.hypot(line[i] - line[i - STRIDE], line[i + 1] - line[i + 1 - STRIDE]);
  return length;
}

export const wholePx = (box: Box): Box => ({
  minX: Math.floor(box.minX),
  minY: Math.floor(box.minY),
  maxX: Math.ceil(box.maxX),
  maxY: Math.ceil(box.maxY),
});
