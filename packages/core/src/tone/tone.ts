import { flatRing, type Area, type ToneFill } from '../area';
import { apply, invert, type Matrix } from '../math';
import { dotPatches } from './dots';
import { linePatches } from './lines';
import type { Patch } from './patch';
import { gridOf, shareAt, type Grid } from './screen';
import { crossedShare, dotRadius } from './share';
import { spansAt } from './spans';

/** What a tone is made of within its area, in patches that are painted on their own. */
export const tonePatches = (fill: ToneFill, area: Pick<Area, 'rings'>): readonly Patch[] =>
  fill.screen === 'dots' ? dotPatches(fill, area) : linePatches(fill, area);

/** Page px that the edges of dots may stray where nothing else is asked for. */
const FINE = 0.02;

/**
 * A tone as closed rings of x, y pairs, page px, cut to its area; filled by the non-zero rule.
 */
export const toneDots = (fill: ToneFill, area: Pick<Area, 'rings'>, tolerance = FINE): Float64Array[] =>
  tonePatches(fill, area).flatMap((patch) => patch.rings(tolerance));

/** A block of px, from `x`, `y` on; `map` takes page px to them. */
export interface PxRows {
  readonly map: Matrix;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** Which px of a block a tone inks, row by row, 1 or 0: those whose middle lies in a dot or a line, within its area. */
export function toneRows(fill: ToneFill, rows: PxRows, area: Pick<Area, 'rings'>): Uint8Array {
  const { map, x, y, width, height } = rows;
  const px = new Uint8Array(width * height);
  const isInked = spotOf(fill);
  const back = invert(map);
  const rings = area.rings.map((ring) => {
    const flat = flatRing(ring);
    const mapped = new Float64Array(flat.length);
    for (let i = 0; i < flat.length; i += 2) {
      const at = apply(map, { x: flat[i], y: flat[i + 1] });
      [mapped[i], mapped[i + 1]] = [at.x - x, at.y - y];
    }
    return mapped;
  });
  for (let row = 0; row < height; row++) {
    const spans = spansAt(rings, row + 0.5);
    for (let k = 0; k < spans.length; k += 2) {
      const to = Math.min(width - 1, Math.ceil(spans[k + 1] - 0.5) - 1);
      for (let column = Math.max(0, Math.ceil(spans[k] - 0.5)); column <= to; column++) {
        const at = apply(back, { x: x + column + 0.5, y: y + row + 0.5 });
        if (isInked(at.x, at.y)) px[row * width + column] = 1;
      }
    }
  }
  return px;
}

/** Whether a place of the page lies in a dot or a line of a tone. */
function spotOf(fill: ToneFill): (x: number, y: number) => boolean {
  const grid = gridOf(fill);
  const off = (value: number) => Math.abs(value - Math.round(value));
  switch (fill.screen) {
    case 'dots':
      return dotSpot(fill, grid);
    case 'lines':
      return (x, y) => off(grid.v(x, y)) < shareAt(fill, x, y) / 2;
    case 'crossed':
      return (x, y) => {
        const half = crossedShare(shareAt(fill, x, y)) / 2;
        return off(grid.v(x, y)) < half || off(grid.u(x, y)) < half;
      };
  }
}

function dotSpot(fill: ToneFill, { u: uAt, v: vAt, place }: Grid): (x: number, y: number) => boolean {
  const even = dotRadius(fill.share);
  const radiusOf = (i: number, j: number): number => {
    if (!fill.ramp) return even;
    const { x, y } = place(i, j);
    return dotRadius(shareAt(fill, x, y));
  };
  // Dots that are larger than their square reach into the next ones.
  const reach = Math.max(even, dotRadius(fill.ramp?.share ?? 0)) > 0.5 ? 1 : 0;
  return (x, y) => {
    const [u, v] = [uAt(x, y), vAt(x, y)];
    const [near, level] = [Math.round(u), Math.round(v)];
    for (let i = near - reach; i <= near + reach; i++)
      for (let j = level - reach; j <= level + reach; j++) {
        const square = (u - i) * (u - i) + (v - j) * (v - j);
        if (square > 0.5) continue;
        const radius = radiusOf(i, j);
        if (square < radius * radius) return true;
      }
    return false;
  };
}
