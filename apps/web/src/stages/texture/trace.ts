import { apply, type Matrix, type Point } from '@true-nib/core/math';

/** Adds a line through places of the page to the path of a context; `map` takes them to device px. */
export function traceLine(context: CanvasRenderingContext2D, map: Matrix, places: readonly Point[]): void {
  places.forEach((place, k) => {
    const { x, y } = apply(map, place);
    if (k === 0) context.moveTo(x, y);
    else context.lineTo(x, y);
  });
}
