import { boxArea, boxOfFlat, intersectBoxes, isEmptyBox, type Box } from '../math';
import type { Reading } from '../page';
import type { PanelEntity } from '../panel';

/** The share of a panel that must lie over another one for it to be an inset of that. */
const INSET = 0.6;
/** The share of the lower of two panels by which rows may run into each other, as slanted gutters let them. */
const OVERLAP = 0.45;

interface Placed {
  readonly panel: PanelEntity;
  readonly box: Box;
}

/**
 * The panels of a page in the order in which they are read: as it was said by hand where it was, else row by row from the top,
 * and column by column within a row (common practice). An inset is read after the panel that it lies in.
 */
export function readingOrder(panels: readonly PanelEntity[], reading: Reading): PanelEntity[] {
  const turn = reading === 'left to right' ? 1 : -1;
  const placed = panels.map((panel): Placed => {
    const { minX, minY, maxX, maxY } = boxOfFlat(panel.ring.points, 3);
    // Read from the right, a page is its mirror image read from the left.
    return { panel, box: turn > 0 ? { minX, minY, maxX, maxY } : { minX: -maxX, minY, maxX: -minX, maxY } };
  });
  const worked = orderOf(placed).map(({ panel }) => panel);
  const said = worked.filter(({ reads }) => reads !== undefined).sort((a, b) => (a.reads ?? 0) - (b.reads ?? 0));
  if (said.length === 0) return worked;
  // A panel of which nothing was said comes after the one that it would come after.
  const order = [...said];
  worked.forEach((panel, k) => {
    if (panel.reads !== undefined) return;
    order.splice(k === 0 ? 0 : order.indexOf(worked[k - 1]) + 1, 0, panel);
  });
  return order;
}

function orderOf(all: readonly Placed[]): Placed[] {
  const hostOf = (one: Placed) =>
    all.find(
      (other) =>
        other !== one &&
        boxArea(other.box) > boxArea(one.box) &&
        shareWithin(one.box, other.box) > INSET &&
        all.indexOf(other) < all.indexOf(one),
    );
  const hosts = new Map(all.map((one) => [one, hostOf(one)]));
  const within = (host: Placed | undefined): Placed[] =>
    rows(all.filter((one) => hosts.get(one) === host)).flatMap((one) => [one, ...within(one)]);
  return within(undefined);
}

function shareWithin(a: Box, b: Box): number {
  const common = intersectBoxes(a, b);
  return isEmptyBox(common) ? 0 : boxArea(common) / boxArea(a);
}

/** Panels parted into rows, and where that cannot be done into columns; the first in sight where neither can. */
function rows(all: readonly Placed[]): Placed[] {
  if (all.length < 2) return [...all];
  const parted = partedAlong(all, 'y') ?? partedAlong(all, 'x');
  if (parted) return parted.flatMap(rows);
  const corner = ({ minX, minY }: Box) => minX + minY;
  const [first, ...others] = [...all].sort((a, b) => corner(a.box) - corner(b.box));
  return [first, ...rows(others)];
}

/** The first row, or column, and what comes after it; nothing where no line parts them. */
function partedAlong(all: readonly Placed[], axis: 'x' | 'y'): readonly [Placed[], Placed[]] | undefined {
  const start = ({ box }: Placed) => (axis === 'x' ? box.minX : box.minY);
  const end = ({ box }: Placed) => (axis === 'x' ? box.maxX : box.maxY);
  const sorted = [...all].sort((a, b) => start(a) + end(a) - start(b) - end(b));
  for (let k = 1; k < sorted.length; k++) {
    const [first, later] = [sorted.slice(0, k), sorted.slice(k)];
    const isParted = first.every((a) =>
      later.every((b) => end(a) - start(b) <= OVERLAP * Math.min(end(a) - start(a), end(b) - start(b))),
    );
    if (isParted) return [first, later];
  }
  return undefined;
}
