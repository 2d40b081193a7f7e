import { createContext, use, useSyncExternalStore } from 'react';
import type { Page } from '@true-nib/core/page';
import type { SessionState } from '../session';
import type { Board, PageSlot } from './board';

export const BoardContext = createContext<Board | undefined>(undefined);

export function useBoard(): Board {
  const board = use(BoardContext);
  if (!board) throw new Error('This part of the interface lives on a board.');
  return board;
}

/** What a slot of the open board holds. */
export const useSlot = <T extends object>(slot: PageSlot<T>): T => useBoard().of(slot);

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
