import { apply, invert, mapBox, scaleOf, type Matrix, type Point } from '@true-nib/core/math';
import type { PictureEntity } from '@true-nib/core/page';
import { gripPlaces } from '@true-nib/core/tools';
import type { Context2D } from './inkPaint';

export interface OverlayColours {
  readonly seal: string;
  readonly raised: string;
}

/** CSS px between a picture's top edge and the knob that turns it. */
export const STEM = 24;

/** The frame, corners and knob of the picture in hand. `map` takes page px to device px, `ratio` device px per CSS px. */
export function drawPictureGrips(
  context: CanvasRenderingContext2D,
  picture: PictureEntity,
  map: Matrix,
  ratio: number,
  colours: OverlayColours,
): void {
  const { corners, knob } = gripPlaces(picture.placement, picture, (STEM * ratio) / scaleOf(map));
  const on = (p: Point) => apply(map, p);
  const [a, b] = [on(corners[0]), on(corners[1])];
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.lineWidth = 1.5 * ratio;
  context.strokeStyle = colours.seal;
  context.beginPath();
  corners.map(on).forEach((p, k) => (k === 0 ? context.moveTo(p.x, p.y) : context.lineTo(p.x, p.y)));
  context.closePath();
  context.moveTo((a.x + b.x) / 2, (a.y + b.y) / 2);
  context.lineTo(on(knob).x, on(knob).y);
  context.stroke();
  context.fillStyle = colours.raised;
  for (const corner of corners.map(on)) {
    context.beginPath();
    context.rect(corner.x - 6 * ratio, corner.y - 6 * ratio, 12 * ratio, 12 * ratio);
    context.fill();
    context.stroke();
  }
  context.beginPath();
  context.arc(on(knob).x, on(knob).y, 8 * ratio, 0, 2 * Math.PI);
  context.fill();
  context.stroke();
}

/** A ring of the nib's or rubber's true size, dark and light so that it shows on anything. */
export function drawRing(context: CanvasRenderingContext2D, at: Point, radius: number, ratio: number): void {
  strokeBoth(context, ratio, () => context.arc(at.x, at.y, Math.max(1.5 * ratio, radius), 0, 2 * Math.PI));
}

export function clearOverlay(context: CanvasRenderingContext2D): void {
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.clearRect(0, 0, context.canvas.width, context.canvas.height);
}

/** A loop of page px that is being drawn to select by, light and dark so that it shows on anything. */
export function drawArea(context: CanvasRenderingContext2D, area: readonly Point[], map: Matrix, ratio: number): void {
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.beginPath();
  area.forEach((p, k) => {
    const { x, y } = apply(map, p);
    if (k === 0) context.moveTo(x, y);
    else context.lineTo(x, y);
  });
  context.closePath();
  context.lineWidth = 3 * ratio;
  context.strokeStyle = 'rgba(255,255,255,0.75)';
  context.stroke();
  context.lineWidth = ratio;
  context.strokeStyle = 'rgba(20,22,26,0.85)';
  context.setLineDash([5 * ratio, 4 * ratio]);
  context.stroke();
  context.setLineDash([]);
}

/** The edges of the page's px that are in sight, as hairlines. */
export function drawPixelGrid(
  context: CanvasRenderingContext2D,
  page: { readonly width: number; readonly height: number },
  map: Matrix,
  ratio: number,
): void {
  const { width, height } = context.canvas;
  const seen = mapBox(invert(map), { minX: 0, minY: 0, maxX: width, maxY: height });
  const left = Math.max(0, Math.floor(seen.minX));
  const right = Math.min(page.width, Math.ceil(seen.maxX));
  const top = Math.max(0, Math.floor(seen.minY));
  const bottom = Math.min(page.height, Math.ceil(seen.maxY));
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.lineWidth = ratio;
  context.strokeStyle = 'rgba(90,100,110,0.28)';
  context.beginPath();
  const leg = (a: Point, b: Point) => {
    const p = apply(map, a);
    const q = apply(map, b);
    context.moveTo(p.x, p.y);
    context.lineTo(q.x, q.y);
  };
  for (let x = left; x <= right; x++) leg({ x, y: top }, { x, y: bottom });
  for (let y = top; y <= bottom; y++) leg({ x: left, y }, { x: right, y });
  context.stroke();
}

/** Device px: just so wide that it is drawn as a hairline. */
const HAIR = 0.999;
const ALONE = [[0, 0]] as const;
/** Device px that hairlines are laid apart, so that together they can be seen where px are small. */
const BESIDE = [
  [0, 0],
  [1, 0],
  [0, 1],
] as const;

/**
 * Strokes many paths as hairlines, some beside each other on fine screens: without a graphics card broader lines take five
 * to ten times as long. `map` takes the paths to device px, `ratio` is device px per CSS px.
 */
export function strokeFine(context: Context2D, paths: readonly Path2D[], map: Matrix, ratio: number): void {
  const [a, b, c, d, e, f] = map;
  context.save();
  context.lineWidth = HAIR / scaleOf(map);
  for (const [x, y] of ratio < 1.5 ? ALONE : BESIDE) {
    context.setTransform(a, b, c, d, e + x, f + y);
    for (const path of paths) context.stroke(path);
  }
  context.restore();
}

/** Strokes a path of device px dark on light, so that it shows on anything. */
export function strokeBoth(context: Context2D, ratio: number, trace: () => void, dash = false): void {
  context.setTransform(1, 0, 0, 1, 0, 0);
  for (const [width, colour] of [
    [3, 'rgba(255,255,255,0.75)'],
    [1, 'rgba(20,22,26,0.85)'],
  ] as const) {
    context.lineWidth = width * ratio;
    context.strokeStyle = colour;
    context.setLineDash(dash && width === 1 ? [5 * ratio, 4 * ratio] : []);
    context.beginPath();
    trace();
    context.stroke();
  }
  context.setLineDash([]);
}

/** A mark for a node (square for a corner, round for a smooth one) or a handle (a small dot). */
export interface KnotLook {
  readonly look: 'corner' | 'smooth' | 'handle';
  readonly isChosen?: boolean;
}

/** Draws a mark at a place in device px. */
export function drawKnot(
  context: CanvasRenderingContext2D,
  at: Point,
  { look, isChosen = false }: KnotLook,
  ratio: number,
  { seal, raised }: OverlayColours,
): void {
  const radius = (look === 'handle' ? 4 : 5) * ratio;
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.beginPath();
  if (look === 'corner') context.rect(at.x - radius, at.y - radius, 2 * radius, 2 * radius);
  else context.arc(at.x, at.y, radius, 0, 2 * Math.PI);
  context.fillStyle = isChosen ? seal : raised;
  context.fill();
  context.lineWidth = 1.5 * ratio;
  context.strokeStyle = isChosen ? raised : seal;
  context.stroke();
}

/** The slack that a line is towed on: its ring about the tip, and the string to the pen; device px. */
export function drawSlack(
  context: CanvasRenderingContext2D,
  tip: Point,
  pen: Point,
  radius: number,
  ratio: number,
): void {
  drawRing(context, tip, radius, ratio);
  strokeBoth(context, ratio, () => {
    context.moveTo(tip.x, tip.y);
    context.lineTo(pen.x, pen.y);
  });
}
