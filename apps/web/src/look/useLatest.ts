import { useCallback, useInsertionEffect, useRef } from 'react';

/**
 * A function that stays the same and calls the newest `run`: what is drawn by it is drawn anew only when something else of
 * it has changed.
 */
export function useLatest<A extends readonly unknown[]>(run: (...args: A) => unknown): (...args: A) => void {
  const latest = useRef(run);
  useInsertionEffect(() => {
    latest.current = run;
  });
  return useCallback((...args: A) => void latest.current(...args), []);
}
