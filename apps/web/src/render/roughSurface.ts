import type { Matrix } from '@true-nib/core/math';
import { byOrder, layersOf, ofKind, type LayerEntity, type Page, type PictureEntity } from '@true-nib/core/page';
import { drawPicture } from './picturePieces';
import type { Pictures } from './pictures';

/** The roughs that lie under the lowest inks, and those that lie over them, lowest first; hidden ones left out. */
export function splitRoughs(page: Page): { under: PictureEntity[]; over: PictureEntity[] } {
  const layers = layersOf(page);
  const firstInk = layers.findIndex((layer) => layer.medium === 'ink');
  const pictures = ofKind(page, 'picture').sort(byOrder);
  const on = (some: readonly LayerEntity[]) =>
    some
      .filter((layer) => layer.medium === 'rough' && !layer.hidden)
      .flatMap((layer) => pictures.filter((picture) => picture.layerId === layer.id));
  return firstInk < 0
    ? { under: on(layers), over: [] }
    : { under: on(layers.slice(0, firstInk)), over: on(layers.slice(firstInk)) };
}

export function drawRoughs(
  context: CanvasRenderingContext2D,
  pictures: readonly PictureEntity[],
  store: Pictures,
  map: Matrix,
): void {
  for (const picture of pictures) {
    const levels = store.levels(picture);
    if (levels) drawPicture(context, picture, levels, map);
  }
}

/** White paper, the one white thing in the room. */
export function drawPaper(context: CanvasRenderingContext2D, page: Page, map: Matrix): void {
  const { width, height } = page.size;
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.clearRect(0, 0, context.canvas.width, context.canvas.height);
  context.setTransform(...map);
  context.fillStyle = '#ffffff';
  context.fillRect(0, 0, width, height);
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
  context.globalAlpha = 1;
  context.setTransform(...map);
  context.shadowColor = shadow;
  context.shadowBlur = 14;
  context.shadowOffsetY = 2;
  context.fillRect(0, 0, width, height);
  context.restore();
}
