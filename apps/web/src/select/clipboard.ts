import { bareOf, holdOfAll, mapped, type DrawnEntity } from '@true-nib/core/drawn';
import { drawnToSvg, svgToDrawn } from '@true-nib/core/formats';
import { translation, projectiveOf } from '@true-nib/core/math';
import { ordersBetween, type PageSize } from '@true-nib/core/page';
import { PageError } from '@true-nib/core/gate';
import type { EntityId } from '@true-nib/core/kind';
import type { Nib } from '@true-nib/core/nib';
import type { TakenPixels } from '../render';
import { newId } from '../session';

/** Page px by which what is pasted lies beside what it was copied from. */
const BESIDE = 24;

/** What was copied last, for browsers that keep their clipboard from us, and so that raw samples stay with their page. */
let copied: { readonly svg: string; readonly entities: readonly DrawnEntity[] } | undefined;

/** Pixels that were copied last, later than anything drawn here; whether the clipboard of the system has them, too. */
let pixels: { readonly taken: TakenPixels; readonly isShared: boolean } | undefined;

function holdPixels(taken: TakenPixels | undefined): void {
  pixels?.taken.bitmap.close();
  pixels = taken && { taken, isShared: false };
}

/** Copies pixels: as they are for this desk, as PNG for all others. */
export function copyPixels(taken: TakenPixels): void {
  holdPixels(taken);
  void share(taken);
}

async function share(taken: TakenPixels): Promise<void> {
  try {
    const { bitmap } = taken;
    const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
    canvas.getContext('2d')?.drawImage(bitmap, 0, 0);
    const png = await canvas.convertToBlob({ type: 'image/png' });
    await navigator.clipboard.write([new ClipboardItem({ [png.type]: png })]);
    if (pixels?.taken === taken) pixels = { taken, isShared: true };
  } catch {
    // As for lines: what was copied is still here.
  }
}

/** The pixels that were copied last; nothing when lines were copied since, here or elsewhere. */
export async function pixelsToPaste(): Promise<TakenPixels | undefined> {
  if (!pixels) return undefined;
  return pixels.isShared && isSvg(await clipboardText()) ? undefined : pixels.taken;
}

const isSvg = (text: string | undefined): boolean => text !== undefined && /<svg[\s>]/i.test(text.slice(0, 2_000));

/** The text on the clipboard, where a browser lets us read it. */
async function clipboardText(): Promise<string | undefined> {
  try {
    return await navigator.clipboard.readText();
  } catch {
    return undefined;
  }
}

/** Pixels where they were, or, when they would miss the page, in its middle. */
export function onPage(taken: TakenPixels, { width, height }: PageSize): TakenPixels {
  const isOff = taken.x + taken.width < 0 || taken.y + taken.height < 0 || taken.x > width || taken.y > height;
  return isOff ? { ...taken, x: (width - taken.width) / 2, y: (height - taken.height) / 2 } : taken;
}

/** Copies what was drawn: as it is for this desk, as SVG for all others. */
export async function copyDrawn(entities: readonly DrawnEntity[]): Promise<void> {
  const bare = entities.map(bareOf);
  copied = { svg: drawnToSvg(bare), entities: bare };
  holdPixels(undefined);
  try {
    await navigator.clipboard.writeText(copied.svg);
  } catch {
    // Plain HTTP and some browsers have no clipboard: what was copied is still here.
  }
}

/**
 * What is on the clipboard: what was copied here as it was, an SVG's lines otherwise. Throws a PageError when there is
 * nothing to paste, or nothing that can be.
 */
export async function drawnToPaste(nib: Nib): Promise<readonly DrawnEntity[]> {
  const text = await clipboardText();
  if (copied && (text === undefined || text === '' || text === copied.svg)) return copied.entities;
  if (text === undefined || !isSvg(text))
    throw new PageError('There is nothing to paste: copy lines here, or an SVG elsewhere.');
  return svgToDrawn(text, nib);
}

/** Things put a little beside where they were, or, when they would miss the page, in its middle. */
export function besides(entities: readonly DrawnEntity[], size: PageSize): DrawnEntity[] {
  const box = holdOfAll(entities);
  const isOff = box.maxX < 0 || box.maxY < 0 || box.minX > size.width || box.minY > size.height;
  const [dx, dy] = isOff
    ? [size.width / 2 - (box.minX + box.maxX) / 2, size.height / 2 - (box.minY + box.maxY) / 2]
    : [BESIDE, BESIDE];
  return mapped(entities, projectiveOf(translation(dx, dy)), { scaleWidth: false });
}

/** Things as new ones on top of a layer. */
export function pastedOn(entities: readonly DrawnEntity[], layerId: EntityId, top: string | undefined): DrawnEntity[] {
  const orders = ordersBetween(top, undefined, entities.length);
  return entities.map((entity, k) => ({ ...entity, id: newId(), layerId, order: orders[k] }));
}
