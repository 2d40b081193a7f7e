import { framesOf, isDrawn, markBox, type DrawnKind, type MarkShape } from '../drawn';
import { PageError } from '../gate';
import { boxOfRings, type Box } from '../math';
import type { Page } from '../page';

export interface SliceChoice {
  /** Px of the file for each px of the page. */
  readonly scale: number;
  /** The highest that a slice may be, whole px of the file. */
  readonly highest: number;
  /** Where the artist wants cuts besides, page px from the top. */
  readonly cuts?: readonly number[];
}

/** A slice across the whole page, rows of page px, `bottom` left out. */
export interface Slice {
  readonly top: number;
  readonly bottom: number;
  /** Whether the cut at its bottom goes through something that lies on the page. */
  readonly hits: boolean;
}

/** How much worse it is to cut through something than through a line. */
const WEIGHTS: Readonly<Partial<Record<DrawnKind, number>>> = { lettering: 1_000, balloon: 1_000, panel: 30 };

/** A slice is cut early, where that spares what lies there, but never has less than this share of the highest. */
const LEAST = 0.6;

/** A file has no more slices than this. */
export const MOST_SLICES = 500;

/**
 * A page in slices from top to bottom, for reading by scrolling: none higher than asked for, cut where nothing is hit if there is such a
 * place near the end of a slice, and else where the least is. Throws a PageError for a height that makes too many.
 */
export function slicesOf(page: Page, { scale, highest, cuts = [] }: SliceChoice): Slice[] {
  const { height } = page.size;
  const most = Math.floor(highest / scale);
  if (!(most >= 1) || height / most > MOST_SLICES)
    throw new PageError(`Slices of ${highest} px would be more than ${MOST_SLICES}. Make them higher.`);
  const cost = costs(page);
  const wanted = [...new Set(cuts.map(Math.round))].filter((cut) => cut > 0 && cut < height).sort((a, b) => a - b);
  const slices: Slice[] = [];
  let top = 0;
  for (const end of [...wanted, height]) {
    while (end - top > most) {
      const bottom = bestCut(cost, top + Math.ceil(LEAST * most), top + most);
      slices.push({ top, bottom, hits: cost[bottom] > 0 });
      top = bottom;
    }
    slices.push({ top, bottom: end, hits: end < height && cost[end] > 0 });
    top = end;
  }
  return slices;
}

const known = new WeakMap<Page, Float64Array>();

/** What a cut above each row would go through, by weight; kept while a line is dragged. */
function costs(page: Page): Float64Array {
  const last = known.get(page);
  if (last) return last;
  const cost = costsOf(page);
  known.set(page, cost);
  return cost;
}

function costsOf(page: Page): Float64Array {
  const { height } = page.size;
  const frames = framesOf(page);
  const steps = new Float64Array(height + 2);
  const frameBoxes = new Map<MarkShape, Box>();
  /** Where a panel lets anything be seen. */
  const within = (clip: MarkShape | undefined): Pick<Box, 'minY' | 'maxY'> => {
    if (!clip) return { minY: -Infinity, maxY: Infinity };
    const box = frameBoxes.get(clip) ?? boxOfRings(clip.rings(1));
    frameBoxes.set(clip, box);
    return box;
  };
  for (const entity of page.entities) {
    if (!isDrawn(entity)) continue;
    const box = markBox(entity);
    if (!frames.showsIn(entity, box)) continue;
    const seen = within(frames.clipFor(entity));
    const from = Math.min(height + 1, Math.max(0, Math.floor(Math.max(box.minY, seen.minY)) + 1));
    const to = Math.min(height + 1, Math.max(from, Math.ceil(Math.min(box.maxY, seen.maxY))));
    const weight = WEIGHTS[entity.kind] ?? 1;
    steps[from] += weight;
    steps[to] -= weight;
  }
  const cost = new Float64Array(height + 1);
  let sum = 0;
  for (let row = 0; row <= height; row++) {
    sum += steps[row];
    cost[row] = Math.round(sum);
  }
  return cost;
}

/** The row of those `from..to` above which a cut costs least: in the middle of a gap, the lowest of them; at `to` where the gap goes on. */
function bestCut(cost: Float64Array, from: number, to: number): number {
  let least = Infinity;
  for (let row = from; row <= to; row++) least = Math.min(least, cost[row]);
  let end = to;
  while (cost[end] !== least) end--;
  if (end === to) return to;
  let start = end;
  while (start > from && cost[start - 1] === least) start--;
  return (start + end) >> 1;
}
