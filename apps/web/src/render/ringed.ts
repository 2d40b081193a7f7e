import { apply, type Matrix, type Point } from '@true-nib/core/math';
import { strokeBoth } from './overlay';

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
