import { create } from 'zustand';

/** What is known of the regions of the page. */
export interface KnownRegions {
  readonly status: 'idle' | 'working' | 'ready';
  /** The share that is looked at, 0..1. */
  readonly share: number;
  /** Why nothing can be poured, in a sentence. */
  readonly reason: string | undefined;
}

export const NOTHING_KNOWN: KnownRegions = { status: 'idle', share: 0, reason: undefined };

export const useRegions = create<KnownRegions>()(() => NOTHING_KNOWN);
