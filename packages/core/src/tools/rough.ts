import {
  bottomOfStack,
  draftChange,
  freeLayerName,
  newLayer,
  orderBetween,
  topOfStack,
  type Change,
  type LayerEntity,
  type Page,
  type PictureEntity,
} from '../page';
import type { EntityId } from '../kind';
import { fittedPlacement } from './place';

/** A picture that is brought in: its bytes' fingerprint and its size in its own px. */
export interface BroughtPicture {
  readonly blob: string;
  readonly width: number;
  readonly height: number;
}

/** Brings a picture in as a rough on a layer of its own under everything: fitted and centred where nothing else is said, at half strength, tinted blue. */
export function bringInRough(
  page: Page,
  picture: BroughtPicture,
  ids: { readonly layer: EntityId; readonly picture: EntityId },
  placement = fittedPlacement(picture, page.size),
): Change {
  const name = freeLayerName(page, 'Rough');
  const layer = newLayer({ id: ids.layer, medium: 'rough', name, order: bottomOfStack(page) });
  const rough: PictureEntity = {
    kind: 'picture',
    id: ids.picture,
    layerId: layer.id,
    order: orderBetween(undefined, undefined),
    ...picture,
    placement,
    opacity: 0.5,
    tint: 'blue',
  };
  return draftChange('Bring in a rough', [
    { before: null, after: layer },
    { before: null, after: rough },
  ]);
}

/** Lays a rough's layer under everything, or over it. */
export function layRough(page: Page, layer: LayerEntity, place: 'under' | 'over'): Change {
  const { parentId: _gone, ...outermost } = layer;
  const order = place === 'over' ? topOfStack(page) : bottomOfStack(page);
  return draftChange(place === 'over' ? 'Rough over the inks' : 'Rough under the inks', [
    { before: layer, after: { ...outermost, order } },
  ]);
}

/** Changes a rough itself: its placement, opacity or tint. */
export const changeRough = (rough: PictureEntity, label: string, change: Partial<PictureEntity>): Change =>
  draftChange(label, [{ before: rough, after: { ...rough, ...change } }], [rough.layerId]);

/** Fits a rough to the page again. */
export const fitRough = (page: Page, rough: PictureEntity): Change =>
  changeRough(rough, 'Fit the rough', { placement: fittedPlacement(rough, page.size) });

/** Takes a rough away with its layer. */
export const removeRough = (layer: LayerEntity, rough: PictureEntity): Change =>
  draftChange('Remove the rough', [
    { before: rough, after: null },
    { before: layer, after: null },
  ]);
