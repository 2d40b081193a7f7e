import { oraToPage, type OraLayer, type Pixels } from '@true-nib/core/formats';
import {
  draftChange,
  newLayer,
  ordersBetween,
  WASH_SIDE,
  WASH_TYPE,
  washTile,
  type Edit,
  type LayerEntity,
  type PictureEntity,
} from '@true-nib/core/page';
import { pack } from '@true-nib/core/wire';
import { createPage, type PageCard } from '../api';
import { sha256Of } from '../base';
import { packTile, pixelsOf } from '../render';
import { author, httpTransport, newId } from '../session';

/** What came of a file of layers. */
export interface BroughtIn {
  readonly page: PageCard;
  /** What could not be taken as it is, in sentences. */
  readonly said: readonly string[];
}

/**
 * Brings an OpenRaster file in as a page of a folio: its layers as Wash layers, those that multiply as Roughs over the inks. Throws what the
 * file's reader throws, with nothing made.
 */
export async function bringInLayers(file: File, folioId: string): Promise<BroughtIn> {
  const { size, layers, said } = await oraToPage(new Uint8Array(await file.arrayBuffer()), decoded);
  const blobs = new Map<string, Blob>();
  const edits = await laid(layers, undefined, blobs);
  const page = await createPage({ folioId, name: file.name.replace(/\.ora$/i, '') || 'Layers', ...size });
  for (const [sha256, bytes] of blobs) await httpTransport.sendBlob(sha256, bytes);
  const change = { ...draftChange('Bring in layers', edits), id: newId(), by: author(), at: Date.now() };
  await httpTransport.send(page.id, { revision: 0, lastId: undefined }, [change], [pack(change)]);
  return { page, said };
}

async function laid(
  layers: readonly OraLayer[],
  parentId: string | undefined,
  blobs: Map<string, Blob>,
): Promise<Edit[]> {
  const orders = ordersBetween(undefined, undefined, layers.length);
  const edits: Edit[] = [];
  for (const [k, layer] of layers.entries()) {
    const { name, opacity, hidden, children, multiplies } = layer;
    const medium: LayerEntity['medium'] = children ? 'group' : multiplies ? 'rough' : 'wash';
    const id = newId();
    const after = newLayer({
      ...{ id, name, medium, opacity, hidden, order: orders[k] },
      ...(parentId && { parentId }),
    });
    edits.push({ before: null, after });
    if (children) edits.push(...(await laid(children, id, blobs)));
    else if (multiplies) edits.push({ before: null, after: await pictureOf(layer, id, blobs) });
    else edits.push(...(await tilesOf(layer, id, blobs)));
  }
  return edits;
}

/** A layer as a rough: a picture that lies where it lay. */
async function pictureOf(
  { x, y, pixels }: OraLayer,
  layerId: string,
  blobs: Map<string, Blob>,
): Promise<PictureEntity> {
  const canvas = canvasOf(pixels);
  const { width, height } = canvas;
  const bytes = await canvas.convertToBlob({ type: 'image/png' });
  const blob = await sha256Of(await bytes.arrayBuffer());
  blobs.set(blob, bytes);
  return {
    ...{ kind: 'picture', id: newId(), layerId, order: 'a0', blob, width, height, opacity: 1, tint: 'none' },
    placement: { x: x + width / 2, y: y + height / 2, scale: 1, angle: 0 },
  };
}

/** A layer as pixels of a Wash: the squares that have any. */
async function tilesOf({ x, y, pixels }: OraLayer, layerId: string, blobs: Map<string, Blob>): Promise<Edit[]> {
  const canvas = canvasOf(pixels);
  const context = canvas.getContext('2d');
  const edits: Edit[] = [];
  const [left, top] = [Math.floor(x / WASH_SIDE), Math.floor(y / WASH_SIDE)];
  for (let row = top; row * WASH_SIDE < y + canvas.height; row++)
    for (let column = left; column * WASH_SIDE < x + canvas.width; column++) {
      // What lies beside the picture comes back as nothing.
      const image = context?.getImageData(column * WASH_SIDE - x, row * WASH_SIDE - y, WASH_SIDE, WASH_SIDE);
      if (!image?.data.some((value, i) => i % 4 === 3 && value > 0)) continue;
      const { blob, bytes } = await packTile(image);
      blobs.set(blob, new Blob([bytes], { type: WASH_TYPE }));
      edits.push({ before: null, after: washTile(layerId, column, row, blob) });
    }
  return edits;
}

function canvasOf(pixels: Pixels | undefined): OffscreenCanvas {
  const { width, height } = pixels ?? { width: 1, height: 1 };
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (pixels) context?.putImageData(new ImageData(new Uint8ClampedArray(pixels.rgba), width, height), 0, 0);
  return canvas;
}

/** A PNG as its pixels. Throws where it is none. */
async function decoded(png: Uint8Array): Promise<Pixels> {
  const bitmap = await createImageBitmap(new Blob([new Uint8Array(png)], { type: 'image/png' }));
  const { width, height, data } = pixelsOf(bitmap);
  bitmap.close();
  return { width, height, rgba: data };
}
