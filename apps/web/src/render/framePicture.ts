import { LETTERS } from './letters';
import { inThousands } from '../base/inThousands';
import {
  coneOfVision,
  horizonOf,
  placeOfPoint,
  type SightedResidual,
  FRAME_PLANES,
  FRAME_WAYS,
  type FrameShape,
  type FrameWay,
  type VanishingPoint,
  pointGrips,
} from '@true-nib/core/guides';
import { apply, scaleOf, type Matrix, type Point } from '@true-nib/core/math';
import type { PageSize } from '@true-nib/core/page';
import type { Extent } from './view';

/** A frame as the board shows it. Colours are those of guides on white paper. */
export interface FrameLook {
  readonly colour: string;
  readonly isActing: boolean;
  /** The frame is worked on: its cone and its grips' names are shown. */
  readonly isInHand: boolean;
  /** The directions that lines take; others are drawn as if they slept. */
  readonly ways: readonly FrameWay[];
}

/** A letter for each direction: nothing is told by colour alone. */
export const WAY_LETTERS: Readonly<Record<FrameWay, string>> = { right: 'R', left: 'L', height: 'U' };

/** Lines to each point that fill the board, where no grid does. */
const FAN = 22;

/** Paints a frame in device px, but for its grids: its horizon, its three lines through the corner, fans of lines where it has no grid. */
export function drawFrame(
  context: CanvasRenderingContext2D,
  frame: FrameShape,
  { colour, isActing, isInHand, ways }: FrameLook,
  { page, map, ratio }: { readonly page: PageSize; readonly map: Matrix; readonly ratio: number },
): void {
  context.setTransform(1, 0, 0, 1, 0, 0);
  const { width, height } = context.canvas;
  const on = (p: Point) => apply(map, p);
  const awake = FRAME_WAYS.filter((way) => ways.includes(way) && !frame.asleep.includes(way));
  const hasGrid = FRAME_PLANES.some((plane) => frame.grids[plane]);
  context.strokeStyle = colour;
  if (!hasGrid && isActing) {
    context.lineWidth = ratio;
    context.globalAlpha = isInHand ? 0.26 : 0.16;
    context.beginPath();
    for (const way of awake) traceFan(context, frame, way, map);
    context.stroke();
  }
  // The corner of the planes and the lines through it.
  context.globalAlpha = isActing ? 0.9 : 0.45;
  context.lineWidth = 1.4 * ratio;
  for (const way of FRAME_WAYS) {
    context.setLineDash(awake.includes(way) && isActing ? [] : [3 * ratio, 7 * ratio]);
    context.beginPath();
    traceLine(context, frame.points[way], frame.corner, map);
    context.stroke();
  }
  const horizon = horizonOf(frame, page);
  if (horizon) {
    const at = on(horizon);
    const far = Math.hypot(width, height) + Math.hypot(at.x - width / 2, at.y - height / 2);
    const [ux, uy] = unitOf(map, horizon.dx, horizon.dy);
    context.setLineDash([18 * ratio, 5 * ratio]);
    context.lineWidth = 1.6 * ratio;
    context.beginPath();
    context.moveTo(at.x - far * ux, at.y - far * uy);
    context.lineTo(at.x + far * ux, at.y + far * uy);
    context.stroke();
  }
  context.setLineDash([]);
  for (const way of FRAME_WAYS) {
    const place = placeOfPoint(frame.points[way]);
    if (place) cross(context, on(place), 8 * ratio);
  }
  if (isInHand) drawCone(context, frame, page, map, ratio);
  context.globalAlpha = 1;
}

function drawCone(
  context: CanvasRenderingContext2D,
  frame: FrameShape,
  page: PageSize,
  map: Matrix,
  ratio: number,
): void {
  const cone = coneOfVision(frame, page);
  if (!('radius' in cone)) return;
  const at = apply(map, cone);
  const radius = cone.radius * scaleOf(map);
  if (radius > 40 * Math.max(context.canvas.width, context.canvas.height)) return;
  context.globalAlpha = 0.7;
  context.lineWidth = ratio;
  context.setLineDash([2 * ratio, 5 * ratio]);
  context.beginPath();
  context.arc(at.x, at.y, radius, 0, 2 * Math.PI);
  context.stroke();
  context.setLineDash([]);
  cross(context, at, 5 * ratio);
}

const unitOf = (map: Matrix, dx: number, dy: number): readonly [number, number] => {
  const [x, y] = [map[0] * dx + map[2] * dy, map[1] * dx + map[3] * dy];
  const long = Math.hypot(x, y) || 1;
  return [x / long, y / long];
};

/** A line through a place to a vanishing point, over the whole board. */
function traceLine(context: CanvasRenderingContext2D, [x, y, w]: VanishingPoint, through: Point, map: Matrix): void {
  const { width, height } = context.canvas;
  const far = 2 * Math.hypot(width, height);
  const at = apply(map, through);
  const end = w === 1 ? apply(map, { x, y }) : undefined;
  const [ux, uy] = end ? unit(end.x - at.x, end.y - at.y) : unitOf(map, x, y);
  const along = (width / 2 - at.x) * ux + (height / 2 - at.y) * uy;
  // It ends in its point, where that is in sight.
  const stop = end ? Math.hypot(end.x - at.x, end.y - at.y) : Infinity;
  context.moveTo(at.x + (along - far) * ux, at.y + (along - far) * uy);
  context.lineTo(at.x + Math.min(stop, along + far) * ux, at.y + Math.min(stop, along + far) * uy);
}

const unit = (x: number, y: number): readonly [number, number] => {
  const long = Math.hypot(x, y) || 1;
  return [x / long, y / long];
};

/** Lines to a point that fill the board evenly. */
function traceFan(context: CanvasRenderingContext2D, frame: FrameShape, way: FrameWay, map: Matrix): void {
  const { width, height } = context.canvas;
  const middle = { x: width / 2, y: height / 2 };
  const radius = Math.hypot(width, height) / 2;
  const [x, y, w] = frame.points[way];
  const end = w === 1 ? apply(map, { x, y }) : undefined;
  const away = end ? Math.hypot(end.x - middle.x, end.y - middle.y) : Infinity;
  if (end && away < radius) {
    for (let k = 0; k < 2 * FAN; k++) {
      const angle = (k * Math.PI) / FAN;
      context.moveTo(end.x + 16 * Math.cos(angle), end.y + 16 * Math.sin(angle));
      context.lineTo(end.x + 2 * radius * Math.cos(angle), end.y + 2 * radius * Math.sin(angle));
    }
    return;
  }
  const [ux, uy] = end ? unit(end.x - middle.x, end.y - middle.y) : unitOf(map, x, y);
  for (let k = -FAN / 2; k <= FAN / 2; k++) {
    const off = (2 * radius * k) / FAN;
    const through = { x: middle.x - uy * off, y: middle.y + ux * off };
    const [vx, vy] = end ? unit(end.x - through.x, end.y - through.y) : [ux, uy];
    context.moveTo(through.x - 1.2 * radius * vx, through.y - 1.2 * radius * vy);
    context.lineTo(through.x + 1.2 * radius * vx, through.y + 1.2 * radius * vy);
  }
}

function cross(context: CanvasRenderingContext2D, { x, y }: Point, half: number): void {
  context.beginPath();
  context.moveTo(x - half, y);
  context.lineTo(x + half, y);
  context.moveTo(x, y - half);
  context.lineTo(x, y + half);
  context.stroke();
}

/** A letter at the point of a direction, or where the board ends on the way to it; CSS px of the board. */
export interface WayMark extends Point {
  readonly way: FrameWay;
  readonly words: string;
}

/** The letters of a frame's directions that lines take or could take. */
export function wayMarks(frame: FrameShape, page: PageSize, view: Matrix, board: Extent): WayMark[] {
  return pointGrips(frame, { page, view, board }).flatMap(({ grip, at, off }) => {
    if (grip.part !== 'point') return [];
    const far = off === undefined ? '' : Number.isFinite(off) ? ` ${inThousands(Math.round(off))} px` : ' ∞';
    const { x, y } = apply(view, at);
    // Below its grip, but for one at the foot of the board, where it would lie under the status line.
    return [
      {
        way: grip.way,
        x,
        y: y > board.height - 80 ? y - 44 : y,
        words: `${frame.names?.[grip.way] ?? WAY_LETTERS[grip.way]}${far}`,
      },
    ];
  });
}

/** Paints the letters: filled where lines go there, hollow where the direction sleeps or is left out. */
export function drawWayMarks(
  context: CanvasRenderingContext2D,
  marks: readonly WayMark[],
  isTaken: (way: FrameWay) => boolean,
  colour: string,
  ratio: number,
): void {
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.font = `${11 * ratio}px ${LETTERS}`;
  context.textBaseline = 'middle';
  context.textAlign = 'center';
  for (const { x, y, words, way } of marks) {
    const width = (words.length === 1 ? 20 : 10 + 6.2 * words.length) * ratio;
    const [left, top] = [x * ratio - width / 2, (y + 12) * ratio];
    context.beginPath();
    context.roundRect(left, top, width, 18 * ratio, 5 * ratio);
    context.globalAlpha = 0.92;
    context.fillStyle = isTaken(way) ? colour : '#ffffff';
    context.fill();
    context.globalAlpha = 1;
    context.lineWidth = 1.2 * ratio;
    context.strokeStyle = colour;
    context.setLineDash(isTaken(way) ? [] : [3 * ratio, 3 * ratio]);
    context.stroke();
    context.setLineDash([]);
    context.fillStyle = isTaken(way) ? '#ffffff' : colour;
    context.fillText(words, left + width / 2, top + 9.5 * ratio);
  }
  context.textAlign = 'start';
}

/** Paints sighted edges with how far each is off. */
export function drawSighted(
  context: CanvasRenderingContext2D,
  residuals: readonly Pick<SightedResidual, 'edge' | 'degrees' | 'isOutlier'>[],
  { isFitted, hues }: { readonly isFitted: boolean; readonly hues: readonly string[] },
  { map, ratio }: { readonly map: Matrix; readonly ratio: number },
): void {
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.font = `bold ${11 * ratio}px ${LETTERS}`;
  context.textBaseline = 'middle';
  residuals.forEach(({ edge, degrees, isOutlier }, k) => {
    const [a, b] = [apply(map, edge.from), apply(map, edge.to)];
    const colour = hues[FRAME_WAYS.indexOf(edge.way) % hues.length];
    for (const [width, style] of [
      [5, '#ffffff'],
      [2, colour],
    ] as const) {
      context.beginPath();
      context.lineWidth = width * ratio;
      context.strokeStyle = style;
      context.setLineDash(isOutlier && style !== '#ffffff' ? [5 * ratio, 4 * ratio] : []);
      context.moveTo(a.x, a.y);
      context.lineTo(b.x, b.y);
      context.stroke();
    }
    context.setLineDash([]);
    const words = `${k + 1} ${WAY_LETTERS[edge.way]}${isFitted ? ` ${Math.abs(degrees).toFixed(1)}°` : ''}${isOutlier ? ' !' : ''}`;
    const [x, y] = [(a.x + b.x) / 2, (a.y + b.y) / 2];
    const width = context.measureText(words).width + 10 * ratio;
    context.fillStyle = isOutlier ? '#1b1d22' : '#ffffff';
    context.globalAlpha = 0.9;
    context.fillRect(x - width / 2, y - 8 * ratio, width, 16 * ratio);
    context.globalAlpha = 1;
    context.fillStyle = isOutlier ? '#ffffff' : colour;
    context.fillText(words, x - width / 2 + 5 * ratio, y);
  });
}

/** Where a point of a frame lies, in words. */
export function pointInWords(frame: FrameShape, way: FrameWay): string {
  const [x, y, w] = frame.points[way];
  if (w === 0) return `parallel, ${degreesOf(x, y).toFixed(1)}°`;
  return `${inThousands(Math.round(x))}, ${inThousands(Math.round(y))}`;
}

const degreesOf = (x: number, y: number): number => {
  const degrees = (-Math.atan2(y, x) * 180) / Math.PI;
  const held = degrees - 180 * Math.round(degrees / 180);
  return held === -90 ? 90 : held;
};
