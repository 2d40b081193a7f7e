import { scaleOf, type Matrix } from '@true-nib/core/math';
import {
  paperOf,
  roughsOf,
  stackOf,
  type Page,
  type PictureEntity,
  type SeenRough,
  type SeenRoughs,
} from '@true-nib/core/page';
import type { Context2D } from './inkPaint';
import { drawPicture, type PyramidLevel } from './picturePieces';
import { isShownUnder, type StackLook } from './stackLook';

/** The roughs that are seen as the board looks at the stack. */
export function roughsUnder(page: Page, look: StackLook): SeenRoughs {
  const stack = stackOf(page);
  return roughsOf(page, (node) => isShownUnder(look, node, stack));
}

/** The decoded sizes of a picture; nothing until it is decoded. */
export type LevelsOf = (picture: PictureEntity) => readonly PyramidLevel[] | undefined;

/** Draws roughs, lowest first, each as faded as it is; transparencies multiply what lies beneath them. */
export function drawRoughs(context: Context2D, roughs: readonly SeenRough[], levelsOf: LevelsOf, map: Matrix): void {
  for (const { pictures, opacity } of roughs) {
    const ready = pictures.flatMap((picture) => {
      const levels = levelsOf(picture);
      return levels ? [{ picture, levels }] : [];
    });
    // One alone needs no ground to be put together on.
    if (ready.length === 1) drawPicture(context, ready[0].picture, ready[0].levels, map, opacity);
    else if (ready.length > 1) drawTogether(context, ready, map, opacity);
  }
}

/** Draws roughs on a ground of their own. They multiply one another there as they would one by one on the paper. */
export function drawTransparencies(
  context: Context2D,
  roughs: readonly SeenRough[],
  levelsOf: LevelsOf,
  map: Matrix,
): void {
  context.globalCompositeOperation = 'multiply';
  drawRoughs(context, roughs, levelsOf, map);
  context.globalCompositeOperation = 'source-over';
}

interface ReadyPicture {
  readonly picture: PictureEntity;
  readonly levels: readonly PyramidLevel[];
}

function drawTogether(context: Context2D, ready: readonly ReadyPicture[], map: Matrix, opacity: number): void {
  const { width, height } = context.canvas;
  const ground = new OffscreenCanvas(width, height);
  const target = ground.getContext('2d');
  if (!target) throw new Error('This browser cannot paint off the screen.');
  for (const { picture, levels } of ready) drawPicture(target, picture, levels, map);
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.globalAlpha = opacity;
  context.drawImage(ground, 0, 0);
  context.globalAlpha = 1;
}

/** Device px of a square of the weave that stands for no paper. */
const WEAVE = 10;

/** The paper, the one bright thing in the room; a fine weave where there is none. */
export function drawPaper(context: CanvasRenderingContext2D, page: Page, map: Matrix): void {
  const { width, height } = page.size;
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.clearRect(0, 0, context.canvas.width, context.canvas.height);
  context.setTransform(...map);
  const paper = paperOf(page);
  context.fillStyle = paper ?? '#f6f6f4';
  context.fillRect(0, 0, width, height);
  if (paper === null) drawWeave(context, page, map);
}

function drawWeave(context: CanvasRenderingContext2D, page: Page, map: Matrix): void {
  const square = new OffscreenCanvas(WEAVE * 2, WEAVE * 2);
  const threads = square.getContext('2d');
  if (!threads) return;
  threads.strokeStyle = '#cfd2d2';
  threads.beginPath();
  threads.moveTo(0, 2 * WEAVE);
  threads.lineTo(2 * WEAVE, 0);
  threads.moveTo(0, 0);
  threads.lineTo(2 * WEAVE, 2 * WEAVE);
  threads.stroke();
  const pattern = context.createPattern(square, 'repeat');
  if (!pattern) return;
  pattern.setTransform(new DOMMatrix([...map]).inverse());
  context.fillStyle = pattern;
  context.fillRect(0, 0, page.size.width, page.size.height);
}

export interface VeilColours {
  readonly desk: string;
  readonly shadow: string;
}

/** Beside the page: the desk, through which lines that run over the edge are still seen, and the page's soft shadow. */
export function drawVeil(
  context: CanvasRenderingContext2D,
  page: Page,
  map: Matrix,
  { desk, shadow }: VeilColours,
): void {
  const { width, height } = page.size;
  const { canvas } = context;
  context.save();
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.clearRect(0, 0, canvas.width, canvas.height);
  const around = new Path2D();
  around.rect(0, 0, canvas.width, canvas.height);
  const paper = new Path2D();
  paper.rect(0, 0, width, height);
  around.addPath(paper, new DOMMatrix([...map]));
  context.clip(around, 'evenodd');
  context.globalAlpha = 0.84;
  context.fillStyle = desk;
  context.fillRect(0, 0, canvas.width, canvas.height);
  // A blurred shadow of a whole page would cost more than all else that is painted: rims that lie over each other do not.
  context.translate(0, SHADOW_DROP);
  context.transform(...map);
  const edge = new Path2D();
  edge.rect(0, 0, width, height);
  context.strokeStyle = shadow;
  context.lineJoin = 'round';
  // As a blurred one has it: half of it at the page's edge, and ever less.
  context.globalAlpha = 0.5 / SHADOW_RIMS;
  for (let rim = 1; rim <= SHADOW_RIMS; rim++) {
    context.lineWidth = (2 * SHADOW_REACH * (rim / SHADOW_RIMS) ** 1.5) / scaleOf(map);
    context.stroke(edge);
  }
  context.restore();
}

/** Device px that the page's shadow reaches beyond it and lies lower, and the rims that it is made of. */
const SHADOW_REACH = 14;
const SHADOW_DROP = 2;
const SHADOW_RIMS = 7;
