import { solved } from './meeting';
import type { Tied, Ends } from './tied';
import { sizeRatio } from './tied';
import { isAffine, affineOf, about, chain, distance, rotation, translation, type Matrix, type Point } from '../math';
import {
  courseOf,
  lengthOf,
  placeAlong,
  placeOf,
  pointAt,
  STRIDE,
  type Spine,
  mapPath,
  mapSpine,
  type GuidePath,
} from '../curve';
import { type StrokeEntity } from '../stroke';
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
  trackOf,
  planeShapeMove,
  wayOf,
  wayTo,
  shapeRow,
  frameChange,
} from '../guides';
import { carriedLines, dependents, planeLines } from './following';
import { guidedStrokes, isHandDrawn, withTwins, type StrokeEdit } from './guided';

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
  const strokes = guidedStrokes(page).filter(isHandDrawn);
  if (guide.shape.kind === 'frame' && shape.kind === 'frame') {
    const map = following === 'carried' ? frameChange(guide.shape, shape, page.size) : undefined;
    const { guides, lines } = dependents(page, { id: guide.id, before: guide.shape, after: shape, map }, strokes);
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
  return dependents(page, { id: guide.id, before: guide.shape, after: shape, map }, []).guides;
}

function aimedEdits(page: Page, guide: GuideEntity, shape: GuideShape): StrokeEdit[] {
  const strokes = guidedStrokes(page);
  const own = strokes.filter(
    (stroke) => stroke.guide?.id === guide.id && isHandDrawn(stroke) && obeys(stroke.guide.path, guide.shape),
  );
  if (own.length === 0) return [];
  const tied = own.map((stroke) => {
    const [before, after] = shapesFor(stroke, guide.shape, shape);
    return tie(stroke, after, carried(stroke, before, after), true);
  });
  const others = strokes.flatMap((stroke) => {
    if (!stroke.guide || stroke.guide.id === guide.id || !isHandDrawn(stroke)) return [];
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
    const at = (side: number): Point => ({
      x: middle.x + side * sign * half * path.dx,
      y: middle.y + side * sign * half * path.dy,
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

/** The edits that untie lines from their guides: they stay where they are when those move. */
export const releasedEdits = (strokes: readonly StrokeEntity[]): Edit[] =>
  strokes.flatMap((before) => {
    const { guide, ...after } = before;
    return guide ? [{ before, after }] : [];
  });
