import { find, type Page } from '@true-nib/core/page';
import type { EntityId } from '@true-nib/core/kind';
import type { GuideEntity, GuideKind } from '@true-nib/core/guides';
import type { LinePath } from '@true-nib/core/curve';
import { keptStore } from '../base';

/** How a loop is raked. Lengths in page px, shares in percent. */
export interface RakeChoice {
  readonly spacing: number;
  readonly jitter: number;
  readonly ragged: number;
  /** The share of the loop, about its middle, that stays free; 0 for none. */
  readonly calm: number;
}

/** What lies on the desk about guides. The guides themselves are part of the page. */
export interface GuideDesk {
  /** Whether lines follow guides at all. */
  readonly guided: boolean;
  /** A key says that the next line is free. */
  readonly isFree: boolean;
  /** A key says that the hand moves edges instead of drawing. */
  readonly isSliding: boolean;
  /** What the next drag on the page lays down; nothing to move what is there. */
  readonly laying: GuideKind | undefined;
  /** The template that is laid down next. */
  readonly templateId: string;
  /** The guide in hand. */
  readonly guideId: EntityId | undefined;
  /** The next touch says where the straightedge in hand is to aim. */
  readonly isAiming: boolean;
  /** CSS px from an edge within which a line rides it. */
  readonly reach: number;
  /** CSS px that the hand goes before a field is chosen by its direction. */
  readonly choosing: number;
  /** What bears the line that is being drawn. */
  readonly bearer: string | undefined;
  /** The straight line that it runs along, of a frame: its direction is shown while it is drawn. */
  readonly bearing: LinePath | undefined;
  readonly rake: RakeChoice;
  /** The set of symmetric strokes whose edits are done to all of it. */
  readonly awakeSet: EntityId | undefined;
  readonly isListOpen: boolean;
}

export const useGuides = keptStore<GuideDesk>({
  name: 'true-nib.guides',
  version: 1,
  fresh: {
    guided: true,
    isFree: false,
    isSliding: false,
    laying: undefined,
    templateId: 'ellipse-30',
    guideId: undefined,
    isAiming: false,
    reach: 14,
    choosing: 6,
    bearer: undefined,
    bearing: undefined,
    rake: { spacing: 24, jitter: 30, ragged: 30, calm: 45 },
    awakeSet: undefined,
    isListOpen: false,
  },
  kept: ['reach', 'choosing', 'rake', 'templateId'],
});

export const setGuides = (change: Partial<GuideDesk>): void => void useGuides.setState(change);

export const toggleGuided = (): void => setGuides({ guided: !useGuides.getState().guided });

/** The guide in hand, as a page has it. */
export function guideInHand(page: Page): GuideEntity | undefined {
  const { guideId } = useGuides.getState();
  return guideId === undefined ? undefined : find(page, 'guide', guideId);
}
