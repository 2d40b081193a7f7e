import {
  about,
  apply,
  boxMiddle,
  boxCorners,
  chain,
  invert,
  rotation,
  translation,
  type Box,
  type Matrix,
  type Point,
  projectiveOf,
  type Matrix3x3,
} from '../math';
import { PageError } from '../gate';
import { homographyBetween, type Quad } from './homography';

/**
 * What was done to a selection by its frame: its box at first, and how that was sized, skewed, turned and moved, in this
 * order, about its middle. `corners` take the place of all that once they were pulled one by one. Lengths in page px.
 */
export interface Frame {
  readonly box: Box;
  readonly scaleX: number;
  readonly scaleY: number;
  /** Radians by which the upright edges lean. */
  readonly skew: number;
  /** Radians, clockwise on screen. */
  readonly angle: number;
  readonly dx: number;
  readonly dy: number;
  readonly corners?: Quad;
}

export const frameOf = (box: Box): Frame => ({ box, scaleX: 1, scaleY: 1, skew: 0, angle: 0, dx: 0, dy: 0 });

export const isUntouched = ({ scaleX, scaleY, skew, angle, dx, dy, corners }: Frame): boolean =>
  !corners && scaleX === 1 && scaleY === 1 && skew === 0 && angle === 0 && dx === 0 && dy === 0;

/** The affine part of what was done: page px before to page px now. */
export function frameMatrix({ box, scaleX, scaleY, skew, angle, dx, dy }: Frame): Matrix {
  const sized: Matrix = [scaleX, 0, 0, scaleY, 0, 0];
  const leaning: Matrix = [1, 0, Math.tan(skew), 1, 0, 0];
  return chain(about(boxMiddle(box), chain(sized, leaning, rotation(angle))), translation(dx, dy));
}

/** All that was done, as one map. Throws a PageError for a frame that is flat or folded. */
export function frameMap(frame: Frame): Matrix3x3 {
  if (frame.corners) return homographyBetween(boxCorners(padded(frame.box)), frame.corners);
  if (frame.scaleX === 0 || frame.scaleY === 0 || Math.abs(frame.skew) > 1.55)
    throw new PageError('This would flatten the lines. Give them some width and height.');
  return projectiveOf(frameMatrix(frame));
}

/** A box that has room to be pulled, also that of a straight upright line. */
const padded = (box: Box): Box => ({
  minX: box.minX - (box.maxX - box.minX < 1 ? 0.5 : 0),
  minY: box.minY - (box.maxY - box.minY < 1 ? 0.5 : 0),
  maxX: box.maxX + (box.maxX - box.minX < 1 ? 0.5 : 0),
  maxY: box.maxY + (box.maxY - box.minY < 1 ? 0.5 : 0),
});

/** The corners as they lie now: top left, top right, bottom right, bottom left of the box at first. */
export function frameCorners(frame: Frame): Quad {
  if (frame.corners) return frame.corners;
  const map = frameMatrix(frame);
  const [a, b, c, d] = boxCorners(frame.box).map((corner) => apply(map, corner));
  return [a, b, c, d];
}

/** What a hand can take hold of: the inside, a corner or an edge (0 is the top or the top left), or the knob. */
export type FrameGrip =
  | { readonly part: 'inside' }
  | { readonly part: 'knob' }
  | { readonly part: 'corner'; readonly index: 0 | 1 | 2 | 3 }
  | { readonly part: 'edge'; readonly index: 0 | 1 | 2 | 3 };

/** Where the grips of a frame lie, page px; the knob `stem` page px beyond the top edge. */
export function frameGrips(frame: Frame, stem: number): { corners: Quad; edges: Quad; knob: Point } {
  const corners = frameCorners(frame);
  const between = (a: Point, b: Point): Point => ({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 });
  const [a, b, c, d] = corners;
  const edges: Quad = [between(a, b), between(b, c), between(c, d), between(d, a)];
  const foot = edges[2];
  const along = { x: edges[0].x - foot.x, y: edges[0].y - foot.y };
  const length = Math.hypot(along.x, along.y);
  const up = length > 1e-6 ? { x: along.x / length, y: along.y / length } : { x: 0, y: -1 };
  return { corners, edges, knob: { x: edges[0].x + up.x * stem, y: edges[0].y + up.y * stem } };
}

const INDICES = [0, 1, 2, 3] as const;

/** The grip under `p`, within `reach` page px; nothing when `p` lies outside. */
export function frameGripAt(frame: Frame, p: Point, reach: number, stem: number): FrameGrip | undefined {
  const { corners, edges, knob } = frameGrips(frame, stem);
  const isNear = (q: Point) => Math.hypot(q.x - p.x, q.y - p.y) <= reach;
  if (isNear(knob)) return { part: 'knob' };
  const corner = INDICES.find((k) => isNear(corners[k]));
  if (corner !== undefined) return { part: 'corner', index: corner };
  const edge = INDICES.find((k) => isNear(edges[k]));
  if (edge !== undefined) return { part: 'edge', index: edge };
  const sides = corners.map((q, k) => {
    const r = corners[(k + 1) % 4];
    return (r.x - q.x) * (p.y - q.y) - (r.y - q.y) * (p.x - q.x);
  });
  return sides.every((side) => side >= 0) || sides.every((side) => side <= 0) ? { part: 'inside' } : undefined;
}

export interface DragOptions {
  /** Width and height keep their proportion; turns go by 15°. */
  readonly proportional: boolean;
  /** Sizing goes about the middle instead of the far side. */
  readonly fromCentre: boolean;
  /** Corners are pulled one by one; edges lean instead of sizing. */
  readonly free: boolean;
}

const TURN_STEP = Math.PI / 12;

/** The frame after dragging a grip from one page point to another. */
export function draggedFrame(start: Frame, grip: FrameGrip, from: Point, to: Point, options: DragOptions): Frame {
  if (grip.part === 'inside') return movedFrame(start, to.x - from.x, to.y - from.y);
  if (grip.part === 'knob') return turnedFrame(start, from, to, options.proportional);
  if (grip.part === 'corner' && (options.free || start.corners)) return pulledFrame(start, grip.index, from, to);
  if (start.corners) return edgePulled(start, start.corners, grip.index, from, to);
  if (grip.part === 'edge' && options.free) return leaningFrame(start, grip.index, from, to);
  return sizedFrame(start, grip, to, options);
}

export function movedFrame(frame: Frame, dx: number, dy: number): Frame {
  const { corners } = frame;
  if (!corners) return { ...frame, dx: frame.dx + dx, dy: frame.dy + dy };
  const [a, b, c, d] = corners.map(({ x, y }) => ({ x: x + dx, y: y + dy }));
  return { ...frame, corners: [a, b, c, d] };
}

function centreOf(frame: Frame): Point {
  if (!frame.corners) return apply(frameMatrix(frame), boxMiddle(frame.box));
  const sum = frame.corners.reduce((s, { x, y }) => ({ x: s.x + x / 4, y: s.y + y / 4 }), { x: 0, y: 0 });
  return sum;
}

function turnedFrame(frame: Frame, from: Point, to: Point, bySteps: boolean): Frame {
  const centre = centreOf(frame);
  const turn = Math.atan2(to.y - centre.y, to.x - centre.x) - Math.atan2(from.y - centre.y, from.x - centre.x);
  if (frame.corners) {
    const map = about(centre, rotation(bySteps ? Math.round(turn / TURN_STEP) * TURN_STEP : turn));
    const [a, b, c, d] = frame.corners.map((corner) => apply(map, corner));
    return { ...frame, corners: [a, b, c, d] };
  }
  const angle = frame.angle + turn;
  return { ...frame, angle: uprightAngle(bySteps ? Math.round(angle / TURN_STEP) * TURN_STEP : angle) };
}

const uprightAngle = (angle: number): number => Math.atan2(Math.sin(angle), Math.cos(angle));

function pulledFrame(frame: Frame, index: number, from: Point, to: Point): Frame {
  const [a, b, c, d] = frameCorners(frame).map((corner, k) =>
    k === index ? { x: corner.x + to.x - from.x, y: corner.y + to.y - from.y } : corner,
  );
  return { ...frame, corners: [a, b, c, d] };
}

function edgePulled(frame: Frame, corners: Quad, index: number, from: Point, to: Point): Frame {
  const [a, b, c, d] = corners.map((corner, k) =>
    k === index || k === (index + 1) % 4 ? { x: corner.x + to.x - from.x, y: corner.y + to.y - from.y } : corner,
  );
  return { ...frame, corners: [a, b, c, d] };
}

function leaningFrame(frame: Frame, edge: number, from: Point, to: Point): Frame {
  // Only level edges lean to the side; the others tell the same by their own length.
  const back = invert(chain(rotation(frame.angle)));
  const step = apply(back, { x: to.x - from.x, y: to.y - from.y });
  const height = (frame.box.maxY - frame.box.minY) * frame.scaleY || 1;
  const slope = Math.tan(frame.skew) + ((edge === 0 ? -2 : 2) * step.x) / height;
  return { ...frame, skew: Math.atan(slope) };
}

/** Which way a grip lies from the middle of the box: −1, 0 or 1. */
function sideOf(grip: FrameGrip): { readonly x: number; readonly y: number } {
  if (grip.part === 'corner') return { x: grip.index === 1 || grip.index === 2 ? 1 : -1, y: grip.index >= 2 ? 1 : -1 };
  if (grip.part === 'edge') return { x: [0, 1, 0, -1][grip.index], y: [-1, 0, 1, 0][grip.index] };
  return { x: 0, y: 0 };
}

function sizedFrame(frame: Frame, grip: FrameGrip, to: Point, { proportional, fromCentre }: DragOptions): Frame {
  const side = sideOf(grip);
  const { box } = frame;
  const half = { x: Math.max(0.5, (box.maxX - box.minX) / 2), y: Math.max(0.5, (box.maxY - box.minY) / 2) };
  // In the frame's own upright measure, from what stays where it is.
  const still = { x: fromCentre ? 0 : -side.x * half.x, y: fromCentre ? 0 : -side.y * half.y };
  const middle = boxMiddle(box);
  const fixed = apply(frameMatrix(frame), { x: middle.x + still.x, y: middle.y + still.y });
  const upright = invert(chain([1, 0, Math.tan(frame.skew), 1, 0, 0], rotation(frame.angle)));
  const reach = apply(upright, { x: to.x - fixed.x, y: to.y - fixed.y });
  const span = { x: side.x * half.x - still.x, y: side.y * half.y - still.y };
  let scaleX = side.x === 0 ? frame.scaleX : reach.x / span.x;
  let scaleY = side.y === 0 ? frame.scaleY : reach.y / span.y;
  if (proportional) {
    const gainX = side.x === 0 ? undefined : scaleX / frame.scaleX;
    const gainY = side.y === 0 ? undefined : scaleY / frame.scaleY;
    const gain =
      gainX === undefined
        ? (gainY ?? 1)
        : gainY === undefined
          ? gainX
          : Math.abs(gainX) > Math.abs(gainY)
            ? gainX
            : gainY;
    scaleX = frame.scaleX * gain;
    scaleY = frame.scaleY * gain;
  }
  const next = { ...frame, scaleX: kept(scaleX), scaleY: kept(scaleY) };
  const now = apply(frameMatrix(next), { x: middle.x + still.x, y: middle.y + still.y });
  return { ...next, dx: next.dx + fixed.x - now.x, dy: next.dy + fixed.y - now.y };
}

/** A scale that can be turned back: never nothing. */
const kept = (scale: number): number => (Math.abs(scale) < 1e-3 ? (scale < 0 ? -1e-3 : 1e-3) : scale);

/** The frame turned over, side for side or head over heels. */
export function flippedFrame(frame: Frame, axis: 'across' | 'down'): Frame {
  if (frame.corners) {
    const [a, b, c, d] = frame.corners;
    return { ...frame, corners: axis === 'across' ? [b, a, d, c] : [d, c, b, a] };
  }
  return axis === 'across' ? { ...frame, scaleX: -frame.scaleX } : { ...frame, scaleY: -frame.scaleY };
}
