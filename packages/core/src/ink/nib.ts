import { clamp } from '../math';
import type { Nib } from '../page';

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

/** The full width that a pressure 0..1 gives, page px, before any taper. A gentle curve: light touches stay fine. */
export function widthUnder(nib: Nib, pressure: number): number {
  const pressed = clamp(pressure, 0, 1);
  return nib.size * (nib.thinnest + (1 - nib.thinnest) * pressed * Math.sqrt(pressed));
}

/** Lengths of a nib's tapers on a stroke of `length` page px: shortened alike where they do not both fit. */
export function taperLengths(nib: Nib, length: number): readonly [swell: number, runOut: number] {
  const swell = nib.taperIn * nib.size;
  const runOut = nib.taperOut * nib.size;
  const fit = Math.min(1, length / (swell + runOut || 1));
  return [swell * fit, runOut * fit];
}

/** The share of the width that the tapers leave at `along` of `length` page px: a quarter sine from each point. */
export function taperAt(nib: Nib, along: number, length: number): number {
  if (nib.taperIn === 0 && nib.taperOut === 0) return 1;
  const [swell, runOut] = taperLengths(nib, length);
  const rise = swell > 0 && along < swell ? Math.sin((Math.PI / 2) * (along / swell)) : 1;
  const left = length - along;
  const fall = runOut > 0 && left < runOut ? Math.sin((Math.PI / 2) * (left / runOut)) : 1;
  return rise * fall;
}
