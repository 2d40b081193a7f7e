import {
  directionAt,
  endOf,
  movedPlace,
  partOf,
  placeNumber,
  pointAt,
  SEGMENT,
  segmentCount,
  spineBox,
  spineLength,
  startedAt,
  type Spine,
  type SpinePlace,
  widestOf,
} from '../curve';
import { outlinePolyline } from '../ink';
import { boxesMeet, boxOfPoints, growBox, segmentDistanceSquared, type Box, type Point } from '../math';
import type { Stroke, StrokeEnd } from '../stroke';
import { blotWithout } from './blots';
import { pieceOf } from './cut';

/** Pieces shorter than this, page px, are not left standing. */
const SLIVER = 1.5;
const BISECTIONS = 14;

/**
 * What is left of a stroke where a round rubber of `radius` page px went along `path`: nothing when it was not touched,
 * otherwise its pieces in order, perhaps none. The ink goes where the rubber touched it; cut ends are flat, or round as
 * asked, and keep their width; pieces follow the old course and weight exactly. `thickness` is by how much the layer shows it wider than it is.
 */
export function rubStroke<S extends Stroke>(
  stroke: S,
  path: readonly Point[],
  radius: number,
  thickness = 1,
  cutEnd: 'flat' | 'round' = 'flat',
): S[] | undefined {
  if (stroke.fills) return path.length > 0 ? rubbedBlot(stroke, path, radius) : undefined;
  // A round tip reaches beyond the end of its line: the cut is made that much earlier, so that the rubbed place is free.
  const tip = cutEnd === 'round' ? widestOf(stroke.spine) / 2 : 0;
  const pieces = rubbedPieces(stroke, path, radius + tip, thickness, cutEnd);
  return pieces?.flatMap(({ piece, isTouched }) =>
    isTouched || (pieces.length > 1 && isShort(piece.spine, SLIVER)) ? [] : [piece],
  );
}

/** Whether a line is shorter than `length`, page px. A line that gets that far off its start is not: its length is not asked for. */
function isShort(spine: Spine, length: number): boolean {
  const { points: p } = spine;
  for (let i = SEGMENT; i < p.length; i += SEGMENT)
    if (Math.hypot(p[i] - p[0], p[i + 1] - p[1]) >= length) return false;
  return spineLength(spine) < length;
}

/** A blot loses what the rubber went over: the way of its disc. */
function rubbedBlot<S extends Stroke>(stroke: S, path: readonly Point[], radius: number): S[] | undefined {
  const reach = growBox(boxOfPoints(path), radius);
  if (!boxesMeet(spineBox(stroke.spine), reach)) return undefined;
  return blotWithout(stroke, sweptRing(path, radius));
}

/** What a disc of `radius` page px goes over on its way, as a ring. */
export const sweptRing = (path: readonly Point[], radius: number): Float64Array =>
  outlinePolyline(Float64Array.from(path.flatMap(({ x, y }) => [x, y, 2 * radius])), ['round', 'round'], 0.1);

/** A stroke with another colour where a round brush passed it: nothing when it was not touched or has that colour. */
export function recolourStroke<S extends Stroke>(
  stroke: S,
  path: readonly Point[],
  radius: number,
  color: string,
  thickness = 1,
): S[] | undefined {
  if (stroke.nib.color === color || stroke.fills) return undefined;
  return rubbedPieces(stroke, path, radius, thickness, 'flat')?.map(({ piece, isTouched }) =>
    isTouched ? { ...piece, nib: { ...piece.nib, color } } : piece,
  );
}

/** The stroke in pieces, cut where touching begins and ends; nothing when it is not touched at all. */
function rubbedPieces<S extends Stroke>(
  stroke: S,
  path: readonly Point[],
  radius: number,
  thickness: number,
  cutEnd: StrokeEnd,
): { readonly piece: S; readonly isTouched: boolean }[] | undefined {
  const reach = thickness > 1 ? radius + (thickness - 1) * widestOf(stroke.spine) : radius;
  if (path.length === 0) return undefined;
  const isNear = segmentsNear(stroke.spine, growBox(boxOfPoints(path), reach));
  if (!isNear.includes(true)) return undefined;
  const touched = touchTest(stroke, path, radius, thickness);
  if (isShort(stroke.spine, SLIVER))
    return touched({ segment: 0, t: 0 }) ? [{ piece: stroke, isTouched: true }] : undefined;
  const stretches = stretchesOf(stroke.spine, isNear, touched, radius);
  if (!stretches.some(({ isTouched }) => isTouched)) return undefined;
  if (stretches.length === 1) return [{ piece: stroke, isTouched: true }];
  const [line, parts] = stroke.spine.closed ? openedRing(stroke, stretches, cutEnd) : [stroke, stretches];
  return parts.map(({ from, to, isTouched }, k) => {
    const ends: readonly [StrokeEnd, StrokeEnd] = [
      k === 0 ? line.ends[0] : cutEnd,
      k === parts.length - 1 ? line.ends[1] : cutEnd,
    ];
    return { piece: pieceOf(line, { at: from, end: ends[0] }, { at: to, end: ends[1] }), isTouched };
  });
}

/** A ring that starts where its first stretch ends, so that this one and the last are one; both its ends are cut. */
function openedRing<S extends Stroke>(
  stroke: S,
  stretches: readonly Stretch[],
  cutEnd: StrokeEnd,
): readonly [S, readonly Stretch[]] {
  const { spine, grain } = stroke;
  const start = stretches[0].to;
  const count = endOf(spine);
  const turned = startedAt(spine, start);
  const moved = (place: number) => movedPlace(place, start, count);
  const open: S = {
    ...stroke,
    spine: { ...turned, closed: false },
    ends: [cutEnd, cutEnd],
    ...(grain && { grain: { ...grain, offset: grain.offset + spineLength(partOf(spine, 0, start)) } }),
  };
  const last = stretches.length - 1;
  const parts = stretches.slice(1).map(({ from, to, isTouched }, k) => ({
    from: k === 0 ? 0 : moved(from),
    to: k === last - 1 ? endOf(turned) : moved(to),
    isTouched,
  }));
  return [open, parts];
}

/**
 * Whether the rubber meets the line's cross-section at a place: the cut is then straight across, exactly there. At a round
 * end it is the whole tip that counts.
 */
function touchTest(
  { spine, ends }: Stroke,
  path: readonly Point[],
  radius: number,
  thickness: number,
): (place: SpinePlace) => boolean {
  const legs = path.length === 1 ? [[path[0], path[0]] as const] : path.slice(1).map((p, k) => [path[k], p] as const);
  const swept = boxOfPoints(path);
  const last = segmentCount(spine) - 1;
  const isRoundEnd = ({ segment, t }: SpinePlace) =>
    !spine.closed &&
    ((ends[0] === 'round' && segment === 0 && t === 0) || (ends[1] === 'round' && segment === last && t === 1));
  return (place) => {
    const middle = pointAt(spine, place);
    const half = (thickness * middle.width) / 2;
    const reach = radius + half;
    if (
      middle.x < swept.minX - reach ||
      middle.x > swept.maxX + reach ||
      middle.y < swept.minY - reach ||
      middle.y > swept.maxY + reach
    )
      return false;
    if (isRoundEnd(place)) return legs.some(([p, q]) => segmentDistanceSquared(middle, middle, p, q) < reach ** 2);
    const ahead = directionAt(spine, place);
    const a = { x: middle.x + ahead.y * half, y: middle.y - ahead.x * half };
    const b = { x: middle.x - ahead.y * half, y: middle.y + ahead.x * half };
    return legs.some(([p, q]) => segmentDistanceSquared(a, b, p, q) < radius * radius);
  };
}

/** A part of a line between two places. */
interface Stretch {
  readonly from: number;
  readonly to: number;
  readonly isTouched: boolean;
}

/** The whole spine as stretches that are touched and not touched, in turn. */
function stretchesOf(
  spine: Spine,
  isNear: readonly boolean[],
  touched: (place: SpinePlace) => boolean,
  radius: number,
): Stretch[] {
  const stretches: Stretch[] = [];
  let from = 0;
  let previous: SpinePlace = { segment: 0, t: 0 };
  let isTouched = touched(previous);
  for (const place of probes(spine, isNear, radius)) {
    if (touched(place) !== isTouched) {
      const edge = placeNumber(bisect(previous, place, touched));
      if (edge !== from) stretches.push({ from, to: edge, isTouched });
      from = edge;
      isTouched = !isTouched;
    }
    previous = place;
  }
  stretches.push({ from, to: endOf(spine), isTouched });
  return stretches;
}

/** For each segment whether any of its ink may lie in the box: a cubic lies in the hull of its handles. */
function segmentsNear({ points: p }: Spine, box: Box): boolean[] {
  const near: boolean[] = [];
  for (let i = 0; i + SEGMENT < p.length; i += SEGMENT) {
    const half = Math.max(p[i + 2], p[i + 5], p[i + 8], p[i + 11]) / 2;
    near.push(
      Math.min(p[i], p[i + 3], p[i + 6], p[i + 9]) - half <= box.maxX &&
        Math.max(p[i], p[i + 3], p[i + 6], p[i + 9]) + half >= box.minX &&
        Math.min(p[i + 1], p[i + 4], p[i + 7], p[i + 10]) - half <= box.maxY &&
        Math.max(p[i + 1], p[i + 4], p[i + 7], p[i + 10]) + half >= box.minY,
    );
  }
  return near;
}

/** Places along the spine, close enough together that the rubber cannot slip between two; far segments are stepped over. */
function* probes(spine: Spine, isNear: readonly boolean[], radius: number): Generator<SpinePlace> {
  const spacing = Math.max(0.25, radius / 4);
  yield { segment: 0, t: 0 };
  for (let segment = 0; segment < segmentCount(spine); segment++) {
    if (!isNear[segment]) {
      yield { segment, t: 1 };
      continue;
    }
    const steps = Math.max(2, Math.ceil(cubicLength(spine.points, segment * SEGMENT) / spacing));
    for (let k = 1; k <= steps; k++) yield { segment, t: k / steps };
  }
}

/** The length of a cubic, roughly: between that of its chord and that of its handles (Gravesen 1997). */
function cubicLength(p: Float64Array, i: number): number {
  const leg = (from: number, to: number) => Math.hypot(p[to] - p[from], p[to + 1] - p[from + 1]);
  return (leg(i, i + 9) + leg(i, i + 3) + leg(i + 3, i + 6) + leg(i + 6, i + 9)) / 2;
}

/** The place between two neighbouring probes where touching begins or ends. */
function bisect(a: SpinePlace, b: SpinePlace, touched: (place: SpinePlace) => boolean): SpinePlace {
  const { segment } = b;
  let low = a.segment === segment ? a.t : 0;
  let high = b.t;
  const before = touched({ segment, t: low });
  for (let k = 0; k < BISECTIONS; k++) {
    const t = (low + high) / 2;
    if (touched({ segment, t }) === before) low = t;
    else high = t;
  }
  // The untouched side, so that nothing touched is left.
  return { segment, t: before ? high : low };
}
