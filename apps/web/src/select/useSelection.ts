import { useSyncExternalStore } from 'react';
import { useSlot } from '../board';
import { selectionSlot, type Selection } from './selection';

/**
 * Something about what is selected, as it changes. `pick` answers the same value for as long as it is the same: whoever asks
 * for less is drawn anew less often.
 */
export function useSelection<T>(pick: (selection: Selection) => T): T {
  const selection = useSlot(selectionSlot);
  return useSyncExternalStore(
    (listener) => selection.onChange(listener),
    () => pick(selection),
  );
}

/** How many lines are selected. */
export const useSelectedLines = (): number => useSelection(({ size, isPixels }) => (isPixels ? 0 : size));
