import { find } from '@true-nib/core/page';
import { useEffect } from 'react';
import { isBilevel, useDeliverChoice } from '../../deliver';
import { isInHand, useBoard, usePage, useDesk, workbench } from '../../board';
import { roughOf } from '../trace';
import { useShallow } from 'zustand/react/shallow';

/**
 * Shows the handles of the rough in hand while it can be moved, and hides roughs while one peeks by button or key, or is
 * about to deliver without them.
 */
export function useRoughInHand(): void {
  const board = useBoard();
  const page = usePage(board);
  const { stage, isPlacing, isPlain, roughId, peeking } = useDesk(
    useShallow((desk) => ({
      ...{ stage: desk.stage, roughId: desk.roughId, peeking: desk.peeking },
      isPlacing: isInHand(desk, 'place-rough'),
      isPlain: workbench.isPlain(desk),
    })),
  );
  const isDelivered = useDeliverChoice(({ choice }) => choice.withRough && !isBilevel(choice));
  const isHidden = peeking || (isPlain && !isDelivered);
  useEffect(() => {
    const rough = isPlacing ? roughOf(page, roughId) : undefined;
    const isLoose = rough !== undefined && find(page, 'layer', rough.layerId)?.locked === false;
    board.picture.setGrips(isLoose ? rough : undefined);
    if (rough && rough.id !== roughId) useDesk.setState({ roughId: rough.id });
  }, [board, page, isPlacing, roughId]);
  useEffect(() => board.picture.setRing(undefined), [board, stage]);
  useEffect(() => board.picture.setPeek(isHidden), [board, isHidden]);
}
