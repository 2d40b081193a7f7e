import { clamp } from '../math';
import type { Nib } from '../page';

export { taperAt, taperLengths, widthUnder } from '../page';

/** The range of a nib's size, page px. */
export const NIB_SIZES = { least: 0.5, most: 200 } as const;

export const INK_BLACK = '#14161a';
export const PAPER_WHITE = '#ffffff';

/** The nibs that come with the desk; sizes in page px at 350 ppi. */
export const NIBS: readonly Nib[] = [
  { name: 'Fixed liner', size: 7, thinnest: 1, taperIn: 0, taperOut: 0, color: INK_BLACK },
  { name: 'Pressure nib', size: 16, thinnest: 0.1, taperIn: 0, taperOut: 0, color: INK_BLACK },
  { name: 'Tapered line', size: 14, thinnest: 1, taperIn: 7, taperOut: 10, color: INK_BLACK },
];

/** The pressure of a pen as it is; 0.5 for what has no sensor, as W3C Pointer Events has it (§4.1.1, `pressure`). */
export const pressureOf = (pointerType: string, reported: number): number =>
  pointerType === 'pen' ? clamp(reported, 0, 1) : 0.5;
