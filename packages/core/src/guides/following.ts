import { SEGMENT } from '../curve';
import { applyProjective, depthAt, type Matrix3x3, type Point } from '../math';
import {
  ofKind,
  type Edit,
  type EntityId,
  type FrameShape,
  type FrameWay,
  type GuideEntity,
  type GuideShape,
  type Page,
  type PlaneShape,
  type StrokeEntity,
} from '../page';
import {
  carriedPlane,
  carriedStroke,
  frameMap,
  isOwnCourse,
  pathTowards,
  planeShapeMove,
  ringAfter,
  wayOf,
} from './perspective/carry';
import { PLANE_WAYS, wayTo } from './perspective/frame';
import { guidedStrokes, type StrokeEdit } from './guided';
import { aimedAt } from './placement';

// What hangs on a perspective frame and goes where it goes.

/** Lines of a frame carried by its camera. */
export const carriedLines = (
  { id }: GuideEntity,
  before: FrameShape,
  after: FrameShape,
  map: Matrix3x3,
  strokes: readonly StrokeEntity[],
): StrokeEdit[] =>
  strokes.flatMap((stroke) => {
    if (stroke.guide?.id !== id) return [];
    const way = wayOf(before, stroke.guide.path);
    if (way) return [{ before: stroke, after: carriedStroke(stroke, map, (at) => pathTowards(after, way, at)) }];
    if (!isOwnCourse(stroke.guide.path, stroke.spine)) return [];
    return [{ before: stroke, after: carriedStroke(stroke, map, (_at, course) => ({ kind: 'curve', course })) }];
  });

/** Lines round a plane shape carried along with it. */
export const planeLines = (
  id: EntityId,
  before: PlaneShape,
  after: PlaneShape,
  map: Matrix3x3,
  strokes: readonly StrokeEntity[],
): StrokeEdit[] =>
  strokes.flatMap((stroke) => {
    const { guide } = stroke;
    if (guide?.id !== id) return [];
    const path = ringAfter(guide.path, before, after);
    return path ? [{ before: stroke, after: carriedStroke(stroke, map, () => path) }] : [];
  });

/** Lines whose ways are shown while a frame is dragged: of more only a spread, so that the hand is not held up. */
const MOST_SHOWN = 600;

/**
 * Where the lines of a frame would go when it becomes another, from node to node: quick, and true for straight lines alone.
 * Of thousands it answers a spread.
 */
export function roughlyTethered(
  page: Page,
  guide: GuideEntity,
  shape: GuideShape,
  following: 'carried' | 'aimed',
): Point[][] {
  const before = guide.shape;
  if (before.kind !== 'frame' || shape.kind !== 'frame') return [];
  const map = following === 'carried' ? frameMap(before, shape, page.size) : undefined;
  const own = guidedStrokes(page).filter((stroke) => stroke.guide?.id === guide.id);
  const step = Math.max(1, Math.ceil(own.length / MOST_SHOWN));
  const ways: Point[][] = [];
  for (let k = 0; k < own.length; k += step) {
    const { points } = own[k].spine;
    const path = own[k].guide?.path;
    const way = map ? mappedNodes(points, map) : path && aimedChord(points, wayOf(before, path), shape);
    if (way) ways.push(way);
  }
  return ways;
}

/** The nodes of a course under a map; nothing where one would lie behind the viewer. */
function mappedNodes(points: Float64Array, map: Matrix3x3): Point[] | undefined {
  const nodes: Point[] = [];
  for (let i = 0; i < points.length; i += SEGMENT) {
    if (!(depthAt(map, points[i], points[i + 1]) > 0)) return undefined;
    nodes.push(applyProjective(map, points[i], points[i + 1]));
  }
  return nodes;
}

/** The chord of a course, turned about its middle towards a point of a frame. */
function aimedChord(
  points: Float64Array,
  way: FrameWay | undefined,
  { points: ways }: FrameShape,
): Point[] | undefined {
  const [ax, ay, bx, by] = [points[0], points[1], points[points.length - 3], points[points.length - 2]];
  const middle = { x: (ax + bx) / 2, y: (ay + by) / 2 };
  const line = way && wayTo(ways[way], middle);
  if (!line) return undefined;
  const half = Math.hypot(bx - ax, by - ay) / 2;
  return [-half, half].map((along) => ({ x: middle.x + along * line.x, y: middle.y + along * line.y }));
}

/** The guides that hang on a frame after it became another, and the lines that lie on them. */
export function dependents(
  page: Page,
  { id }: GuideEntity,
  before: FrameShape,
  after: FrameShape,
  map: Matrix3x3 | undefined,
  strokes: readonly StrokeEntity[],
): { readonly guides: Edit[]; readonly lines: StrokeEdit[] } {
  const guides: Edit[] = [];
  const lines: StrokeEdit[] = [];
  const moved = map ?? frameMap(before, after, page.size);
  for (const guide of ofKind(page, 'guide')) {
    const { shape } = guide;
    if (shape.kind === 'plane' && shape.frame === id) {
      const own = carriedPlane(shape, after, page.size, map);
      guides.push({ before: guide, after: { ...guide, shape: own } });
      lines.push(...planeLines(guide.id, shape, own, planeShapeMove(shape, own), strokes));
    } else if (shape.kind === 'fold' && shape.frame === id) {
      const [a, b] = PLANE_WAYS[shape.plane];
      const isSeen = moved && depthAt(moved, shape.x, shape.y) > 0;
      const at = isSeen ? applyProjective(moved, shape.x, shape.y) : { x: shape.x, y: shape.y };
      const ways = { across: after.points[a], along: after.points[b] };
      guides.push({ before: guide, after: { ...guide, shape: { ...shape, ...at, ...ways } } });
    } else if (shape.kind === 'straightedge' && shape.aim?.frame === id && shape.aim.way) {
      const aim = { ...shape.aim, point: after.points[shape.aim.way] };
      guides.push({ before: guide, after: { ...guide, shape: aimedAt({ ...shape, aim }, aim.point) } });
    }
  }
  return { guides, lines };
}
