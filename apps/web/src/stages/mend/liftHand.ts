import { liftedEdits } from '@true-nib/core/tools';
import { type Board, refuse, type Gesture, targetInHand } from '../../board';
import { beginCutting, type LegCut } from '../../hand';
import { zoomOf } from '../../render';

/** CSS px that a finger can aim at. */
const FINGER = 22;

/** Lifts what it touches off the layer in hand, whole. */
export function beginLifting(board: Board): Gesture {
  const target = targetInHand(board);
  if (typeof target === 'string') return refuse(board.notice, target);
  if (target.layer.medium === 'wash')
    return refuse(board.notice, `${target.layer.name} holds pixels, no lines to lift. Rub them, or select and delete.`);
  const reach = FINGER / zoomOf(board.picture.view);
  const lift: LegCut = (near, leg, index) =>
    liftedEdits(near, leg[0], leg[leg.length - 1], reach, (entity) => index.shown(entity));
  return beginCutting(board, target.layer.id, 'Lift', { reach, cut: lift, legwise: true });
}
