import { createContext, use, useSyncExternalStore } from 'react';
import type { Page } from '@true-nib/core/page';
import type { SessionState } from '../session/pageSession';
import type { BoardHand } from '../hand/boardHand';
import type { GuideTool } from '../stages/guides/guideTool';
import type { Board } from '../hand/inkHand';
import type { DepthTool } from '../stages/depth/depthTool';
import type { MendTool } from '../stages/mend/mendTool';
import type { PointTool } from '../stages/mend/pointTool';
import type { Selection } from '../select/selection';
import type { PathTool } from '../stages/ink/pathTool';

/** What an open board is made of: the page's session, its picture, and the hand that draws on it. */
export interface OpenBoard extends Board {
  readonly hand: BoardHand;
  readonly selection: Selection;
  readonly path: PathTool;
  readonly points: PointTool;
  readonly guides: GuideTool;
  readonly depth: DepthTool;
  readonly mend: MendTool;
}

export const BoardContext = createContext<OpenBoard | undefined>(undefined);

export function useBoard(): OpenBoard {
  const board = use(BoardContext);
  if (!board) throw new Error('This part of the interface lives on a board.');
  return board;
}

/**
 * Something about how the page is saved or what can be undone, as it changes. `pick` answers a plain value: whoever asks for
 * less is drawn anew less often.
 */
export function useSessionState<T extends string | number | boolean>(
  { session }: Pick<Board, 'session'>,
  pick: (state: SessionState) => T,
): T {
  return useSyncExternalStore(
    (listener) => session.onState(listener),
    () => pick(session.state),
  );
}

/**
 * The page itself, for panels: as it is now, heard of whenever something of it changes but its lines, which are many and no
 * panel lists. Pictures are painted from the session's events.
 */
export function usePage({ session }: Pick<Board, 'session'>): Page {
  useSyncExternalStore(
    (listener) => session.onPage(listener),
    () => session.page.entities.rareKinds,
  );
  return session.page;
}
