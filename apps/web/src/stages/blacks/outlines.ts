import { ringsRound, shapeOf } from '@true-nib/core/regions';
import { selectionSlot } from '../../select';
import type { Board } from '../../board';
import { layDown } from '../../hand';
import { filledLayer, FILLING_IN_WORDS, fillOf, type FillingTool } from './filling';

/** Fills the outline of all that is selected: what its lines go round, and what its areas cover. */
export function fillSelection(board: Board, tool: FillingTool): void {
  const target = filledLayer(board);
  if (typeof target === 'string') return board.notice(target);
  const fill = fillOf(tool, board);
  const { entities } = board.of(selectionSlot);
  if (entities.length === 0) return board.notice('Select lines or areas first: their outline is filled.');
  const rings = ringsRound(entities.flatMap((entity) => shapeOf(entity) ?? []));
  if (rings.length === 0) return board.notice('What is selected goes round nothing.');
  layDown(board, target, FILLING_IN_WORDS[tool], [{ rings, fill }]);
}
