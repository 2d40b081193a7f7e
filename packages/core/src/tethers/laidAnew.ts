import { type Tied, type Ends, sizeRatio } from './tied';
import { type StrokeEntity, isKeepable, mapEnds, plainEnds } from '../stroke';
import { distance, angleOf, chain, translation, scaling, rotation, apply, type Point, clamp } from '../math';
import {
  mapSpine,
  type GuidePath,
  flattenSpine,
  STRIDE,
  type Spine,
  courseOf,
  lengthOf,
  endOf,
  alongAt,
  pointAt,
  placeOf,
  placeAlong,
  weighedBy,
} from '../curve';
import { spineAlong, trackOf } from '../guides';
/** The share of a line's length over which it is judged how it widens at a place. */
const NEAR = 1e-3;

/**
 * The line between its new ends: a straight one turned and stretched as it is, a curved one cut anew from its path. It stays
 * where it is when it would have no length, or go farther than lines can be kept.
 */
export function laidAnew({ stroke, ends, path, shape }: Tied, [a, b]: Ends): StrokeEntity {
  if (distance(ends[0], a) < 1e-12 && distance(ends[1], b) < 1e-12) return stroke;
  const { guide, origin } = stroke;
  if (!guide) return stroke;
  const left = origin && { origin: { ...origin, left: 'edited' as const } };
  const long = distance(ends[0], ends[1]);
  if (path.kind === 'line') {
    const length = distance(a, b);
    if (Math.min(long, length) < 1e-9) return stroke;
    const turn =
      angleOf([b.x - a.x, b.y - a.y, 0, 0, 0, 0]) - angleOf([ends[1].x - ends[0].x, ends[1].y - ends[0].y, 0, 0, 0, 0]);
    const map = chain(
      translation(-ends[0].x, -ends[0].y),
      scaling(length / long),
      rotation(turn),
      translation(a.x, a.y),
    );
    const spine = mapSpine(stroke.spine, map);
    if (!isKeepable(spine)) return stroke;
    const along = { dx: (b.x - a.x) / length, dy: (b.y - a.y) / length };
    const straight: GuidePath = shape.kind === 'straightedge' ? path : { kind: 'line', ...a, ...along };
    const cuts = mapEnds(stroke.ends, (at) => apply(map, at));
    return { ...stroke, spine, ends: cuts, guide: { ...guide, path: straight }, ...left };
  }
  const [from, to] = measuresOn(path, stroke, a, b);
  const spine = weighedAs(stroke.spine, spineAlong(path, from, to));
  return { ...stroke, spine, ends: plainEnds(stroke.ends), guide: { ...guide, path }, ...left };
}

/** The measures of new ends on a closed or open path, going the way and the turns that the line went. */
function measuresOn(path: GuidePath, stroke: StrokeEntity, a: Point, b: Point): readonly [number, number] {
  const track = trackOf(path);
  const from = track.nearest(a);
  const old = stroke.guide?.path ?? path;
  const before = trackOf(old);
  const flat = flattenSpine(stroke.spine, 0.25);
  let [first, last] = [NaN, NaN];
  for (let i = 0; i < flat.length; i += STRIDE) {
    last = before.nearest({ x: flat[i], y: flat[i + 1] }, Number.isNaN(last) ? undefined : last);
    if (Number.isNaN(first)) first = last;
  }
  return [from, track.nearest(b, from + (last - first) * sizeRatio(old, path))];
}

/** A course with the weights of another, taken at the same share of the way, between nodes where that has its own. */
function weighedAs(old: Spine, course: Spine): Spine {
  const [from, to] = [courseOf(old), courseOf(course)];
  const [whole, total] = [lengthOf(from) || 1, lengthOf(to) || 1];
  const marks = Array.from({ length: endOf(old) - 1 }, (_, k) => (alongAt(from, k + 1) / whole) * total);
  const widthAt = (along: number): number =>
    pointAt(old, placeOf(old, placeAlong(from, (clamp(along, 0, total) / total) * whole))).width;
  const near = total * NEAR;
  const wideningAt = (along: number): number => {
    const [before, after] = [Math.max(0, along - near), Math.min(total, along + near)];
    return (widthAt(after) - widthAt(before)) / (after - before);
  };
  return weighedBy(course, marks, { widthAt, wideningAt });
}
