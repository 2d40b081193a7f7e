import { create } from 'zustand';
import { paperOf } from '@true-nib/core/page';
import { PAPER_WHITE } from '@true-nib/core/nib';
import { still, type Board, type Gesture, type PageKeep, type PageSlot, type Press } from '../board';
import { colourAt } from '../render';
import { changeNib } from './rackStore';

/** Whether the next touch of the page picks a colour up: while a key is held, or once. */
export const usePick = create<{ readonly isHeld: boolean; readonly isOnce: boolean }>()(() => ({
  isHeld: false,
  isOnce: false,
}));

/** Takes the colour of a place of the page in hand. */
class PickHand implements PageKeep {
  constructor(private readonly board: Board) {}

  dispose(): void {
    usePick.setState({ isHeld: false, isOnce: false });
  }

  letGo(): boolean {
    const { isOnce } = usePick.getState();
    usePick.setState({ isOnce: false });
    return isOnce;
  }

  seize({ at, notice }: Press, otherwise: () => Gesture | undefined): Gesture | undefined {
    const { isHeld, isOnce } = usePick.getState();
    if (!isHeld && !isOnce) return otherwise();
    usePick.setState({ isOnce: false });
    const { picture, session } = this.board;
    const color = colourAt(picture.inks.index, at) ?? paperOf(session.page) ?? PAPER_WHITE;
    changeNib({ color });
    notice(`${color} is in hand.`);
    return still;
  }
}

export const pickSlot: PageSlot<PickHand> = { open: (board) => new PickHand(board) };
