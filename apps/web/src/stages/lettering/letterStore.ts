import type { BodyShape, TailKind } from '@true-nib/core/balloon';
import type { EntityId } from '@true-nib/core/kind';
import type { FontRef, LetterAlign } from '@true-nib/core/lettering';
import { keptStore } from '../../base';

interface LetterState {
  /** The family of the next text: one that ships, or a font of one's own. */
  readonly family: string;
  readonly own: FontRef | undefined;
  /** Points at print size. */
  readonly size: number;
  /** Percent of the size. */
  readonly leading: number;
  readonly tracking: number;
  readonly align: LetterAlign;
  readonly capitals: boolean;
  readonly shape: BodyShape;
  readonly tail: TailKind | 'none';
  /** mm of air round the text of a balloon. */
  readonly air: number;
  /** Balloons and texts that are chosen; of a balloon with several texts the one that is typed into; and that it came to be just now. */
  readonly chosen: readonly EntityId[];
  readonly textId: EntityId | undefined;
  readonly isNew: boolean;
  /** What is wrong with the chosen text, in a sentence. */
  readonly trouble: string | undefined;
}

/** How the next balloon and the next text are made. */
export const useLetters = keptStore<LetterState>({
  name: 'true-nib-letters',
  version: 1,
  kept: ['family', 'own', 'size', 'leading', 'tracking', 'align', 'capitals', 'shape', 'tail', 'air'],
  fresh: {
    ...{ family: 'comic-neue', own: undefined, size: 8, leading: 112, tracking: 0, align: 'middle', capitals: true },
    ...{ shape: 'oval', tail: 'pointed', air: 2, chosen: [], textId: undefined, isNew: false, trouble: undefined },
  },
});

export const setLetters = (change: Partial<LetterState>): void => void useLetters.setState(change);
