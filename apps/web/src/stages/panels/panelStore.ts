import { keptStore } from '../../base';
import type { EntityId } from '@true-nib/core/kind';

interface PanelState {
  /** Panels of each row of the grid that is laid next. */
  readonly rows: readonly number[];
  /** mm between panels of a row, and between rows. */
  readonly across: number;
  readonly down: number;
  /** What lies in a panel goes along where it is moved and sized. */
  readonly takesInk: boolean;
  /** Borders that face the one that is dragged follow it. */
  readonly takesNeighbours: boolean;
  /** Borders and corners come onto margins, other borders and equal sizes that are near. */
  readonly snaps: boolean;
  /** The panels that are chosen, and those touched so far to be read in that order. */
  readonly chosen: readonly EntityId[];
  readonly touched: readonly EntityId[];
}

/** How panels are laid out. */
export const usePanels = keptStore<PanelState>({
  name: 'true-nib-panels',
  version: 1,
  kept: ['rows', 'across', 'down', 'takesInk', 'takesNeighbours', 'snaps'],
  fresh: {
    ...{ rows: [2, 3, 1], across: 5, down: 5 },
    ...{ takesInk: true, takesNeighbours: true, snaps: true },
    ...{ chosen: [], touched: [] },
  },
});

export const setPanels = (change: Partial<PanelState>): void => void usePanels.setState(change);
