import { spineBox, SEGMENT, STRIDE, type Spine } from '@true-nib/core/curve';
import { outlineOf, type Stroke } from '@true-nib/core/ink';
import { boxArea, boxesMeet, emptyBox, scaleOf, uniteBoxes, type Box, type Matrix } from '@true-nib/core/math';
import { sameValue, type StrokeEntity } from '@true-nib/core/page';

/** What both a window's and a worker's 2D context can do. */
export type Context2D = CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D;

/** Device px that an outline may stray by: a part that nobody sees, and, where the page is shown small, a little more. */
const STRAY = { large: 0.09, small: 0.25 } as const;

/**
 * How far an outline may stray at a scale (device px per page px), page px: in steps of two, so that outlines are shared
 * between near scales.
 */
export const paintTolerance = (scale: number): number =>
  (scale < 1 ? STRAY.small : STRAY.large) / 2 ** Math.ceil(Math.log2(Math.min(64, Math.max(1 / 64, scale))));

interface KeptPath {
  readonly tolerance: number;
  readonly ends: Stroke['ends'];
  readonly shape: string;
  readonly path: Path2D;
}

/** What an outline owes to the nib beside course and ends, in short. */
const shapeOf = ({ nib: { tip, edge }, grain, fills }: Stroke): string =>
  tip || edge || fills ? JSON.stringify([tip, edge, grain, fills]) : '';

type KeptPaths = WeakMap<Spine, KeptPath>;
const paths: KeptPaths = new WeakMap();
const smallPaths: KeptPaths = new WeakMap();

/** Where a stroke's outline as a path comes from. It goes by course, ends and tip: colour is no matter. */
export type PathSource = (stroke: Stroke, tolerance: number) => Path2D;

/** The outline that strays by no more and no less; the one last asked for is kept. */
export const pathOf: PathSource = (stroke, tolerance) => {
  const known = knownPath(paths, stroke);
  return known?.tolerance === tolerance ? known.path : keptPath(paths, stroke, tolerance);
};

/**
 * An outline that strays by no more, for small pictures beside the board: whatever the board keeps will do, and what must be
 * made for them takes nothing of that away. Else both would be made anew after every line.
 */
export const smallPathOf: PathSource = (stroke, tolerance) => {
  for (const kept of [paths, smallPaths]) {
    const known = knownPath(kept, stroke);
    if (known && known.tolerance <= tolerance) return known.path;
  }
  return keptPath(smallPaths, stroke, tolerance);
};

function knownPath(kept: KeptPaths, stroke: Stroke): KeptPath | undefined {
  const known = kept.get(stroke.spine);
  return known && known.ends === stroke.ends && known.shape === shapeOf(stroke) ? known : undefined;
}

function keptPath(kept: KeptPaths, stroke: Stroke, tolerance: number): Path2D {
  const path = new Path2D();
  traceRings(path, outlineOf(stroke, tolerance).rings);
  kept.set(stroke.spine, { tolerance, ends: stroke.ends, shape: shapeOf(stroke), path });
  return path;
}

/** Page px to a point so far off that it makes any path wide. */
const FAR = 1e5;

/**
 * Adds closed polygons of x, y pairs to a path. The empty contour far away keeps the rasteriser on one way of counting
 * coverage: it takes a coarser one for paths with many points to their width, and a line would look different in parts,
 * while it is drawn, than whole (seen in Chromium's software canvas: up to 36/255 without, 3 with it).
 */
export function traceRings(path: Path2D | Context2D, rings: readonly Float64Array[]): void {
  for (const points of rings) {
    path.moveTo(points[0], points[1]);
    for (let i = 2; i < points.length; i += 2) path.lineTo(points[i], points[i + 1]);
    path.closePath();
  }
  if (rings.length === 0) return;
  const [x, y] = rings[0];
  path.moveTo(x - FAR, y - FAR);
  path.lineTo(x - FAR, y - FAR);
  path.closePath();
}

const boxes = new WeakMap<Spine, Box>();

export function strokeBox({ spine }: Stroke): Box {
  let box = boxes.get(spine);
  if (!box) boxes.set(spine, (box = spineBox(spine)));
  return box;
}

/** Paints strokes, lowest first, under the map from page px to device px; one path each, never batched. */
export function paintStrokes(context: Context2D, strokes: Iterable<Stroke>, map: Matrix, pathFor = pathOf): void {
  const tolerance = paintTolerance(scaleOf(map));
  context.setTransform(...map);
  const laying = context.globalCompositeOperation;
  for (const stroke of strokes) {
    context.globalCompositeOperation = stroke.nib.lays === 'clearing' ? 'destination-out' : laying;
    context.fillStyle = stroke.nib.color;
    context.globalAlpha = stroke.nib.opacity ?? 1;
    context.fill(pathFor(stroke, tolerance));
  }
  context.globalAlpha = 1;
  context.globalCompositeOperation = laying;
}

/** Small boxes that together hold all of a stroke's ink, so that a long stroke does not dirty the page. */
export function inkBoxes(stroke: Stroke, segmentsEach = 4): Box[] {
  const { points } = stroke.spine;
  const pieces: Box[] = [];
  for (let i = 0; i + SEGMENT < points.length; i += SEGMENT * segmentsEach)
    pieces.push(spineBox({ points: points.subarray(i, i + SEGMENT * segmentsEach + 3), closed: false }));
  return merged(pieces);
}

/**
 * Small boxes that together hold all of the ink in which a stroke differs from what it was, if it was there: cubics at either
 * end of it that stayed as they were are left out.
 */
export function changedBoxes(before: StrokeEntity | undefined, after: StrokeEntity | undefined): Box[] {
  if (!before || !after || !isLocal(before, after))
    return [before, after].flatMap((stroke) => (stroke ? inkBoxes(stroke) : []));
  const [p, q] = [before.spine.points, after.spine.points];
  const most = Math.min(p.length, q.length) - SEGMENT - STRIDE;
  let head = 0;
  while (head < most && p[head] === q[head]) head++;
  let tail = 0;
  while (tail < most - head && p[p.length - 1 - tail] === q[q.length - 1 - tail]) tail++;
  const [from, left] = [head - (head % SEGMENT), tail - (tail % SEGMENT)];
  const part = (stroke: StrokeEntity): StrokeEntity => {
    const points = stroke.spine.points.subarray(from, stroke.spine.points.length - left);
    return { ...stroke, spine: { points, closed: false } };
  };
  return [...inkBoxes(part(before)), ...inkBoxes(part(after))];
}

/** Whether two strokes look the same wherever their courses are: neither stands elsewhere, and no grain goes on along them. */
const isLocal = (before: StrokeEntity, after: StrokeEntity): boolean =>
  !before.spine.closed &&
  !after.spine.closed &&
  !before.fills &&
  !before.nib.edge &&
  before.layerId === after.layerId &&
  before.order === after.order &&
  sameValue(before.nib, after.nib) &&
  sameValue(before.ends, after.ends);

/** Joins neighbouring boxes while the joint box is not much larger than the two. */
function merged(pieces: readonly Box[]): Box[] {
  const result: Box[] = [];
  let current: Box = emptyBox;
  for (const piece of pieces) {
    const joint = uniteBoxes(current, piece);
    if (current === emptyBox) current = piece;
    else if (boxesMeet(current, piece) && boxArea(joint) <= 1.5 * (boxArea(current) + boxArea(piece))) current = joint;
    else {
      result.push(current);
      current = piece;
    }
  }
  if (current !== emptyBox) result.push(current);
  return result;
}
