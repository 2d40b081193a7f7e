import { outlineOf } from '@true-nib/core/ink';
import type { DrawnEntity } from '@true-nib/core/drawn';
import { joinedRings, ringsFrom } from '@true-nib/core/mend';
import type { Area } from '@true-nib/core/area';
import { selectionSlot } from '../../select';
import type { Board } from '../../board';
import { layDown } from '../../hand';
import { areaWithin, filledLayer, FILLING_IN_WORDS, fillOf, type FillingTool } from './filling';

/** Fills the outline of all that is selected: what its lines go round, and what its areas cover. */
export function fillSelection(board: Board, tool: FillingTool): void {
  const target = filledLayer(board);
  if (typeof target === 'string') return board.notice(target);
  const fill = fillOf(tool, board);
  const { entities } = board.of(selectionSlot);
  if (entities.length === 0) return board.notice('Select lines or areas first: their outline is filled.');
  const rings = joinedRings(entities.map(outlined));
  if (rings.length === 0) return board.notice('What is selected goes round nothing.');
  layDown(board, target, FILLING_IN_WORDS[tool], [{ rings, fill }]);
}

/** What something goes round, its ink included. */
function outlined(entity: DrawnEntity): Area {
  if (entity.kind === 'area') return entity;
  const round = areaWithin([entity.spine], { as: 'nothing' });
  return { ...round, rings: [...round.rings, ...ringsFrom(outlineOf(entity).rings, { isEased: false })] };
}
