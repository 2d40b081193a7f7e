import { colord, extend } from 'colord';
import a11yPlugin from 'colord/plugins/a11y';

extend([a11yPlugin]);

/** How much a colour stands out from another, 1 to 21 (WCAG 2.2, contrast ratio). Both as `#rrggbb`. */
export const contrastOf = (color: string, ground: string): number => colord(color).contrast(ground);

/** Points from which letters are large, and bold ones (WCAG 2.2, large scale text). */
const LARGE = 18;
const LARGE_BOLD = 14;

/** How much letters of so many points should stand out from their ground (WCAG 2.2, success criterion 1.4.3). */
export const leastContrast = (points: number, isBold: boolean): number =>
  points >= (isBold ? LARGE_BOLD : LARGE) ? 3 : 4.5;
