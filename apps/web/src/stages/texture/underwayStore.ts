import { create } from 'zustand';

/** What is known of texture that is under way: rows or dots that are seen and no part of the page yet. */
export interface UnderwayState {
  /** The tool that it is of. */
  readonly tool: string | undefined;
  readonly count: number;
  /** Why nothing can be made of it, in a sentence. */
  readonly reason: string | undefined;
}

export const NOTHING_UNDERWAY: UnderwayState = { tool: undefined, count: 0, reason: undefined };

export const useUnderway = create<UnderwayState>(() => NOTHING_UNDERWAY);
