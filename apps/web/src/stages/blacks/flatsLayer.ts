import { isInArea, type AreaEntity } from '@true-nib/core/area';
import type { EntityId } from '@true-nib/core/kind';
import type { Point } from '@true-nib/core/math';
import {
  newLayer,
  nodeOf,
  nodesOf,
  ofKind,
  orderBetween,
  stackOf,
  type Edit,
  type LayerEntity,
  type Page,
} from '@true-nib/core/page';
import { hiddenInWords, type Board } from '../../board';
import { newId } from '../../session';

const NAME = 'Flats';

/** Whether a layer is the one that flats go to. */
export const isFlats = ({ medium, name }: LayerEntity): boolean => medium === 'ink' && name === NAME;

/** Where flats go, and the edits that bring that about; why they can go nowhere, in a sentence. */
export function flatsLayer(page: Page): { readonly layer: LayerEntity; readonly edits: readonly Edit[] } | string {
  const nodes = nodesOf(stackOf(page));
  const known = nodes.find(({ layer }) => isFlats(layer));
  if (known?.isLocked) return `${known.layer.name} is locked.`;
  if (known?.isHidden) return hiddenInWords(page, known.layer);
  if (known) return { layer: known.layer, edits: [] };
  const lowest = nodes.find(({ layer }) => layer.medium === 'ink')?.layer;
  const parent = lowest?.parentId === undefined ? undefined : nodeOf(page, lowest.parentId);
  const siblings = parent?.children ?? stackOf(page);
  const at = siblings.findIndex(({ layer }) => layer.id === lowest?.id);
  const layer = newLayer({
    ...{ id: newId(), medium: 'ink', name: NAME },
    order: orderBetween(siblings[at - 1]?.layer.order, siblings[Math.max(0, at)]?.layer.order),
    ...(parent && lowest?.parentId !== undefined && { parentId: lowest.parentId }),
  });
  return { layer, edits: [{ before: null, after: layer }] };
}

/** The flats of a page. */
export const flatsOf = (page: Page, layerId?: EntityId): AreaEntity[] =>
  ofKind(page, 'area').filter(
    (area) => area.poured !== undefined && (layerId === undefined || area.layerId === layerId),
  );

/** The flat at a place that lies highest. */
export const flatAt = ({ session }: Board, layerId: EntityId, at: Point): AreaEntity | undefined =>
  flatsOf(session.page, layerId).findLast((area) => isInArea(area, at));
