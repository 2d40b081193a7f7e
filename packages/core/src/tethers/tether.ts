import {
  isAffine,
  affineOf,
  about,
  angleOf,
  apply,
  chain,
  clamp,
  distance,
  rotation,
  scaling,
  translation,
  type Matrix,
  type Point,
} from '../math';
import {
  alongAt,
  courseOf,
  endOf,
  flattenSpine,
  lengthOf,
  placeAlong,
  placeOf,
  pointAt,
  STRIDE,
  weighedBy,
  type Spine,
  mapPath,
  mapSpine,
  type GuidePath,
} from '../curve';
import { isKeepable, mapEnds, plainEnds, type StrokeEntity } from '../stroke';
import { draftChange, find, type Change, type Edit, type Page } from '../page';
import { PageError } from '../gate';
import type { EntityId } from '../kind';
import {
  type GuideEntity,
  type GuideShape,
  type RailsShape,
  type RaysShape,
  type VanishingPoint,
  besideOf,
  measureOf,
  placeBeside,
  echoThrough,
  obeys,
  project,
  spineAlong,
  trackOf,
  planeShapeMove,
  wayOf,
  wayTo,
  shapeRow,
  frameChange,
} from '../guides';
import { carriedLines, dependents, planeLines } from './following';
import { guidedStrokes, isDrawn, withTwins, type StrokeEdit } from './guided';

/** Ends closer than this, page px, have met. */
const MET = 0.5;
const ROUNDS = 3_000;
const CLOSE = 1e-10;
/** The share of a line's length over which it is judged how it widens at a place. */
const NEAR = 1e-3;

type Ends = readonly [Point, Point];

/** A tethered line while its new ends are looked for. */
interface Tied {
  readonly stroke: StrokeEntity;
  readonly ends: Ends;
  /** The guide's shape that it obeys from now on. */
  readonly shape: GuideShape;
  /** Its path after the move, where no neighbour pulls at it. */
  readonly path: GuidePath;
  /** Its ends after the move, where no neighbour pulls at it. */
  readonly moved: Ends;
  readonly isMoved: boolean;
}

/**
 * The change that gives a guide another shape, of the same kind, with the lines that are tethered to it: lines on rails turn
 * about their own middles, lines on rays aim at the point anew, lines on ripples, edges and curves are carried along. Ends of
 * tethered lines that met within 0.5 px still meet. What is tethered to a perspective frame is carried by its camera, or aimed
 * anew; plane shapes, and straightedges aimed at its points, go along in any case. Throws a PageError when there is no such guide, or when it is locked.
 */
export function moveGuide(
  page: Page,
  guideId: EntityId,
  shape: GuideShape,
  label = 'Move the guide',
  following: Following = 'carried',
): Change {
  const guide = checkMove(page, guideId, shape);
  return draftChange(label, [
    { before: guide, after: { ...guide, shape } },
    ...tetheredEdits(page, guide, shape, following),
  ]);
}

/** The guide that is to get another shape. Throws a PageError when it is gone, locked, or of another kind. */
export function checkMove(page: Page, guideId: EntityId, shape: GuideShape): GuideEntity {
  const guide = find(page, 'guide', guideId);
  if (!guide) throw new PageError('This guide is no longer on the page.');
  if (guide.locked) throw new PageError(`${guide.name} is locked.`);
  if (guide.shape.kind !== shape.kind) throw new PageError('A guide stays of its kind.');
  return guide;
}

/** How what is tethered to a frame follows it: as the camera sees it, or straight lines aimed at the points about their middles. */
export type Following = 'carried' | 'aimed';

/** What moving a guide does to the lines that are tethered to it, and to the guides that hang on it. */
export function tetheredEdits(
  page: Page,
  guide: GuideEntity,
  shape: GuideShape,
  following: Following = 'carried',
): Edit[] {
  const strokes = guidedStrokes(page).filter(isDrawn);
  if (guide.shape.kind === 'frame' && shape.kind === 'frame') {
    const map = following === 'carried' ? frameChange(guide.shape, shape, page.size) : undefined;
    const { guides, lines } = dependents(page, guide, guide.shape, shape, map, strokes);
    if (!guide.tethers) return guides;
    const aimed = map ? carriedLines(guide, guide.shape, shape, map, strokes) : aimedEdits(page, guide, shape);
    return [...guides, ...withTwins(page, [...aimed, ...lines])];
  }
  if (!guide.tethers) return [];
  if (guide.shape.kind === 'plane' && shape.kind === 'plane')
    return withTwins(page, planeLines(guide.id, guide.shape, shape, planeShapeMove(guide.shape, shape), strokes));
  return withTwins(page, aimedEdits(page, guide, shape));
}

/** The guides alone that hang on a frame and go where it goes. */
export function hangingEdits(page: Page, guide: GuideEntity, shape: GuideShape, following: Following): Edit[] {
  if (guide.shape.kind !== 'frame' || shape.kind !== 'frame') return [];
  const map = following === 'carried' ? frameChange(guide.shape, shape, page.size) : undefined;
  return dependents(page, guide, guide.shape, shape, map, []).guides;
}

function aimedEdits(page: Page, guide: GuideEntity, shape: GuideShape): StrokeEdit[] {
  const strokes = guidedStrokes(page);
  const own = strokes.filter(
    (stroke) => stroke.guide?.id === guide.id && isDrawn(stroke) && obeys(stroke.guide.path, guide.shape),
  );
  if (own.length === 0) return [];
  const tied = own.map((stroke) => {
    const [before, after] = shapesFor(stroke, guide.shape, shape);
    return tie(stroke, after, carried(stroke, before, after), true);
  });
  const others = strokes.flatMap((stroke) => {
    if (!stroke.guide || stroke.guide.id === guide.id || !isDrawn(stroke)) return [];
    const theirs = find(page, 'guide', stroke.guide.id);
    if (!theirs?.tethers || !obeys(stroke.guide.path, theirs.shape)) return [];
    return [tie(stroke, shapesFor(stroke, theirs.shape, theirs.shape)[1], stroke.guide.path, false)];
  });
  const after = solved([...tied, ...others]);
  return after.map(({ before, stroke }) => ({ before, after: stroke }));
}

/** The shapes that a line obeys before and after: of a frame the one direction of it that the line runs in, as rays or rails. */
function shapesFor({ guide }: StrokeEntity, before: GuideShape, after: GuideShape): readonly [GuideShape, GuideShape] {
  if (before.kind !== 'frame' || after.kind !== 'frame' || !guide) return [before, after];
  const way = wayOf(before, guide.path);
  return way ? [fieldTo(before.points[way]), fieldTo(after.points[way])] : [before, after];
}

const fieldTo = ([x, y, w]: VanishingPoint): GuideShape =>
  w === 1 ? { kind: 'rays', x, y } : { kind: 'rails', x: 0, y: 0, angle: Math.atan2(y, x) };

const tie = (stroke: StrokeEntity, shape: GuideShape, path: GuidePath, isMoved: boolean): Tied => {
  const ends = endsOf(stroke.spine);
  const moved = isMoved ? carriedEnds(stroke, path) : ends;
  return { stroke, ends, shape, path, moved, isMoved };
};

function endsOf({ points }: Spine): Ends {
  const last = points.length - STRIDE;
  return [
    { x: points[0], y: points[1] },
    { x: points[last], y: points[last + 1] },
  ];
}

/** The path of a line after its guide was moved, before its neighbours are heard. */
function carried(stroke: StrokeEntity, before: GuideShape, after: GuideShape): GuidePath {
  const path = stroke.guide?.path;
  if (!path) throw new RangeError('Only lines with a path can be carried.');
  const [a, b] = endsOf(stroke.spine);
  const middle = { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 };
  if (
    path.kind === 'line' &&
    (before.kind === 'rails') !== (after.kind === 'rails') &&
    isPointed(before) &&
    isPointed(after)
  ) {
    // A point that came from infinity, or went there.
    const to: VanishingPoint =
      after.kind === 'rails' ? [Math.cos(after.angle), Math.sin(after.angle), 0] : [after.x, after.y, 1];
    const way = wayTo(to, middle);
    if (!way) return path;
    const sign = way.x * path.dx + way.y * path.dy < 0 ? -1 : 1;
    return { kind: 'line', ...middle, dx: sign * way.x, dy: sign * way.y };
  }
  if (before.kind === 'rails' && after.kind === 'rails' && path.kind === 'line')
    return mapPath(path, about(middle, rotation(after.angle - before.angle)));
  if (before.kind === 'rays' && after.kind === 'rays' && path.kind === 'line') {
    const away = distance(after, middle);
    if (away < 1e-6) return path;
    const sign = (middle.x - after.x) * path.dx + (middle.y - after.y) * path.dy < 0 ? -1 : 1;
    return {
      kind: 'line',
      ...middle,
      dx: (sign * (middle.x - after.x)) / away,
      dy: (sign * (middle.y - after.y)) / away,
    };
  }
  if (after.kind === 'batten' && path.kind === 'curve') return { kind: 'curve', course: after.course };
  if (before.kind === 'echo' && after.kind === 'echo') {
    const map = similarity(before.course, after.course);
    if (map) return mapPath(path, map);
    // On the line itself: the middle between its ends lies on another echo where it bends.
    const line = courseOf(stroke.spine);
    const half = pointAt(stroke.spine, placeOf(stroke.spine, placeAlong(line, lengthOf(line) / 2)));
    const { at, off } = besideOf(trackOf({ kind: 'curve', course: before.course }), half);
    const share = measureOf(after.course) / (measureOf(before.course) || 1);
    const track = trackOf({ kind: 'curve', course: after.course });
    const course = echoThrough(after.course, placeBeside(track, { at: at * share, off }));
    return course ? { kind: 'curve', course } : path;
  }
  const carriage = shapeRow(after).courses?.(before, after);
  return carriage?.by === 'map' && isAffine(carriage.map) ? mapPath(path, affineOf(carriage.map)) : path;
}

const isPointed = (shape: GuideShape): shape is RailsShape | RaysShape =>
  shape.kind === 'rails' || shape.kind === 'rays';

/** The map that moved, turned and scaled a course as a whole, where one did. */
function similarity(before: Spine, after: Spine): Matrix | undefined {
  const [p, q] = [before.points, after.points];
  if (p.length !== q.length) return undefined;
  const [a, b] = endsOf(before);
  const [c, d] = endsOf(after);
  const [x, y, u, v] = [b.x - a.x, b.y - a.y, d.x - c.x, d.y - c.y];
  const square = x * x + y * y;
  if (square < 1e-12) return undefined;
  const [cos, sin] = [(x * u + y * v) / square, (x * v - y * u) / square];
  const map = chain(translation(-a.x, -a.y), [cos, sin, -sin, cos, 0, 0], translation(c.x, c.y));
  const image = mapSpine(before, map).points;
  return image.every((value, k) => k % STRIDE === 2 || Math.abs(value - q[k]) < 1e-6) ? map : undefined;
}

/** Where the ends of a line come to lie on its carried path, before its neighbours are heard. */
function carriedEnds(stroke: StrokeEntity, path: GuidePath): Ends {
  const old = stroke.guide?.path;
  const [a, b] = endsOf(stroke.spine);
  if (!old) return [a, b];
  if (path.kind === 'line' && old.kind === 'line') {
    const half = distance(a, b) / 2;
    const sign = (b.x - a.x) * old.dx + (b.y - a.y) * old.dy < 0 ? -1 : 1;
    const middle = project(path, { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 });
    const at = (way: number): Point => ({
      x: middle.x + way * sign * half * path.dx,
      y: middle.y + way * sign * half * path.dy,
    });
    return isCarriedWhole(old, path, middle) ? [at(-1), at(1)] : [alongTo(old, path, a), alongTo(old, path, b)];
  }
  return [alongTo(old, path, a), alongTo(old, path, b)];
}

/** Whether the middle stayed where it was: rails and rays turn lines about it. */
const isCarriedWhole = (old: GuidePath, path: GuidePath, middle: Point): boolean =>
  project(old, middle).distance < 1e-6 && path.kind === 'line' && path.from === undefined;

/** The place of the new path at the measure that `p` has on the old one, as a share of their sizes. */
function alongTo(old: GuidePath, path: GuidePath, p: Point): Point {
  const { at } = project(old, p);
  return trackOf(path).place(at * sizeRatio(old, path));
}

function sizeRatio(old: GuidePath, path: GuidePath): number {
  if (old.kind === 'ellipse' && path.kind === 'ellipse') return Math.max(path.rx, path.ry) / Math.max(old.rx, old.ry);
  if (old.kind === 'curve' && path.kind === 'curve') return measureOf(path.course) / (measureOf(old.course) || 1);
  if (old.kind === 'line' && path.kind === 'line' && old.to && path.to) return path.to / old.to;
  return 1;
}

/**
 * All lines with their new ends: ends that met are drawn to their common middle, lines are brought back to what their guide
 * allows, over and over until both hold. Lines that nothing pulls at stay the very same.
 */
function solved(lines: readonly Tied[]): { readonly before: StrokeEntity; readonly stroke: StrokeEntity }[] {
  const clusters = meetings(lines);
  const places = lines.map(({ moved }) => [...moved]);
  const reached = reachedFrom(lines, clusters);
  for (let round = 0; round < ROUNDS && clusters.length > 0; round++) {
    let gap = 0;
    for (const cluster of clusters) {
      if (!cluster.some(([line]) => reached.has(line))) continue;
      const x = cluster.reduce((sum, [line, end]) => sum + places[line][end].x, 0) / cluster.length;
      const y = cluster.reduce((sum, [line, end]) => sum + places[line][end].y, 0) / cluster.length;
      for (const [line, end] of cluster) {
        gap = Math.max(gap, distance(places[line][end], { x, y }));
        places[line][end] = { x, y };
      }
    }
    lines.forEach((line, k) => {
      if (reached.has(k)) places[k] = obedient(line, [places[k][0], places[k][1]]);
    });
    if (gap < CLOSE) break;
  }
  return lines.map((line, k) => ({
    before: line.stroke,
    stroke: reached.has(k) ? laidAnew(line, [places[k][0], places[k][1]]) : line.stroke,
  }));
}

type EndOf = readonly [line: number, end: 0 | 1];

/** Ends that met before the move, by groups of two and more. */
function meetings(lines: readonly Tied[]): EndOf[][] {
  const all = lines.flatMap(({ ends }, k): { at: Point; of: EndOf }[] => [
    { at: ends[0], of: [k, 0] },
    { at: ends[1], of: [k, 1] },
  ]);
  const groups: { at: Point; of: EndOf[] }[] = [];
  // By squares as wide as the tolerance: what has met lies in the same or the next one.
  const squares = new Map<string, (typeof groups)[number][]>();
  const square = (value: number) => Math.floor(value / MET);
  for (const { at, of } of all) {
    const [column, row] = [square(at.x), square(at.y)];
    const near = [-1, 0, 1].flatMap((i) => [-1, 0, 1].flatMap((j) => squares.get(`${column + i},${row + j}`) ?? []));
    const group = near.find((one) => distance(one.at, at) <= MET);
    if (group) {
      group.of.push(of);
      continue;
    }
    const fresh = { at, of: [of] };
    groups.push(fresh);
    const key = `${column},${row}`;
    squares.set(key, [...(squares.get(key) ?? []), fresh]);
  }
  return groups.flatMap(({ of }) => (of.length > 1 ? [of] : []));
}

/** Lines that were moved themselves or hang together with one that was. */
function reachedFrom(lines: readonly Tied[], clusters: readonly EndOf[][]): Set<number> {
  const reached = new Set(lines.flatMap(({ isMoved }, k) => (isMoved ? [k] : [])));
  for (let size = -1; size !== reached.size;) {
    size = reached.size;
    for (const cluster of clusters)
      if (cluster.some(([line]) => reached.has(line))) for (const [line] of cluster) reached.add(line);
  }
  return reached;
}

/** The ends nearest to those asked for that the line's guide allows. */
function obedient({ shape, path }: Tied, [a, b]: Ends): Point[] {
  if (shape.kind === 'rails') return onLine({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 }, shape.angle, a, b);
  if (shape.kind === 'rays') {
    // The direction through the point that both ends lie closest to: the main axis of their moments.
    const [xx, yy, xy] = [a, b].reduce(
      ([u, v, w], p) => [u + (p.x - shape.x) ** 2, v + (p.y - shape.y) ** 2, w + (p.x - shape.x) * (p.y - shape.y)],
      [0, 0, 0],
    );
    return onLine(shape, 0.5 * Math.atan2(2 * xy, xx - yy), a, b);
  }
  return [a, b].map((p) => {
    const { x, y } = project(path, p);
    return { x, y };
  });
}

function onLine(on: Point, angle: number, ...points: readonly Point[]): Point[] {
  const [dx, dy] = [Math.cos(angle), Math.sin(angle)];
  return points.map(({ x, y }) => {
    const along = (x - on.x) * dx + (y - on.y) * dy;
    return { x: on.x + along * dx, y: on.y + along * dy };
  });
}

/**
 * The line between its new ends: a straight one turned and stretched as it is, a curved one cut anew from its path. It stays
 * where it is when it would have no length, or go farther than lines can be kept.
 */
function laidAnew({ stroke, ends, path, shape }: Tied, [a, b]: Ends): StrokeEntity {
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

/** The edits that untie lines from their guides: they stay where they are when those move. */
export const releasedEdits = (strokes: readonly StrokeEntity[]): Edit[] =>
  strokes.flatMap((before) => {
    const { guide, ...after } = before;
    return guide ? [{ before, after }] : [];
  });
