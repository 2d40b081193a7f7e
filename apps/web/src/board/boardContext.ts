import { createContext, use, useSyncExternalStore } from 'react';
import type { Page } from '@true-nib/core/page';
import type { SessionState } from '../session/pageSession';
import type { BoardHand } from './boardHand';
import type { Board } from './inkHand';

/** What an open board is made of: the page's session, its picture, and the hand that draws on it. */
export interface OpenBoard extends Board {
  readonly hand: BoardHand;
}

export const BoardContext = createContext<OpenBoard | undefined>(undefined);

export function useBoard(): OpenBoard {
  const board = use(BoardContext);
  if (!board) throw new Error('This part of the interface lives on a board.');
  return board;
}

/** How the page is saved and what can be undone, as it changes. */
export function useSessionState({ session }: Pick<Board, 'session'>): SessionState {
  return useSyncExternalStore(
    (listener) => session.onState(listener),
    () => session.state,
  );
}

/** The page itself, as it changes. For panels; pictures are painted from the session's events. */
export function usePage({ session }: Pick<Board, 'session'>): Page {
  return useSyncExternalStore(
    (listener) => session.onPage(listener),
    () => session.page,
  );
}
