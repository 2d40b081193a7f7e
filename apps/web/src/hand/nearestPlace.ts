import { distance, type Point } from '@true-nib/core/math';
import type { Board } from '../board';
import { zoomOf } from '../render';
import { FINGER } from './reach';

/** The number of the place that a touch means: the nearest within a finger's width; nothing where there is none. */
export function nearestPlace({ picture }: Board, places: readonly Point[], at: Point): number | undefined {
  let best: { readonly k: number; readonly far: number } | undefined;
  for (const [k, place] of places.entries()) {
    const far = distance(place, at);
    if (far <= FINGER / zoomOf(picture.view) && (!best || far < best.far)) best = { k, far };
  }
  return best?.k;
}
