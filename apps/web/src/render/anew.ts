import { clearOverlay } from './overlay';

/** What a canvas is painted with. Throws where the browser cannot paint at all. */
export function contextOf(canvas: HTMLCanvasElement): CanvasRenderingContext2D {
  const found = canvas.getContext('2d');
  if (!found) throw new Error('This browser cannot paint on a canvas.');
  return found;
}

/**
 * A cleared canvas to paint on; nothing where nothing is to be painted. A canvas that is empty and stays so is let be:
 * touching it would cost a copy of all its px. Empty ones are hidden, since the browser would blend them into every frame
 * all the same: half of the time from pen to screen, for one that multiplies.
 */
export function anew(canvas: HTMLCanvasElement, isNeeded: boolean): CanvasRenderingContext2D | undefined {
  const target = contextOf(canvas);
  if (isNeeded || canvas.style.visibility !== 'hidden') clearOverlay(target);
  canvas.style.visibility = isNeeded ? '' : 'hidden';
  return isNeeded ? target : undefined;
}
