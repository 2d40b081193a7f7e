import { squaredDistances } from '../regions';
import type { Inked } from './inked';

/** Px up to which it is measured how deep a place lies within ink. */
const DEEPEST = 254;

/** The squared distance from each px of ink to the nearest one of paper; 0 for paper. Exact up to 254 px. */
export function squaredDepths({ width, height, on }: Inked): Uint16Array {
  // Asked the other way round: how far it is to paper.
  const paper = new Uint8Array(on.length);
  for (let i = 0; i < on.length; i++) paper[i] = on[i] ? 0 : 255;
  return squaredDistances({ width, height, ink: paper, scale: 1, x: 0, y: 0 }, DEEPEST);
}

/** Half the width of ink about a px at that depth: its border runs half a px before the nearest paper. */
export const radiusAt = (depths: Uint16Array, i: number): number => Math.max(0.5, Math.sqrt(depths[i]) - 0.5);
