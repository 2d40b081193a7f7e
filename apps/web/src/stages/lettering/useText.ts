import type { LetteringEntity } from '@true-nib/core/lettering';
import type { BalloonEntity } from '@true-nib/core/balloon';
import { find, type Page } from '@true-nib/core/page';
import { useBoard, usePage } from '../../board';
import { letterSlot } from './letterHand';
import { useLetters } from './letterStore';

/** The page, the text that is typed into, and the balloon that it stands in. */
export function useText(): {
  readonly page: Page;
  readonly text: LetteringEntity | undefined;
  readonly balloon: BalloonEntity | undefined;
} {
  const board = useBoard();
  const page = usePage(board);
  useLetters((state) => state.chosen);
  const { text } = board.of(letterSlot);
  return { page, text, balloon: text?.fit.as === 'balloon' ? find(page, 'balloon', text.fit.balloonId) : undefined };
}
