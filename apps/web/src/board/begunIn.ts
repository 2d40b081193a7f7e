import { framesOf } from '@true-nib/core/drawn';
import type { EntityId, LaidBase } from '@true-nib/core/kind';
import type { Point } from '@true-nib/core/math';
import type { Board, PageSlot } from './board';
import { useDesk } from './desk';

/**
 * The panel that what is being drawn was begun in: it stays within its border. Told with every press; what takes several keeps the
 * panel of the first.
 */
export class BegunIn {
  private id: EntityId | undefined;

  constructor(private readonly board: Pick<Board, 'session' | 'picture'>) {}

  /** A press on the page begins something. */
  begin(at: Point): void {
    this.take(useDesk.getState().overBorders ? undefined : this.panelAt(at));
  }

  /** What was begun before goes on. */
  take(panelId: EntityId | undefined): void {
    this.id = panelId;
    this.board.picture.setPanel(panelId);
  }

  get panelId(): EntityId | undefined {
    return this.id;
  }

  /** The highest panel that a place lies in. */
  panelAt(at: Point): EntityId | undefined {
    return framesOf(this.board.session.page).panelAt(at)?.id;
  }
}

export const begunSlot: PageSlot<BegunIn> = { open: (board) => new BegunIn(board) };

/** What names the panel of something that lies in one. */
export const inPanel = (panelId: EntityId | undefined): Pick<LaidBase, 'panelId'> =>
  panelId === undefined ? {} : { panelId };
