import { keptHere } from '../base/keptHere';
import { isWindowWide } from '../look/wide';
import type { Extent } from '../render/view';
import { BENCH_HEIGHT } from '../chrome/benchHeight';

const KEY = 'true-nib.board-size';

/** CSS px at the foot of the board that the bench covers: on a phone it lies over it, so that folding it never moves the page. */
export const coveredByBench = (): number => (isWindowWide() ? 0 : BENCH_HEIGHT);

/** The size of the board at which a page was last shown in a window of this size, CSS px. */
export function lastBoard(): Extent | undefined {
  try {
    const known: unknown = JSON.parse(keptHere.getItem(KEY) ?? 'null');
    if (!Array.isArray(known) || known.length !== 4 || !known.every((side) => typeof side === 'number'))
      return undefined;
    const [innerWidth, innerHeight, width, height] = known as number[];
    return innerWidth === window.innerWidth && innerHeight === window.innerHeight ? { width, height } : undefined;
  } catch {
    return undefined;
  }
}

/** Remembers the size of the board, so that the next page can be painted before its board is there. */
export function rememberBoard({ width, height }: Extent): void {
  keptHere.setItem(KEY, JSON.stringify([window.innerWidth, window.innerHeight, width, height]));
}
