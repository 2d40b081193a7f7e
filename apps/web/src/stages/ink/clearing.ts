import type { LayerEntity } from '@true-nib/core/page';
import { widthUnder, type Nib } from '@true-nib/core/nib';
import { recolouredEdits, rubbedAreas, rubbedEdits } from '@true-nib/core/tools';
import type { Board, Gesture } from '../../board';
import { areasOf, beginCutting, linesOf, styledBy, type LegCut } from '../../hand';
import { newId } from '../../session';
import { beginMarks } from '../../wash';

export const recolouring =
  ({ size, color }: Nib): LegCut =>
  (near, leg, index) =>
    recolouredEdits(linesOf(near), { course: leg, radius: size / 2 }, color, newId, styledBy(index));

/** Takes lines or pixels away under the nib itself, as wide as it presses. */
export function beginClearing(board: Board, layer: LayerEntity, nib: Nib): Gesture {
  if (layer.medium === 'wash') return beginMarks(board, layer.id, 'Clear', { ...nib, lays: 'clearing' });
  const cut: LegCut = (near, leg, index) => {
    const width = leg.reduce((sum, { pressure }) => sum + widthUnder(nib, pressure), 0) / leg.length;
    const swept = { course: leg, radius: width / 2 };
    return [...rubbedEdits(linesOf(near), swept, newId, styledBy(index)), ...rubbedAreas(areasOf(near), swept)];
  };
  return beginCutting(board, layer.id, 'Clear', { reach: nib.size / 2, cut, legwise: true });
}
