import {
  cubicSlope,
  cutSpine,
  flattenSpine,
  pointAt,
  SEGMENT,
  segmentCount,
  spineBox,
  spineLength,
  type Spine,
  type SpinePlace,
} from '../curve';
import { boxesMeet, boxOfPoints, growBox, segmentDistanceSquared, type Point } from '../math';
import type { Stroke, StrokeEnd } from '../page';

/** Pieces shorter than this, page px, are not left standing. */
const SLIVER = 1.5;
const BISECTIONS = 14;

/**
 * What is left of a stroke where a round rubber of `radius` page px went along `path`: nothing when it was not touched,
 * otherwise its pieces in order, perhaps none. The ink goes where the rubber touched it; cut ends are flat and keep their
 * width; pieces follow the old course and weight exactly.
 */
export function rubStroke<S extends Stroke>(stroke: S, path: readonly Point[], radius: number): S[] | undefined {
  if (path.length === 0 || !boxesMeet(spineBox(stroke.spine), growBox(boxOfPoints(path), radius))) return undefined;
  const touched = touchTest(stroke, path, radius);
  if (spineLength(stroke.spine) < SLIVER) return touched({ segment: 0, t: 0 }) ? [] : undefined;
  const kept = keptStretches(stroke.spine, touched, radius);
  if (!kept) return undefined;
  const end: SpinePlace = { segment: segmentCount(stroke.spine) - 1, t: 1 };
  const isStart = ({ segment, t }: SpinePlace) => segment === 0 && t === 0;
  const isEnd = ({ segment, t }: SpinePlace) => segment === end.segment && t === end.t;
  return kept.flatMap(([from, to]) => {
    const spine = cutSpine(stroke.spine, from, to);
    if (spineLength(spine) < SLIVER) return [];
    const ends: readonly [StrokeEnd, StrokeEnd] = [
      isStart(from) ? stroke.ends[0] : 'flat',
      isEnd(to) ? stroke.ends[1] : 'flat',
    ];
    return [{ ...stroke, spine, ends }];
  });
}

/**
 * Whether the rubber meets the line's cross-section at a place: the cut is then straight across, exactly there. At a round
 * end it is the whole tip that counts.
 */
function touchTest({ spine, ends }: Stroke, path: readonly Point[], radius: number): (place: SpinePlace) => boolean {
  const legs = path.length === 1 ? [[path[0], path[0]] as const] : path.slice(1).map((p, k) => [path[k], p] as const);
  const last = segmentCount(spine) - 1;
  const isRoundEnd = ({ segment, t }: SpinePlace) =>
    (ends[0] === 'round' && segment === 0 && t === 0) || (ends[1] === 'round' && segment === last && t === 1);
  return (place) => {
    const middle = pointAt(spine, place);
    const half = middle.width / 2;
    if (isRoundEnd(place))
      return legs.some(([p, q]) => segmentDistanceSquared(middle, middle, p, q) < (radius + half) ** 2);
    const across = normalAt(spine, place);
    const a = { x: middle.x - across.x * half, y: middle.y - across.y * half };
    const b = { x: middle.x + across.x * half, y: middle.y + across.y * half };
    return legs.some(([p, q]) => segmentDistanceSquared(a, b, p, q) < radius * radius);
  };
}

function normalAt(spine: Spine, { segment, t }: SpinePlace): Point {
  const p = spine.points;
  const i = segment * SEGMENT;
  const at = (u: number) => ({
    x: cubicSlope(p[i], p[i + 3], p[i + 6], p[i + 9], u),
    y: cubicSlope(p[i + 1], p[i + 4], p[i + 7], p[i + 10], u),
  });
  let slope = at(t);
  if (Math.hypot(slope.x, slope.y) < 1e-9) slope = at(t < 0.5 ? 1e-3 : 1 - 1e-3);
  const speed = Math.hypot(slope.x, slope.y) || 1;
  return { x: -slope.y / speed, y: slope.x / speed };
}

/** The stretches that are not touched; nothing when the whole spine is not. */
function keptStretches(
  spine: Spine,
  touched: (place: SpinePlace) => boolean,
  radius: number,
): (readonly [SpinePlace, SpinePlace])[] | undefined {
  const stretches: (readonly [SpinePlace, SpinePlace])[] = [];
  let from: SpinePlace | undefined;
  let previous: SpinePlace | undefined;
  let wasTouched = false;
  let anyTouched = false;
  for (const place of probes(spine, radius)) {
    const isTouched = touched(place);
    anyTouched ||= isTouched;
    if (previous && isTouched !== wasTouched) {
      const edge = bisect(previous, place, touched);
      if (isTouched && from) stretches.push([from, edge]);
      from = isTouched ? undefined : edge;
    } else if (!previous && !isTouched) from = place;
    previous = place;
    wasTouched = isTouched;
  }
  if (!anyTouched) return undefined;
  if (from && previous) stretches.push([from, previous]);
  return stretches;
}

/** Places along the spine, close enough together that the rubber cannot slip between two. */
function* probes(spine: Spine, radius: number): Generator<SpinePlace> {
  const spacing = Math.max(0.25, radius / 4);
  yield { segment: 0, t: 0 };
  for (let segment = 0; segment < segmentCount(spine); segment++) {
    const piece = { points: spine.points.subarray(segment * SEGMENT, (segment + 1) * SEGMENT + 3), closed: false };
    const steps = Math.max(2, Math.ceil(polylineLength(flattenSpine(piece, 0.5)) / spacing));
    for (let k = 1; k <= steps; k++) yield { segment, t: k / steps };
  }
}

function polylineLength(line: Float64Array): number {
  let length = 0;
  for (let i = 3; i < line.length; i += 3) length += Math.hypot(line[i] - line[i - 3], line[i + 1] - line[i - 2]);
  return length;
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
