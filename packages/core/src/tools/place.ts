import { apply, chain, invert, rotation, scaling, translation, type Matrix, type Point } from '../math';
import type { PageSize, Placement } from '../page';

interface Size {
  readonly width: number;
  readonly height: number;
}

/** The map from picture px to page px. */
export const placementMatrix = (placement: Placement, picture: Size): Matrix =>
  chain(
    translation(-picture.width / 2, -picture.height / 2),
    scaling(placement.scale),
    rotation(placement.angle),
    translation(placement.x, placement.y),
  );

/** A picture fitted into the page and centred on it. */
export const fittedPlacement = (picture: Size, page: PageSize): Placement => ({
  x: page.width / 2,
  y: page.height / 2,
  scale: Math.min(page.width / picture.width, page.height / picture.height),
  angle: 0,
});

/** What a hand can take hold of: the picture itself, a corner to size it, or the knob above it to turn it. */
export type Grip = 'move' | 'size' | 'turn';

/** The places of a picture's handles in page px: its four corners, and the knob `stem` page px above its top edge. */
export function gripPlaces(placement: Placement, picture: Size, stem: number): { corners: Point[]; knob: Point } {
  const map = placementMatrix(placement, picture);
  const corners = [
    [0, 0],
    [picture.width, 0],
    [picture.width, picture.height],
    [0, picture.height],
  ].map(([x, y]) => apply(map, { x, y }));
  return { corners, knob: apply(map, { x: picture.width / 2, y: -stem / placement.scale }) };
}

/** Which grip lies under `p`, within `reach` page px; nothing when `p` misses the picture. */
export function gripAt(placement: Placement, picture: Size, p: Point, reach: number, stem: number): Grip | undefined {
  const { corners, knob } = gripPlaces(placement, picture, stem);
  const isNear = (q: Point) => Math.hypot(q.x - p.x, q.y - p.y) <= reach;
  if (isNear(knob)) return 'turn';
  if (corners.some(isNear)) return 'size';
  const inside = apply(invert(placementMatrix(placement, picture)), p);
  return inside.x >= 0 && inside.y >= 0 && inside.x <= picture.width && inside.y <= picture.height ? 'move' : undefined;
}

/** The placement after dragging a grip from one page point to another. Sizing and turning go about the centre. */
export function draggedPlacement(start: Placement, grip: Grip, from: Point, to: Point, upright = false): Placement {
  if (grip === 'move') return { ...start, x: start.x + to.x - from.x, y: start.y + to.y - from.y };
  const before = { x: from.x - start.x, y: from.y - start.y };
  const after = { x: to.x - start.x, y: to.y - start.y };
  if (grip === 'size') {
    const factor = Math.hypot(after.x, after.y) / Math.max(1e-6, Math.hypot(before.x, before.y));
    return { ...start, scale: Math.min(1e3, Math.max(1e-3, start.scale * factor)) };
  }
  const turned = start.angle + Math.atan2(after.y, after.x) - Math.atan2(before.y, before.x);
  const step = Math.PI / 12;
  const angle = upright ? Math.round(turned / step) * step : turned;
  return { ...start, angle: Math.atan2(Math.sin(angle), Math.cos(angle)) };
}
