import {
  alongAt,
  courseOf,
  lengthOf,
  nearestOnSpine,
  partOf,
  placeAlong,
  placeNumber,
  pointAt,
  placeOf,
  endOf,
  evenlyWide,
  reweighed,
  spliced,
  STRIDE,
  weighedBy,
  type Course,
  type Spine,
} from '../curve';
import { clamp, nearestShare, pointToLeg, type Point } from '../math';
import { editedWeight } from './edited';
import { profileAt, profiled, tapered, widthUnder, type Nib, type NibProfile } from '../nib';
import type { PenSample } from '../hand';
import type { Stroke } from '../stroke';

/** Page px between places at which widths along a line are kept while they are drawn anew. */
const STEP = 2;
/** Page px by which widths between nodes may stray. */
const STRAY = 0.08;
/** The share of what was drawn anew over which it blends with what was there. */
const BLEND = 0.15;

/** Widths along a line, `STEP` apart, that are being changed. */
export class Widths {
  private readonly course: Course;
  private readonly values: Float64Array;
  /** The way between two values, page px. */
  private readonly pace: number;
  private low = Infinity;
  private high = -Infinity;

  constructor(private readonly spine: Spine) {
    this.course = courseOf(spine);
    const pieces = Math.max(1, Math.ceil(lengthOf(this.course) / STEP));
    this.pace = lengthOf(this.course) / pieces || 1;
    this.values = Float64Array.from({ length: pieces + 1 }, (_, k) => this.before(k * this.pace));
  }

  private before(along: number): number {
    return pointAt(this.spine, placeOf(this.spine, placeAlong(this.course, along))).width;
  }

  /** Changes the widths between two lengths along the line: `change` is told the length and the width there. */
  change(from: number, to: number, change: (along: number, width: number) => number): void {
    const { values, pace } = this;
    const [first, last] = [Math.max(0, Math.ceil(from / pace)), Math.min(values.length - 1, Math.floor(to / pace))];
    for (let k = first; k <= last; k++) {
      const width = Math.max(0, change(k * pace, values[k]));
      if (width === values[k]) continue;
      values[k] = width;
      this.low = Math.min(this.low, k);
      this.high = Math.max(this.high, k);
    }
  }

  /** The line with its widths; the same object where nothing was changed. Untouched parts keep their nodes. */
  apply(): Spine {
    if (this.low > this.high) return this.spine;
    const { values, course, spine, pace } = this;
    // Wide enough for the slopes at both ends to be those of what is left as it was.
    const margin = 1 + SLOPE_REACH;
    const [a, b] = [Math.max(0, this.low - margin), Math.min(values.length - 1, this.high + margin)];
    const widthAt = (along: number): number => valueAt(values, along / pace);
    const slope = (place: number): number => slopeAt(values, place, spine.closed);
    const wideningAt = (along: number): number => slope(along / pace) / pace;
    const [from, to] = [
      placeAlong(course, a * pace),
      b === values.length - 1 ? endOf(spine) : placeAlong(course, b * pace),
    ];
    const part = partOf(spine, a === 0 ? 0 : from, to);
    const marks = bends(values, a, b, slope).map((k) => (k - a) * pace);
    const start = a * pace;
    const changed = spliced(
      spine,
      a === 0 ? 0 : from,
      to,
      weighedBy(part, marks, {
        widthAt: (along) => widthAt(start + along),
        wideningAt: (along) => wideningAt(start + along),
      }),
    );
    const isAtSeam = spine.closed && (a === 0 || b === values.length - 1);
    return isAtSeam ? smoothAtSeam(changed, wideningAt(0)) : changed;
  }
}

/** What lies at a place between even values; the first and the last where it lies beyond them. */
function valueAt(values: Float64Array, place: number): number {
  const at = clamp(place, 0, values.length - 1);
  const k = Math.min(values.length - 2, Math.floor(at));
  return values[k] + (at - k) * (values[k + 1] - values[k]);
}

/** A closed line that widens by so much a px on both sides of where it begins. */
function smoothAtSeam({ points: old, closed }: Spine, widening: number): Spine {
  const points = old.slice();
  const last = points.length - STRIDE;
  for (const [node, handle, sign] of [
    [0, STRIDE, 1],
    [last, last - STRIDE, -1],
  ]) {
    const reach = Math.hypot(points[handle] - points[node], points[handle + 1] - points[node + 1]);
    points[handle + 2] = Math.max(0, points[node + 2] + sign * widening * reach);
  }
  return { points, closed };
}

/** By how much values rise in a step, judged by this many on either side; those of a closed line go round. */
function slopeAt(values: Float64Array, place: number, isClosed: boolean): number {
  const last = values.length - 1;
  const [low, high] = [place - SLOPE_REACH, place + SLOPE_REACH];
  if (isClosed && last > 2 * SLOPE_REACH)
    return (
      (valueAt(values, high > last ? high - last : high) - valueAt(values, low < 0 ? low + last : low)) /
      (2 * SLOPE_REACH)
    );
  const [from, to] = [Math.max(0, low), Math.min(last, high)];
  return (valueAt(values, to) - valueAt(values, from)) / (to - from);
}
const SLOPE_REACH = 2;

/** Between which values cubics that go on smoothly follow all others to within `STRAY`: those at which they meet. */
function bends(values: Float64Array, from: number, to: number, slope: (place: number) => number): number[] {
  if (to - from < 2) return [];
  const steps = to - from;
  const [start, end] = [values[from], values[to]];
  const [rise, fall] = [(slope(from) * steps) / 3, (slope(to) * steps) / 3];
  let worst = STRAY;
  let at = -1;
  for (let k = from + 1; k < to; k++) {
    const t = (k - from) / steps;
    const s = 1 - t;
    const there = s * s * (s * start + 3 * t * (start + rise)) + t * t * (3 * s * (end - fall) + t * end);
    if (Math.abs(values[k] - there) > worst) [worst, at] = [Math.abs(values[k] - there), k];
  }
  return at < 0 ? [] : [...bends(values, from, at, slope), at, ...bends(values, at, to, slope)];
}

interface Weighing {
  readonly along: number;
  readonly width: number;
}

/**
 * Draws the weight of a line anew along the part that a hand goes along: where it passed, the nib's width under its pressure,
 * blended into what was there at both sides. `profile`, for hands without pressure, weighs that part from end to end.
 * Samples farther than `reach` page px from the middle of the line count for nothing. Each sample is looked up once.
 */
export class Reweighing {
  private readonly course: Course;
  /** In the order of the hand. */
  private readonly track: Weighing[] = [];

  constructor(
    private readonly spine: Spine,
    private readonly nib: Nib,
    private readonly reach: number,
    private readonly profile?: NibProfile,
  ) {
    this.course = courseOf(spine);
  }

  add(samples: readonly PenSample[]): void {
    for (const sample of samples) {
      const near = nearestOnSpine(this.spine, sample);
      if (near.distance > this.reach) continue;
      const along = alongAt(this.course, placeNumber(near));
      this.track.push({ along, width: widthUnder(this.nib, sample.pressure) });
    }
  }

  /** The line with its weight so far; the same object while the hand has not gone along it. */
  spineNow(): Spine {
    const { track, spine, course } = this;
    if (track.length < 2) return spine;
    const sorted = [...track].sort((a, b) => a.along - b.along);
    const [from, to] = [sorted[0].along, sorted[sorted.length - 1].along];
    if (to - from < STEP) return spine;
    const drawn = this.profile ? this.swelling(this.profile, from, to) : walkAlong(sorted);
    const blend = this.profile ? 0 : Math.min(40, BLEND * (to - from));
    const length = lengthOf(course);
    const widths = new Widths(spine);
    widths.change(from, to, (along, width) => {
      // At the line's own ends there is nothing to blend with.
      const rise = from < STEP || blend === 0 ? 1 : clamp((along - from) / blend, 0, 1);
      const fall = to > length - STEP || blend === 0 ? 1 : clamp((to - along) / blend, 0, 1);
      const say = Math.min(rise, fall);
      return width + (drawn(along) - width) * say * say * (3 - 2 * say);
    });
    return widths.apply();
  }

  private swelling(profile: NibProfile, from: number, to: number): (along: number) => number {
    const isBackwards = this.track[0].along > this.track[this.track.length - 1].along;
    return (along) => {
      const share = (along - from) / (to - from);
      return this.nib.size * profileAt(profile, isBackwards ? 1 - share : share);
    };
  }
}

/** Widths between those of a sorted track, for lengths that are asked for in rising order. */
function walkAlong(sorted: readonly Weighing[]): (along: number) => number {
  let k = 1;
  return (along) => {
    while (k < sorted.length - 1 && sorted[k].along < along) k++;
    const [p, q] = [sorted[k - 1], sorted[k]];
    return p.width + (q.along > p.along ? (along - p.along) / (q.along - p.along) : 0) * (q.width - p.width);
  };
}

/** The line weighed by a whole hand (see `Reweighing`). */
export function reweigh(
  spine: Spine,
  samples: readonly PenSample[],
  nib: Nib,
  reach: number,
  profile?: NibProfile,
): Spine {
  const reweighing = new Reweighing(spine, nib, reach, profile);
  reweighing.add(samples);
  return reweighing.spineNow();
}

export interface SwellSettings {
  /** The width that is striven for, page px. */
  readonly width: number;
  /** Page px from the middle of the brush to its edge. */
  readonly radius: number;
}

/** The share of its radius that the brush goes on by at most between two touches. */
const BRUSH_STEP = 0.25;
/** The share of the difference that one whole pass of the brush at full pressure takes. */
const PASS = 0.9;

/**
 * Brings the widths of a line towards one width where a soft brush goes along a way: faster with pressure, and less towards
 * the brush's edge. `widths` are those of the line so far; answers whether the brush reached it.
 */
export function swell(
  widths: Widths,
  spine: Spine,
  from: PenSample,
  to: PenSample,
  { width, radius }: SwellSettings,
): boolean {
  const course = courseOf(spine);
  const length = Math.hypot(to.x - from.x, to.y - from.y);
  let isReached = false;
  // A quick hand tells few places: the brush goes all the way between them, or it would leave a lump at each.
  const steps = Math.max(1, Math.ceil(length / (radius * BRUSH_STEP)));
  // A pass over a place is about two radii long: a step of it changes by its share.
  const share = 1 - (1 - PASS * clamp(to.pressure, 0, 1)) ** (Math.max(0.02, length / radius) / steps);
  for (let step = 1; step <= steps; step++) {
    const t = step / steps;
    const brush = { x: from.x + t * (to.x - from.x), y: from.y + t * (to.y - from.y) };
    for (const [low, high] of stretchesNear(course, brush, radius)) {
      isReached = true;
      widths.change(low, high, (along, now) => {
        const at = pointAt(spine, placeOf(spine, placeAlong(course, along)));
        const off = Math.hypot(at.x - brush.x, at.y - brush.y) / radius;
        if (off >= 1) return now;
        return now + (width - now) * share * (1 - off * off) ** 2;
      });
    }
  }
  return isReached;
}

/** Stretches of a course, lengths along it, of which the middle lies in a disc; a little more on either side. */
function stretchesNear({ line, along }: Course, { x, y }: Point, radius: number): (readonly [number, number])[] {
  const found: [number, number][] = [];
  for (let k = 0, i = 0; k < along.length - 1; k++, i += 3) {
    const t = nearestShare(x, y, line[i], line[i + 1], line[i + 3], line[i + 4]);
    const off = Math.sqrt(pointToLeg(x, y, line[i], line[i + 1], line[i + 3], line[i + 4]));
    if (off > radius) continue;
    const half = Math.sqrt(Math.max(0, radius * radius - off * off));
    const middle = along[k] + t * (along[k + 1] - along[k]);
    const [low, high] = [Math.max(along[k], middle - half), Math.min(along[k + 1], middle + half)];
    const last = found[found.length - 1];
    if (last && low <= last[1] + 1e-9) last[1] = Math.max(last[1], high);
    else found.push([low, high]);
  }
  return found;
}

/** What may be done to the weight of whole lines. */
export type WeightDeed =
  | { readonly deed: 'times'; readonly factor: number }
  | { readonly deed: 'width'; readonly width: number }
  | { readonly deed: 'profile'; readonly profile: NibProfile | undefined; readonly width: number }
  /** `length` in page px, at both ends. */
  | { readonly deed: 'taper'; readonly length: number };

/**
 * A line with its whole weight changed; widths in page px. The nib's size goes along, so that it says what is seen. What is
 * more than a factor its samples no longer tell.
 */
export function weighed<S extends Stroke>(stroke: S, deed: WeightDeed): S {
  const { spine, nib } = stroke;
  const sized = (size: number): Nib => ({ ...nib, size: clamp(size, 0.05, 2_000) });
  switch (deed.deed) {
    case 'times':
      return { ...stroke, spine: reweighed(spine, [], () => deed.factor), nib: sized(nib.size * deed.factor) };
    case 'taper': {
      if (spine.closed || deed.length <= 0) return stroke;
      const share = deed.length / nib.size;
      return editedWeight(stroke, tapered(spine, { ...nib, taperIn: share, taperOut: share }));
    }
    case 'width':
      return { ...editedWeight(stroke, evenlyWide(spine, deed.width)), nib: sized(deed.width) };
    case 'profile': {
      const laid = profiled(evenlyWide(spine, deed.width), { ...nib, profile: deed.profile });
      return { ...editedWeight(stroke, laid), nib: sized(deed.width) };
    }
  }
}
