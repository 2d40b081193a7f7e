import { ofKind, pxToMm, type Page } from '../page';
import type { Leak } from '../regions';
import type { Finding } from './finding';

/** A gap between lines that colour would run through, as a finding. */
export interface LeakFinding extends Finding {
  readonly leak: Leak;
}

/** Leaks as findings, but for those that are silenced; `scale` is the printed size over the page's own. */
export function leakFindings(page: Page, leaks: readonly Leak[], scale: number): LeakFinding[] {
  const silences = new Set(ofKind(page, 'silence').map(({ about }) => about));
  return leaks
    .map((leak): LeakFinding => {
      const { x, y, width } = leak;
      return {
        ...{ id: `leak:${Math.round(x)}:${Math.round(y)}`, kind: 'leak', at: { x, y }, leak },
        words: `Colour would run out through a gap of ${(pxToMm(width, page.size.ppi) * scale).toFixed(2)} mm.`,
      };
    })
    .filter(({ id }) => !silences.has(id));
}
