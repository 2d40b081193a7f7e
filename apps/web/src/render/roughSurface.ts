import { scaleOf, type Matrix } from '@true-nib/core/math';
import {
  byOrder,
  nodesOf,
  ofKind,
  paperOf,
  stackOf,
  type Page,
  type PictureEntity,
  type StackNode,
} from '@true-nib/core/page';
import { drawPicture } from './picturePieces';
import type { Pictures } from './pictures';
import { isShownUnder, plainLook, type StackLook } from './stackLook';

/** The roughs that lie under the lowest inks, and those that lie over them, lowest first; hidden ones left out. */
export function splitRoughs(
  page: Page,
  look: StackLook = plainLook,
): { under: PictureEntity[]; over: PictureEntity[] } {
  const stack = stackOf(page);
  const nodes = nodesOf(stack);
  const firstInk = nodes.findIndex(({ layer }) => layer.medium === 'ink' || layer.medium === 'wash');
  const pictures = ofKind(page, 'picture').sort(byOrder);
  const on = (some: readonly StackNode[]) =>
    some
      .filter((node) => node.layer.medium === 'rough' && isShownUnder(look, node, stack))
      .flatMap(({ layer }) => pictures.filter((picture) => picture.layerId === layer.id));
  return firstInk < 0
    ? { under: on(nodes), over: [] }
    : { under: on(nodes.slice(0, firstInk)), over: on(nodes.slice(firstInk)) };
}

export function drawRoughs(
  context: CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D,
  pictures: readonly PictureEntity[],
  store: Pictures,
  map: Matrix,
): void {
  for (const picture of pictures) {
    const levels = store.levels(picture);
    if (levels) drawPicture(context, picture, levels, map);
  }
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
