import { apply, distance, footOnLine, invert, type Matrix, type Point } from '../../math';
import { FRAME_WAYS, type FrameShape, type FrameWay, type VanishingPoint } from '../guide';
import { cameraOf, isCamera } from './camera';
import { horizonOf, isFinitePoint, pointCount, vanishingPoint, type Extent } from './frame';
import { moveHorizon, movePoint, spreadPoints } from './move';

/** What a hand takes hold of on a frame. */
export type PointGrip =
  | { readonly part: 'point'; readonly way: FrameWay }
  | { readonly part: 'horizon' | 'tilt' | 'eye' | 'corner-of-planes' };

export interface PointGripPlace {
  readonly grip: PointGrip;
  readonly at: Point;
  /** How far off the point itself lies, page px, where its grip waits at the edge of the board; infinite for a point that is. */
  readonly off?: number;
}

/** What of the page is seen: the map from page px to CSS px, and the board in CSS px. */
export interface Seen {
  readonly page: Extent;
  readonly view: Matrix;
  readonly board: Extent;
}

/** CSS px from the edge of the board at which grips of far points wait. */
const EDGE = 40;
const STEP = Math.PI / 12;

/** The grips of a frame; those of points that are not in sight wait at the edge of the board. */
export function pointGrips(frame: FrameShape, seen: Seen): PointGripPlace[] {
  const grips: PointGripPlace[] = FRAME_WAYS.map((way) => ({
    grip: { part: 'point', way },
    ...pointGrip(frame, way, seen),
  }));
  const horizon = horizonOf(frame, seen.page);
  if (horizon) {
    const aside = asideOn(seen);
    grips.push({ grip: { part: 'horizon' }, at: onHorizon(horizon, seen, -aside) });
    grips.push({ grip: { part: 'tilt' }, at: onHorizon(horizon, seen, aside) });
  }
  const camera = cameraOf(frame, seen.page);
  if (isCamera(camera) && pointCount(frame) === 2) grips.push({ grip: { part: 'eye' }, at: camera.centre });
  grips.push({ grip: { part: 'corner-of-planes' }, at: frame.corner });
  return grips;
}

/**
 * CSS px from the middle of the board, along the horizon, to its grip on the one side and the one that tilts it on the other:
 * in the middle lies the centre of vision.
 */
const asideOn = ({ board }: Seen): number => Math.min(120, board.width / 5);

/** The place of the horizon some CSS px beside the middle of the board, or where the board ends towards it. */
function onHorizon(
  { x, y, dx, dy }: Point & { readonly dx: number; readonly dy: number },
  seen: Seen,
  aside: number,
): Point {
  const middle = middleOf(seen);
  const along = (middle.x - x) * dx + (middle.y - y) * dy + aside / Math.hypot(seen.view[0], seen.view[1]);
  const foot = { x: x + along * dx, y: y + along * dy };
  return heldIn([foot.x, foot.y, 1], seen).at;
}

const middleOf = ({ view, board }: Seen): Point => apply(invert(view), { x: board.width / 2, y: board.height / 2 });

function pointGrip(frame: FrameShape, way: FrameWay, seen: Seen): { readonly at: Point; readonly off?: number } {
  const [x, y, w] = frame.points[way];
  if (w === 1) return heldIn([x, y, 1], seen);
  // The way round that a frame has its directions: right to the right, left to the left, upright up.
  const isBack = way === 'height' ? y > 0 : way === 'right' ? x < 0 : x > 0;
  return heldIn(isBack ? [-x, -y, 0] : [x, y, 0], seen);
}

/** A point, or where the board ends on the way to it. */
function heldIn([x, y, w]: readonly number[], seen: Seen): { readonly at: Point; readonly off?: number } {
  const { view, board } = seen;
  const middle = { x: board.width / 2, y: board.height / 2 };
  const there = w === 1 ? apply(view, { x, y }) : undefined;
  const half = { x: Math.max(10, middle.x - EDGE), y: Math.max(10, middle.y - EDGE) };
  const [dx, dy] = there
    ? [there.x - middle.x, there.y - middle.y]
    : [view[0] * x + view[2] * y, view[1] * x + view[3] * y];
  const share = Math.min(half.x / (Math.abs(dx) || 1e-9), half.y / (Math.abs(dy) || 1e-9));
  if (there && share >= 1) return { at: { x, y } };
  const at = apply(invert(view), { x: middle.x + share * dx, y: middle.y + share * dy });
  return { at, off: w === 1 ? distance(at, { x, y }) : Infinity };
}

export interface PointDrag {
  /** Right and left stay on the horizon. */
  readonly isLevel: boolean;
  /** Both points of the horizon go, about the centre of vision. */
  readonly isSpread: boolean;
  /** The horizon is tilted by whole 15°. */
  readonly isExact: boolean;
}

/** Where a grip was, and where the hand takes it, page px. */
interface Pull {
  readonly from: Point;
  readonly to: Point;
}

/** A frame after one of its grips went from `from`, where it was, to `to`. Throws a PageError for points that are fixed. */
export function pulledFrame(frame: FrameShape, grip: PointGrip, pull: Pull, drag: PointDrag, seen: Seen): FrameShape {
  const { page } = seen;
  const { from, to } = pull;
  const horizon = horizonOf(frame, page);
  switch (grip.part) {
    case 'point':
      return pointDragged(frame, grip.way, pull, drag, seen);
    case 'horizon':
      return horizon ? moveHorizon(frame, (to.x - from.x) * horizon.dy - (to.y - from.y) * horizon.dx, 0, page) : frame;
    case 'tilt': {
      if (!horizon) return frame;
      // About the place that the tilting keeps: the one nearest to the page's middle.
      const pivot = horizon;
      const angle = Math.atan2(to.y - pivot.y, to.x - pivot.x);
      const wanted = drag.isExact ? Math.round(angle / STEP) * STEP : angle;
      return moveHorizon(frame, 0, wanted - Math.atan2(horizon.dy, horizon.dx), page);
    }
    case 'eye': {
      const finite = FRAME_WAYS.map((way) => frame.points[way]).filter(isFinitePoint);
      const [a, b] = finite.map(([x, y]) => ({ x, y }));
      return { ...frame, centre: footOnLine(a, b, to) };
    }
    case 'corner-of-planes':
      return { ...frame, corner: to };
  }
}

function pointDragged(frame: FrameShape, way: FrameWay, pull: Pull, drag: PointDrag, seen: Seen): FrameShape {
  const { page } = seen;
  const target = targetOf(frame, way, pull, seen);
  const horizon = way === 'height' || !drag.isLevel ? undefined : horizonOf(frame, page);
  let point = target;
  if (horizon && point[2] === 1) {
    const along = (point[0] - horizon.x) * horizon.dx + (point[1] - horizon.y) * horizon.dy;
    point = vanishingPoint(horizon.x + along * horizon.dx, horizon.y + along * horizon.dy, 1);
  } else if (horizon) point = frame.points[way];
  if (drag.isSpread && way !== 'height' && point[2] === 1 && frame.points[way][2] === 1) {
    const camera = cameraOf(frame, page);
    const middle = isCamera(camera) ? camera.centre : { x: page.width / 2, y: page.height / 2 };
    const [old] = [frame.points[way]];
    const by = distance(middle, { x: point[0], y: point[1] }) / Math.max(1, distance(middle, { x: old[0], y: old[1] }));
    return spreadPoints(frame, by, page);
  }
  return movePoint(frame, way, point, page);
}

/** Where a dragged point is meant to go: the farther off it is, the farther it goes with the hand. */
function targetOf(frame: FrameShape, way: FrameWay, { from, to }: Pull, seen: Seen): VanishingPoint {
  const [x, y, w] = frame.points[way];
  const middle = middleOf(seen);
  if (w === 1) {
    const reach = Math.max(1, distance(middle, { x, y }) / Math.max(1, distance(middle, from)));
    const by = distance(from, { x, y }) < 1e-6 ? 1 : reach;
    return vanishingPoint(x + (to.x - from.x) * by, y + (to.y - from.y) * by, 1);
  }
  // Pulled in from the edge it comes into reach; along the edge it only turns.
  const perCss = 1 / Math.hypot(seen.view[0], seen.view[1]);
  const isPulled = distance(middle, from) - distance(middle, to) > 30 * perCss;
  return isPulled ? vanishingPoint(to.x, to.y, 1) : vanishingPoint(to.x - middle.x, to.y - middle.y, 0);
}
