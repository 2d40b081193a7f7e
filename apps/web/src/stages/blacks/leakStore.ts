import { create } from 'zustand';
import type { Leak } from '@true-nib/core/regions';

/** The leaks of the page, as far as they are known, and which of them is in hand. */
export interface KnownLeaks {
  readonly leaks: readonly Leak[];
  readonly inHand: number | undefined;
}

export const useLeaks = create<KnownLeaks>()(() => ({ leaks: [], inHand: undefined }));
