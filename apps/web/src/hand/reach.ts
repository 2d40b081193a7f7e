import { panelLayers } from '@true-nib/core/comic';
import type { Box } from '@true-nib/core/math';
import { edgeNamed, mendableLines, type ShownLine } from '@true-nib/core/mend';
import type { StrokeEntity } from '@true-nib/core/stroke';
import { nodesOf, stackOf, type Page } from '@true-nib/core/page';
import type { EntityId } from '@true-nib/core/kind';
import { useDesk, asSeen, hiddenInWords, layerInHand, type Board } from '../board';

/** Which layers' lines are cut, and stop others: the one in hand, all Ink layers, or those chosen in the stack. */
export type MendReach = 'layer' | 'inks' | 'chosen';
/** CSS px that a hand may miss a line or a mark by: a finger's. */
export const FINGER = 22;

/** Layers of Ink that mending reaches: those whose lines may change, and those whose lines are met besides. */
export interface Reached {
  readonly changing: readonly EntityId[];
  /** Visible ones, locked ones too. */
  readonly met: readonly EntityId[];
}

/**
 * The layers that are reached, or why there are none, in a sentence. Locked and hidden layers never change; what is hidden
 * is not met either.
 */
export function reachedLayers(page: Page, reach: MendReach): Reached | string {
  const { layerId, chosenLayers } = useDesk.getState();
  const inHand = layerInHand(page, layerId);
  if (reach === 'layer' || reach === 'chosen') {
    if (inHand?.layer.medium !== 'ink') return 'Lines are mended on Ink layers: take one in hand.';
    if (inHand.isLocked) return `${inHand.layer.name} is locked.`;
    if (inHand.isHidden) return hiddenInWords(page, inHand.layer);
  }
  const inks = nodesOf(stackOf(page))
    .filter(({ layer }) => layer.medium === 'ink')
    .map((node) => asSeen(page, node));
  const isReached = (id: EntityId) =>
    reach === 'inks' || id === inHand?.layer.id || (reach === 'chosen' && chosenLayers.includes(id));
  const reached = inks.filter(({ layer, isHidden }) => !isHidden && isReached(layer.id));
  const changing = reached.filter(({ isLocked }) => !isLocked).map(({ layer }) => layer.id);
  if (changing.length === 0) return 'Every Ink layer is locked or hidden.';
  // A border stops lines whatever layer they are on.
  const bordered = panelLayers(page);
  const met = inks.filter((node) => reached.includes(node) || (!node.isHidden && bordered.has(node.layer.id)));
  return { changing, met: met.map(({ layer }) => layer.id) };
}

/** Lines of a layer whose ink may lie in a box, as they are kept; the edges of areas are lines, too. */
export const linesOn = ({ picture }: Board, layerId: EntityId, box: Box): StrokeEntity[] =>
  picture.drawnOn(layerId, box).flatMap(mendableLines);

/** Lines of some layers whose ink may lie in a box, as they are kept and as they are shown. */
export function linesNear(board: Board, layerIds: readonly EntityId[], box: Box): ShownLine[] {
  const { index } = board.picture.inks;
  // An edge has no weight that a layer could show otherwise.
  return layerIds
    .flatMap((id) => linesOn(board, id, box))
    .map((kept) => ({ kept, shown: edgeNamed(kept.id) ? kept : index.styled(kept) }));
}
