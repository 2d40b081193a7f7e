import { applyProjective, depthAt, type Matrix3x3 } from '../math';
import { ofKind, type Edit, type Page } from '../page';
import type { EntityId } from '../kind';
import {
  type FrameShape,
  type GuideEntity,
  type PlaneShape,
  carriedPlane,
  carriedStroke,
  isOwnCourse,
  pathTowards,
  planeShapeMove,
  ringAfter,
  wayOf,
  PLANE_WAYS,
  aimedAt,
} from '../guides';
import type { StrokeEntity } from '../stroke';
import { frameChange } from '../guides';
import type { StrokeEdit } from './guided';

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

/** A frame that became another; `map` takes what was drawn along as the camera sees it, where that is asked. */
export interface FrameChanged {
  readonly id: EntityId;
  readonly before: FrameShape;
  readonly after: FrameShape;
  readonly map: Matrix3x3 | undefined;
}

/** The guides that hang on a frame after it became another, and the lines that lie on them. */
export function dependents(
  page: Page,
  { id, before, after, map }: FrameChanged,
  strokes: readonly StrokeEntity[],
): { readonly guides: Edit[]; readonly lines: StrokeEdit[] } {
  const guides: Edit[] = [];
  const lines: StrokeEdit[] = [];
  const moved = map ?? frameChange(before, after, page.size);
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
