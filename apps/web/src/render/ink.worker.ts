import type { Matrix } from '@true-nib/core/math';
import { entitiesIn, type Edit, type EntityId, type PackedParts, type PageSize } from '@true-nib/core/page';
import { expose, transfer } from 'comlink';
import type { StackLook } from './stackLook';
import { InkDesk, unpackedList } from './inkDesk';

let desk: InkDesk | undefined;

const service = {
  load(size: PageSize, parts: PackedParts): void {
    desk = new InkDesk(size, [...entitiesIn(parts, false)]);
  },

  edit(edits: Uint8Array): void {
    desk?.edit(unpackedList<Edit>(edits));
  },

  setLook(look: StackLook): void {
    desk?.setLook(look);
  },

  setAside(ids: readonly EntityId[]): void {
    desk?.setAside(ids);
  },

  /** A picture of the inks; nothing before a page is loaded. */
  picture(map: Matrix, width: number, height: number): ImageBitmap | undefined {
    if (!desk) return undefined;
    const bitmap = desk.picture(map, width, height).transferToImageBitmap();
    return transfer(bitmap, [bitmap]);
  },

  /** A picture of one layer alone, as it shows its lines. */
  layerPicture(layerId: EntityId, map: Matrix, width: number, height: number): ImageBitmap | undefined {
    if (!desk) return undefined;
    const bitmap = desk.layerPicture(layerId, map, width, height).transferToImageBitmap();
    return transfer(bitmap, [bitmap]);
  },
};

export type InkService = typeof service;

expose(service);
