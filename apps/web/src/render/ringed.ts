import { apply, type Matrix, type Point } from '@true-nib/core/math';
import { strokeBoth } from './overlay';
import type { Sketch } from './overlaySurface';

/** A ring of `radius` device px round a place of the page, and a line between two places where there are such; seen on any ground. */
export function ringed(
  context: CanvasRenderingContext2D,
  { map, ratio }: { readonly map: Matrix; readonly ratio: number },
  place: Point,
  radius: number,
  ends?: readonly [Point, Point],
): void {
  const at = apply(map, place);
  const [a, b] = (ends ?? []).map((end) => apply(map, end));
  strokeBoth(context, ratio, () => {
    context.moveTo(at.x + radius, at.y);
    context.arc(at.x, at.y, radius, 0, 2 * Math.PI);
    if (!a || !b) return;
    context.moveTo(a.x, a.y);
    context.lineTo(b.x, b.y);
  });
}

/** Rings round places of the page, the one in hand filled, and the openings that some of them are. */
export const ringedPlaces =
  (
    places: readonly (Point & { readonly ends?: readonly [Point, Point] | undefined })[],
    inHand: number | undefined,
  ): Sketch =>
  (context, map, ratio, colours) => {
    const { width, height } = context.canvas;
    context.setTransform(1, 0, 0, 1, 0, 0);
    for (const [k, place] of places.entries()) {
      const at = apply(map, place);
      if (at.x < -20 || at.y < -20 || at.x > width + 20 || at.y > height + 20) continue;
      const radius = (k === inHand ? 13 : 9) * ratio;
      if (k === inHand) {
        context.fillStyle = colours.seal;
        context.globalAlpha = 0.3;
        context.beginPath();
        context.arc(at.x, at.y, radius, 0, 2 * Math.PI);
        context.fill();
        context.globalAlpha = 1;
      }
      ringed(context, { map, ratio }, place, radius, place.ends);
    }
  };
