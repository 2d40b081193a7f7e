import { asEntities, begunSlot, type Board } from '../board';
import { isLineThing, type Thing } from '@true-nib/core/drawn';
import type { Edit, LayerEntity } from '@true-nib/core/page';
import type { SamplesEntity } from '@true-nib/core/stroke';
import { thingsWithCopies } from '../guiding';
import { lastEndSlot } from './lastEnd';
import { washingSlot } from '../wash';

/** Where a line goes: its layer, and the edits that bring that about. */
export interface LineTarget {
  readonly layer: LayerEntity;
  readonly edits: readonly Edit[];
}

/** Lines and dots that may come at once, copies included. */
const MOST = 20_000;

/**
 * Makes many things part of the page that are not shown as part of it yet, with their symmetric copies: one change. Answers
 * whether it was made.
 */
export function layManyDown(board: Board, target: LineTarget, label: string, things: readonly Thing[]): boolean {
  const { picture, session, notice } = board;
  const { layer, edits } = target;
  if (layer.medium === 'wash') {
    layDown(board, target, label, things);
    return true;
  }
  const all = thingsWithCopies(session.page, layer.id, things);
  if (all.length > MOST) {
    notice(`With all copies this would be ${all.length} lines. Make the spacing wider or the loop smaller.`);
    return false;
  }
  const top = picture.inks.index.topOrder(layer.id);
  const entities = asEntities(all, { layerId: layer.id, top, panelId: board.of(begunSlot).panelId });
  return session.commit(label, [...edits, ...entities.map((after): Edit => ({ before: null, after }))]);
}

/**
 * Makes lines and areas, which are shown already, part of the page, with their symmetric copies: one change. Nodes or pixels
 * come of it as the layer has them. `samples` are the hand's, where a hand drew it.
 */
export function layDown(
  board: Board,
  { layer, edits }: LineTarget,
  label: string,
  things: readonly Thing[],
  samples?: SamplesEntity,
): void {
  const { picture, session } = board;
  const last = things.at(-1);
  if (last && isLineThing(last)) board.of(lastEndSlot).remember(last.spine);
  const all = thingsWithCopies(session.page, layer.id, things);
  const top = picture.inks.index.topOrder(layer.id);
  const entities = asEntities(all, { layerId: layer.id, top, panelId: board.of(begunSlot).panelId });
  if (layer.medium === 'wash') {
    picture.layDownLive(() => {
      picture.addMarks(entities);
      return true;
    });
    return void board.of(washingSlot).turn(label, layer.id, entities);
  }
  const isDrawn = samples !== undefined && things.some((thing) => isLineThing(thing) && thing.origin !== undefined);
  const drawn = [...(isDrawn ? [samples] : []), ...entities].map((after): Edit => ({ before: null, after }));
  picture.layDownLive(() => session.commit(label, [...edits, ...drawn]));
}
