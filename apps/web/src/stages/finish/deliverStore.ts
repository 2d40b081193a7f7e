import { create } from 'zustand';

/** What is said for the open page about the next delivery. */
interface PageDelivery {
  /** Which pages go along. */
  readonly pages: 'this' | 'some' | 'folio';
  /** The ids of those that were chosen. */
  readonly chosen: readonly string[];
  /** Where the artist wants slices to end, page px from the top. */
  readonly cuts: readonly number[];
}

const FRESH: PageDelivery = { pages: 'this', chosen: [], cuts: [] };

export const usePageDelivery = create<PageDelivery>()(() => FRESH);
export const setPageDelivery = (change: Partial<PageDelivery>): void => usePageDelivery.setState(change);
export const forgetPageDelivery = (): void => usePageDelivery.setState(FRESH);
