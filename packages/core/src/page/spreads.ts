import type { Reading } from './kinds/sheet';

/** How the pages of a folio lie when it is opened. */
export interface Opening {
  readonly reads: Reading;
  /** The first page lies alone, as in a bound book, where it has only the cover beside it. */
  readonly firstAlone: boolean;
}

/** Two pages side by side as they are seen; a side may be bare. `across` is one page that fills both. */
export interface Spread<P> {
  readonly left?: P;
  readonly right?: P;
  readonly across?: P;
}

/**
 * The pages of a folio, in their order, as the spreads that a reader opens. Read from the left, the first page of a bound folio lies on
 * the right; read from the right, on the left (common practice). A page that is wider than high fills both sides, and the pages after it
 * begin a spread.
 */
export function spreadsOf<P extends { readonly width: number; readonly height: number }>(
  pages: readonly P[],
  { reads, firstAlone }: Opening,
): Spread<P>[] {
  const [first, second] = reads === 'left to right' ? (['left', 'right'] as const) : (['right', 'left'] as const);
  const spreads: Spread<P>[] = [];
  let open: P | undefined;
  const close = () => {
    if (open) spreads.push({ [first]: open });
    open = undefined;
  };
  pages.forEach((page, k) => {
    if (page.width > page.height) {
      close();
      spreads.push({ across: page });
    } else if (k === 0 && firstAlone) spreads.push({ [second]: page });
    else if (open) {
      spreads.push({ [first]: open, [second]: page });
      open = undefined;
    } else open = page;
  });
  close();
  return spreads;
}
