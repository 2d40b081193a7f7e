import { SEGMENT, type Spine } from '../curve';
import { type Matrix3x3 } from '../math';
import {
  FRAME_WAYS,
  type FrameShape,
  type GuideEntity,
  type GuideShape,
  type PlaneShape,
  type VanishingPoint,
  besideOf,
  measureOf,
  placeBeside,
  type Beside,
  obeys,
  trackOf,
  carriedPlane,
  isOwnCourse,
  planeShapeMove,
  wayOf,
  wayTo,
  shapeRow,
} from '../guides';
import { ofKind, type Page, type PageSize } from '../page';
import type { EntityId } from '../kind';
import type { StrokeEntity } from '../stroke';
import { guidedStrokes, isHandDrawn } from './guided';
import { frameChange } from '../guides';
import type { Following } from './tether';

// Where thousands of lines would go with their guide, quickly enough for every move of a hand.

/**
 * Courses of many lines from node to node: how many nodes each has, none where it is not seen, and their x, y pairs one after
 * another, page px.
 */
export interface Courses {
  readonly counts: Uint32Array;
  readonly places: Float32Array;
}

/** The lines that are tethered to a guide, as plain numbers, so that a worker can say where they would go. */
export interface TetheredLines {
  /** The guide's shape that they obey. */
  readonly shape: GuideShape;
  readonly page: PageSize;
  readonly own: Courses;
  /** Of a frame, which of `FRAME_WAYS` each of its own lines runs in; -1 for none. */
  readonly ways: Int8Array;
  /** What is drawn round the plane shapes of a frame. */
  readonly planes: readonly { readonly shape: PlaneShape; readonly lines: Courses }[];
}

/** The lines that would go along with a guide: those that still obey it, and of symmetric sets the one that was drawn. */
export function tetheredLinesOf(page: Page, { id, shape }: GuideEntity): TetheredLines {
  const linesOn = (guideId: EntityId, holds: (stroke: StrokeEntity) => boolean) =>
    guidedStrokes(page).filter((stroke) => stroke.guide?.id === guideId && isHandDrawn(stroke) && holds(stroke));
  const wayIn = ({ guide }: StrokeEntity): number => {
    const way = shape.kind === 'frame' && guide ? wayOf(shape, guide.path) : undefined;
    return way ? FRAME_WAYS.indexOf(way) : -1;
  };
  const isHeld = ({ guide, spine }: StrokeEntity) =>
    guide !== undefined && (obeys(guide.path, shape) || (shape.kind === 'frame' && isOwnCourse(guide.path, spine)));
  const own = linesOn(id, isHeld);
  return {
    ...{ shape, page: page.size, own: nodesOf(own), ways: Int8Array.from(own, wayIn) },
    planes: ofKind(page, 'guide').flatMap((one) => {
      if (one.shape.kind !== 'plane' || one.shape.frame !== id) return [];
      const plane = one.shape;
      const lines = linesOn(one.id, ({ guide }) => guide !== undefined && obeys(guide.path, plane));
      return [{ shape: plane, lines: nodesOf(lines) }];
    }),
  };
}

/**
 * Where lines would go when the guide that they are tethered to becomes another: quick, true for straight lines, and before
 * their ends meet anew. Those that would come behind the viewer of a frame are not seen.
 */
export function coursesAfter(lines: TetheredLines, after: GuideShape, following: Following): Courses {
  const { shape, own } = lines;
  if (shape.kind === 'frame' && after.kind === 'frame') return afterFrame(lines, shape, after, following);
  const carriage = shapeRow(after).courses?.(shape, after);
  switch (carriage?.by) {
    case undefined:
      return own;
    case 'aim':
      return aimed(own, () => carriage.point);
    case 'course':
      return alongCourse(own, carriage.before, carriage.after);
    case 'map':
      return mapped(own, carriage.map);
  }
}

function afterFrame(
  { page, own, ways, planes }: TetheredLines,
  before: FrameShape,
  after: FrameShape,
  following: Following,
): Courses {
  const map = following === 'carried' ? frameChange(before, after, page) : undefined;
  return joined([
    map ? mapped(own, map) : aimed(own, (line) => (ways[line] < 0 ? undefined : after.points[FRAME_WAYS[ways[line]]])),
    ...planes.map(({ shape, lines }) => mapped(lines, planeShapeMove(shape, carriedPlane(shape, after, page, map)))),
  ]);
}

function nodesOf(strokes: readonly StrokeEntity[]): Courses {
  const counts = Uint32Array.from(strokes, ({ spine }) => Math.ceil(spine.points.length / SEGMENT));
  const places = new Float32Array(2 * counts.reduce((sum, count) => sum + count, 0));
  let at = 0;
  for (const { spine } of strokes)
    for (let i = 0; i < spine.points.length; i += SEGMENT) {
      places[at++] = spine.points[i];
      places[at++] = spine.points[i + 1];
    }
  return { counts, places };
}

function mapped({ counts, places }: Courses, [a, b, c, d, e, f, g, h, i]: Matrix3x3): Courses {
  const seen = new Uint32Array(counts.length);
  const to = new Float32Array(places.length);
  let from = 0;
  let at = 0;
  for (let line = 0; line < counts.length; line++) {
    const start = at;
    let isSeen = true;
    for (const end = from + 2 * counts[line]; from < end; from += 2) {
      const x = places[from];
      const y = places[from + 1];
      const w = g * x + h * y + i;
      isSeen &&= w > 0;
      to[at++] = (a * x + b * y + c) / w;
      to[at++] = (d * x + e * y + f) / w;
    }
    if (isSeen) seen[line] = counts[line];
    else at = start;
  }
  return { counts: seen, places: to.subarray(0, at) };
}

/** The chords of lines, turned about their middles towards the points that they run to. */
function aimed({ counts, places }: Courses, pointOf: (line: number) => VanishingPoint | undefined): Courses {
  const seen = new Uint32Array(counts.length);
  const to = new Float32Array(4 * counts.length);
  let from = 0;
  let at = 0;
  for (let line = 0; line < counts.length; line++) {
    const last = from + 2 * counts[line] - 2;
    const [ax, ay, bx, by] = [places[from], places[from + 1], places[last], places[last + 1]];
    from = last + 2;
    const point = pointOf(line);
    const middle = { x: (ax + bx) / 2, y: (ay + by) / 2 };
    const way = point && wayTo(point, middle);
    if (!way) continue;
    const half = Math.hypot(bx - ax, by - ay) / 2;
    seen[line] = 2;
    to[at++] = middle.x - half * way.x;
    to[at++] = middle.y - half * way.y;
    to[at++] = middle.x + half * way.x;
    to[at++] = middle.y + half * way.y;
  }
  return { counts: seen, places: to.subarray(0, at) };
}

/** Where the nodes of lines lie beside a course: looked for once, since it takes long and a drag asks at every event. */
const besides = new WeakMap<Courses, readonly Beside[]>();

function alongCourse(lines: Courses, before: Spine, after: Spine): Courses {
  const { counts, places } = lines;
  let known = besides.get(lines);
  if (!known) {
    const track = trackOf({ kind: 'curve', course: before });
    known = Array.from({ length: places.length / 2 }, (_, k) =>
      besideOf(track, { x: places[2 * k], y: places[2 * k + 1] }),
    );
    besides.set(lines, known);
  }
  const track = trackOf({ kind: 'curve', course: after });
  const share = measureOf(after) / (measureOf(before) || 1);
  const to = new Float32Array(places.length);
  known.forEach(({ at, off }, k) => {
    const { x, y } = placeBeside(track, { at: at * share, off });
    to[2 * k] = x;
    to[2 * k + 1] = y;
  });
  return { counts, places: to };
}

function joined(parts: readonly Courses[]): Courses {
  if (parts.length === 1) return parts[0];
  const sum = (of: (part: Courses) => number) => parts.reduce((total, part) => total + of(part), 0);
  const counts = new Uint32Array(sum((part) => part.counts.length));
  const places = new Float32Array(sum((part) => part.places.length));
  let [line, at] = [0, 0];
  for (const part of parts) {
    counts.set(part.counts, line);
    places.set(part.places, at);
    line += part.counts.length;
    at += part.places.length;
  }
  return { counts, places };
}
