import { letterLayers, panelLayers } from '@true-nib/core/comic';
import {
  newLayer,
  nodeOf,
  nodesOf,
  orderBetween,
  stackOf,
  topOfStack,
  type Edit,
  type LayerEntity,
  type Page,
  type StackNode,
} from '@true-nib/core/page';
import type { EntityId } from '@true-nib/core/kind';
import { isShownUnder } from '../render';
import { newId } from '../session';
import type { Board } from './board';
import { useDesk } from './desk';

/** A layer as the board shows it: hidden, too, when it is out of sight because others are alone. */
export function asSeen(page: Page, node: StackNode): StackNode {
  const { solo } = useDesk.getState();
  if (solo.length === 0 || isShownUnder({ solo, standIns: false }, node, stackOf(page))) return node;
  return { ...node, isHidden: true };
}

/** The layer that is drawn on, as it is seen: the one in hand, or the highest Ink layer while none is. */
export function layerInHand(page: Page, layerId: EntityId | undefined): StackNode | undefined {
  const nodes = nodesOf(stackOf(page));
  // Borders and lettering lie over all inks: nobody means to ink among them.
  const borders = overInks(page);
  const node =
    nodes.find(({ layer }) => layer.id === layerId) ??
    nodes.filter(({ layer }) => layer.medium === 'ink' && !borders.has(layer.id)).at(-1);
  return node && asSeen(page, node);
}

/** The layer of an open page that is drawn on. */
export const nodeInHand = ({ session, desk }: Pick<Board, 'session' | 'desk'>): StackNode | undefined =>
  layerInHand(session.page, desk().layerId);

/** The layer that strokes on an open page go to; a reason where they cannot. */
export const targetInHand = ({ session, desk }: Pick<Board, 'session' | 'desk'>) =>
  drawnLayer(session.page, desk().layerId);

/** The layers of borders and lettering. */
const overInks = (page: Page): ReadonlySet<EntityId> => new Set([...panelLayers(page), ...letterLayers(page)]);

/** The order of a layer that goes to the top of the stack, but under borders and lettering. */
export function underBorders(page: Page): string {
  const stack = stackOf(page);
  const borders = overInks(page);
  const at = stack.findIndex(({ layer }) => borders.has(layer.id));
  return at < 0 ? topOfStack(page) : orderBetween(stack[at - 1]?.layer.order, stack[at].layer.order);
}

/** Why nothing can be done to a layer that is not seen. */
export const hiddenInWords = (page: Page, { id, name }: LayerEntity): string =>
  nodeOf(page, id)?.isHidden ? `${name} is hidden.` : `${name} is not seen: other layers are alone.`;

/** The layer that strokes go to: the one in hand, or an Ink layer to be added with the first stroke. Else a reason why not. */
export function drawnLayer(
  page: Page,
  layerId: EntityId | undefined,
): { readonly layer: LayerEntity; readonly edits: readonly Edit[] } | string {
  const node = layerInHand(page, layerId);
  if (!node) {
    const layer = newLayer({ id: newId(), medium: 'ink', name: 'Inks', order: underBorders(page) });
    return { layer, edits: [{ before: null, after: layer }] };
  }
  const { layer, isLocked, isHidden } = node;
  if (layer.medium !== 'ink' && layer.medium !== 'wash')
    return `${layer.name} cannot be drawn on. Take an Ink or a Wash layer in the stack.`;
  if (isLocked) return `${layer.name} is locked.`;
  if (isHidden) return hiddenInWords(page, layer);
  return { layer, edits: [] };
}
