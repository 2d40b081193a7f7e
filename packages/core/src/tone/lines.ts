import type { Area, ToneFill } from '../area';
import { boxOfRings, withinRings } from '../math';
import { patchesOf, ringsOnPage, type Part, type Patch } from './patch';
import { shareAt, type Grid } from './screen';
import { crossedShare } from './share';

/** Lines that are painted together, and how long they may be: all of any page. */
const TOGETHER = 24;
const ENDLESS = 1e7;
/** Periods between two places of a line at which its width is worked out, where the share goes outwards. */
const STEP = 2;

/** A tone of lines, or of lines that cross, cut to its area: some lines at a time. */
export const linePatches = (fill: ToneFill, area: Pick<Area, 'rings'>): Patch[] =>
  fill.screen === 'lines'
    ? stripesOf(fill, area, 0, (share) => share)
    : [0, Math.PI / 2].flatMap((turn) => stripesOf(fill, area, turn, crossedShare));

const stripesOf = (fill: ToneFill, area: Pick<Area, 'rings'>, turn: number, widthOf: (share: number) => number) =>
  patchesOf(fill, area, { wide: ENDLESS, high: TOGETHER, reach: 0.5, turn }, (part) => stripesIn(fill, part, widthOf));

/** The lines of a part, cut to the area. */
function stripesIn(fill: ToneFill, { grid, block, local }: Part, widthOf: (share: number) => number): Float64Array[] {
  const { place } = grid;
  const marks = marksAlong(fill, boxOfRings(local), grid);
  const lines: Float64Array[] = [];
  for (let j = Math.ceil(block.minY); j < block.maxY; j++) {
    const ring = new Float64Array(4 * marks.length);
    let widest = 0;
    for (const [k, along] of marks.entries()) {
      const middle = place(along, j);
      const half = widthOf(shareAt(fill, middle.x, middle.y)) / 2;
      widest = Math.max(widest, half);
      const [a, b] = [place(along, j - half), place(along, j + half)];
      const back = ring.length - 2 - 2 * k;
      [ring[2 * k], ring[2 * k + 1], ring[back], ring[back + 1]] = [a.x, a.y, b.x, b.y];
    }
    if (widest > 0) lines.push(ring);
  }
  return lines.length > 0 ? withinRings(lines, ringsOnPage(local, grid)) : [];
}

/** Places along the lines between which their widths go evenly, in periods, rising. */
function marksAlong(
  { ramp }: ToneFill,
  { minX, maxX }: { readonly minX: number; readonly maxX: number },
  { u }: Grid,
): number[] {
  const [from, to] = [minX - 1, maxX + 1];
  if (!ramp) return [from, to];
  const count = Math.max(1, Math.ceil((to - from) / STEP));
  const even = Array.from({ length: count + 1 }, (_, k) => from + ((to - from) * k) / count);
  const bends = [ramp.from, ramp.to].map(({ x, y }) => u(x, y)).filter((at) => at > from && at < to);
  return [...even, ...bends].sort((a, b) => a - b);
}
