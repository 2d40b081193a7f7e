import { nested, type Area, type AreaFill } from '@true-nib/core/area';
import { fitSpine, makeSpine, type Spine } from '@true-nib/core/curve';
import type { Thing } from '@true-nib/core/drawn';
import type { Point } from '@true-nib/core/math';
import { INK_BLACK } from '@true-nib/core/nib';
import { polylineSpine } from '@true-nib/core/shapes';

/** A layer of filled shapes, rows and dots over or under the inks of a demo page, lowest first. */
export interface Blacks {
  readonly name: string;
  readonly at: 'above' | 'below';
  readonly things: readonly Thing[];
}

/** Page px that curved outlines may stray from the places they go through. */
const STRAY = 0.3;

export const BLACK: AreaFill = { as: 'colour', color: INK_BLACK };
export const NICK: AreaFill = { as: 'nothing' };

/** A shape with straight sides. */
export const cornered = (points: readonly Point[], fill: AreaFill): Area => ({
  rings: nested([polylineSpine(points, true)]),
  fill,
});

/** Rings as they are, holes among them. */
export const filled = (rings: readonly Spine[], fill: AreaFill): Area => ({ rings: nested(rings), fill });

/** A shape whose outline runs smoothly through places. */
export const curved = (places: readonly Point[], fill: AreaFill): Area =>
  filled([makeSpine(fitSpine([...places, places[0]], STRAY).points, true)], fill);

/** A light that runs out to nothing at both ends, `width` page px wide in its middle. */
export function sliver(a: Point, b: Point, width: number, fill: AreaFill = NICK, fullest = 0.5): Area {
  const length = Math.hypot(b.x - a.x, b.y - a.y) || 1;
  const [nx, ny] = [(-(b.y - a.y) / length) * (width / 2), ((b.x - a.x) / length) * (width / 2)];
  const m = { x: a.x + (b.x - a.x) * fullest, y: a.y + (b.y - a.y) * fullest };
  return cornered([a, { x: m.x + nx, y: m.y + ny }, b, { x: m.x - nx, y: m.y - ny }], fill);
}
