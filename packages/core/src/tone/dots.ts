import type { Area, ToneFill } from '../area';
import { withinRings } from '../math';
import { discRing } from './disc';
import { patchesOf, ringsOnPage, type Part, type Patch } from './patch';
import { shareAt } from './screen';
import { dotRadius } from './share';
import { spansAt } from './spans';

/** Page px that the side of a patch has about. */
const PATCH = 256;
/** Page px by which dots that are cut may stray from round. */
const ROUND = 0.05;

/** A tone of round dots, cut to its area, patch by patch. */
export function dotPatches(fill: ToneFill, area: Pick<Area, 'rings'>): Patch[] {
  const reach = dotRadius(Math.max(fill.share, fill.ramp?.share ?? 0));
  if (reach === 0) return [];
  const side = Math.max(4, Math.round(PATCH / fill.period));
  return patchesOf(fill, area, { wide: side, high: side, reach }, (part, tolerance) =>
    dotsIn(fill, reach, part, tolerance),
  );
}

function dotsIn(fill: ToneFill, reach: number, { grid, block, local }: Part, tolerance: number): Float64Array[] {
  const radiusAt = fill.ramp ? dotRadius : () => reach;
  const { period } = fill;
  const whole: Float64Array[] = [];
  const cut: Float64Array[] = [];
  const edge = edgeCells(local, reach);
  for (let j = Math.ceil(block.minY); j < block.maxY; j++) {
    const spans = spansAt(local, j);
    let span = 0;
    for (let i = Math.ceil(block.minX); i < block.maxX; i++) {
      while (span < spans.length && spans[span + 1] < i) span += 2;
      const isEdge = edge.has(cellKey(i, j));
      if (!isEdge && !(span < spans.length && spans[span] <= i)) continue;
      const { x, y } = grid.place(i, j);
      const radius = period * radiusAt(shareAt(fill, x, y));
      if (radius === 0) continue;
      if (isEdge) cut.push(discRing(x, y, radius, Math.min(ROUND, tolerance)));
      else whole.push(discRing(x, y, radius, tolerance));
    }
  }
  return cut.length > 0 ? [...whole, ...withinRings(cut, ringsOnPage(local, grid))] : whole;
}

const cellKey = (i: number, j: number): number => i * 67_108_864 + j;

/** The places of the grid whose dots the edge of an area may cut. */
function edgeCells(rings: readonly Float64Array[], radius: number): Set<number> {
  const cells = new Set<number>();
  // Edges are looked at every half period.
  const reach = radius + 0.25;
  for (const ring of rings)
    for (let k = 0, last = ring.length - 2; k < ring.length; last = k, k += 2) {
      const [ax, ay, bx, by] = [ring[last], ring[last + 1], ring[k], ring[k + 1]];
      const steps = Math.max(1, Math.ceil(2 * Math.hypot(bx - ax, by - ay)));
      for (let step = 0; step <= steps; step++) {
        const [x, y] = [ax + ((bx - ax) * step) / steps, ay + ((by - ay) * step) / steps];
        for (let i = Math.ceil(x - reach); i <= x + reach; i++)
          for (let j = Math.ceil(y - reach); j <= y + reach; j++) cells.add(cellKey(i, j));
      }
    }
  return cells;
}
