import { clamp } from '../math';
import type { Nib } from './entity';

/** The full width that a pressure 0..1 gives, page px, before any taper. A gentle curve: light touches stay fine. */
export function widthUnder(nib: Nib, pressure: number): number {
  const pressed = clamp(pressure, 0, 1);
  return nib.size * (nib.thinnest + (1 - nib.thinnest) * pressed * Math.sqrt(pressed));
}

/** The pressure that gives a width; 0.5 with a nib whose width does not tell. */
export function pressureFor(nib: Nib, width: number): number {
  if (nib.thinnest >= 1) return 0.5;
  return clamp((width / nib.size - nib.thinnest) / (1 - nib.thinnest), 0, 1) ** (2 / 3);
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
