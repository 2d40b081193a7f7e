import type { Point } from '../math';
import type { EntityId } from '../kind';
import type { GuideEntity } from './guide';
import { actsOn, rankGuides, type ChoiceOptions } from './choose';

/** A straight way taken to the guide that it would ride: itself where no straight one bears it. */
export function guidedWay(
  guides: readonly GuideEntity[],
  from: Point,
  to: Point,
  options: ChoiceOptions,
): { readonly from: Point; readonly to: Point } {
  const heading = Math.atan2(to.y - from.y, to.x - from.x);
  const best = rankGuides(guides, from, heading, options).find(({ path }) => path.kind === 'line')?.path;
  if (best?.kind !== 'line') return { from, to };
  const { x, y, dx, dy, from: least = -Infinity, to: most = Infinity } = best;
  const on = (p: Point): Point => {
    const along = Math.max(least, Math.min(most, (p.x - x) * dx + (p.y - y) * dy));
    return { x: x + along * dx, y: y + along * dy };
  };
  return { from: on(from), to: on(to) };
}

/**
 * The directions of the sides of a box on a layer, as unit vectors: along the first two families of rails that act there, or
 * along and across the only one; nothing where none acts.
 */
export function boxAxes(guides: readonly GuideEntity[], layerId?: EntityId): readonly [Point, Point] | undefined {
  const angles = guides.flatMap((guide) =>
    guide.shape.kind === 'rails' && actsOn(guide, layerId) ? [guide.shape.angle] : [],
  );
  const [first] = angles;
  if (first === undefined) return undefined;
  const second = angles.find((angle) => Math.abs(Math.sin(angle - first)) > 0.02) ?? first + Math.PI / 2;
  const unit = (angle: number): Point => ({ x: Math.cos(angle), y: Math.sin(angle) });
  return [unit(first), unit(second)];
}

/** The corners of the box from corner to opposite corner with sides along two directions: a parallelogram. */
export function boxAlong([u, v]: readonly [Point, Point], a: Point, b: Point): readonly [Point, Point, Point, Point] {
  const [x, y] = [b.x - a.x, b.y - a.y];
  const cross = u.x * v.y - u.y * v.x;
  const s = (x * v.y - y * v.x) / cross;
  const corner = { x: a.x + s * u.x, y: a.y + s * u.y };
  return [a, corner, b, { x: a.x + b.x - corner.x, y: a.y + b.y - corner.y }];
}
