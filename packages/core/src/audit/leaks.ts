import { pxToMm, type Page } from '../page';
import type { Leak } from '../regions';
import type { Finding } from './finding';

/** A gap between lines that colour would run through, as a finding; `scale` is the printed size over the page's own. */
export const leakFinding = (page: Page, { x, y, width }: Leak, scale: number): Finding => ({
  ...{ id: `leak:${Math.round(x)}:${Math.round(y)}`, kind: 'leak', at: { x, y } },
  words: `Colour would run out through a gap of ${(pxToMm(width, page.size.ppi) * scale).toFixed(2)} mm.`,
});
