import { asEntities, type Board, targetInHand } from '../../board';
import type { FoldShape } from '@true-nib/core/guides';
import { isKind, type Edit } from '@true-nib/core/page';
import type { Stroke } from '@true-nib/core/stroke';
import { mirroredInDepth } from '../../guiding';
import { selectionSlot } from '../../select';

/** The selected lines without what makes each of them one line of the page. */
export const selectedLines = (board: Board): Stroke[] =>
  board
    .of(selectionSlot)
    .lowestFirst.filter((entity) => isKind(entity, 'stroke'))
    .map(({ kind: _kind, id: _id, layerId: _layer, order: _order, ...line }) => line);

/** Inks the selected lines mirrored across an axis in depth. */
export function mirrorSelected(board: Board, shape: FoldShape): void {
  const { session, notice, picture } = board;
  const target = targetInHand(board);
  if (typeof target === 'string') return notice(target);
  const selected = selectedLines(board);
  if (selected.length === 0) return notice('Select the lines that are to be mirrored.');
  const lines = mirroredInDepth(session.page, selected, shape);
  if (lines.length === 0) return notice('Their images would lie behind the viewer.');
  const order = picture.inks.index.topOrder(target.layer.id);
  const edits = asEntities(lines, { layerId: target.layer.id, top: order }).map((after): Edit => ({
    before: null,
    after,
  }));
  session.commit(`Mirror ${lines.length} lines`, [...target.edits, ...edits]);
}
