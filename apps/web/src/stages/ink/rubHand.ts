import type { Nib } from '@true-nib/core/nib';
import { rubbedAreas, rubbedDots, rubbedEdits, rubbedPanels } from '@true-nib/core/tools';
import { type Board, calmedGesture, refuse, type Gesture, targetInHand } from '../../board';
import { areasOf, beginCutting, dotsOf, linesOf, panelsOf, styledBy } from '../../hand';
import { nibInHand, rubSizeFor, useRack } from '../../nibs';
import { zoomOf } from '../../render';
import { newId } from '../../session';
import { beginMarks } from '../../wash';
import { useMend } from '../mend';

/** What takes pixels away under a round tip of a size. */
const rubber = (size: number): Nib => ({
  ...{ name: 'Rub', size, thinnest: 1, taperIn: 0, taperOut: 0, color: '#000000' },
  lays: 'clearing',
});

/** Rubs what it touches of the layer in hand. */
export function beginRubbing(board: Board): Gesture {
  const target = targetInHand(board);
  if (typeof target === 'string') return refuse(board.notice, target);
  const size = rubSizeFor(board.session.page);
  const { calm } = nibInHand(useRack.getState()).twin;
  const { cutEnd } = useMend.getState();
  const rub =
    target.layer.medium === 'wash'
      ? beginMarks(board, target.layer.id, 'Rub', rubber(size))
      : beginCutting(board, target.layer.id, 'Rub', {
          reach: size / 2,
          cut: (near, leg, index) => {
            const swept = { course: leg, radius: size / 2 };
            return [
              ...rubbedEdits(linesOf(near), swept, newId, styledBy(index), cutEnd),
              ...rubbedAreas(areasOf(near), swept),
              ...rubbedDots(dotsOf(near), swept),
              ...rubbedPanels(panelsOf(near), swept),
            ];
          },
        });
  return calmedGesture(rub, calm, zoomOf(board.picture.view));
}
