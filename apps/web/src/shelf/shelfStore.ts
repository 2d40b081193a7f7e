import { keptStore } from '../base';

/** How a folio is looked at. */
export const useShelf = keptStore<{ readonly pagesAs: 'pages' | 'spreads' }>({
  ...{ name: 'true-nib.shelf', version: 1, kept: ['pagesAs'] },
  fresh: { pagesAs: 'pages' },
});
