import { flatRing } from '../area';
import { bendSegment, nodeAt, segmentCount, SEGMENT, type Spine } from '../curve';
import { PageError } from '../gate';
import type { EntityId } from '../kind';
import { ringArea, type Point } from '../math';
import { reshaped, type PanelEntity } from '../panel';
import {
  besideLine,
  checkPanelRing,
  crossingOf,
  lineBeside,
  lineFromEnd,
  lineThrough,
  sideEnds,
  sideLine,
  withNodesAt,
  type Line,
} from './sides';

/** A side of a panel. */
export interface PanelSide {
  readonly panelId: EntityId;
  readonly side: number;
}

/** What borders are moved among. Page px. */
export interface BorderOptions {
  /** The widest gutter over which a neighbour follows. */
  readonly widest: number;
  /** The least width of a panel. */
  readonly least: number;
  /** Neighbours stay where they are. */
  readonly alone?: boolean;
}

/** Two sides run side by side where the sine of the angle between them is smaller. */
const SIDE_BY_SIDE = 2e-3;
/** Page px along which two sides must face each other. */
const FACING = 1;

/** The sides by which two panels face each other over a gutter; nothing where they do not. */
export function facingSides(a: Spine, b: Spine, widest: number): readonly [number, number] | undefined {
  let nearest: readonly [number, number] | undefined;
  let least = Infinity;
  for (let j = 0; j < segmentCount(a); j++)
    for (let k = 0; k < segmentCount(b); k++) {
      const gap = gapBetween(a, j, b, k);
      if (gap !== undefined && gap <= widest && gap < least) [nearest, least] = [[j, k], gap];
    }
  return nearest;
}

/** How wide the gutter is between two sides that face each other, page px; nothing where they do not. */
function gapBetween(a: Spine, j: number, b: Spine, k: number): number | undefined {
  const [from, to] = sideEnds(b, k);
  const line = lineThrough(...sideEnds(a, j));
  const other = lineThrough(from, to);
  if (!line || !other) return undefined;
  const isAlong = Math.abs(line.dx * other.dy - line.dy * other.dx) < SIDE_BY_SIDE;
  // Both rings turn the same way: what faces runs to and fro.
  if (!isAlong || line.dx * other.dx + line.dy * other.dy > 0) return undefined;
  const [, end] = sideEnds(a, j);
  const along = ({ x, y }: Point) => (x - line.x) * line.dx + (y - line.y) * line.dy;
  if (Math.min(along(end), along(from)) - Math.max(0, along(to)) < FACING) return undefined;
  const gap = (besideLine(line, from) + besideLine(line, to)) / 2;
  return gap > -FACING ? Math.max(0, gap) : undefined;
}

/** A side and all that face it over a gutter, and those that face these: they move together. */
export function sidesAlong(panels: readonly PanelEntity[], start: PanelSide, widest: number): PanelSide[] {
  const rings = new Map(panels.map(({ id, ring }) => [id, ring]));
  const found: PanelSide[] = [start];
  for (const { panelId, side } of found) {
    const ring = rings.get(panelId);
    if (!ring) continue;
    for (const [otherId, other] of rings)
      for (let k = 0; k < segmentCount(other) && otherId !== panelId; k++) {
        if (found.some((one) => one.panelId === otherId && one.side === k)) continue;
        const gap = gapBetween(ring, side, other, k);
        if (gap !== undefined && gap <= widest) found.push({ panelId: otherId, side: k });
      }
  }
  return found;
}

/** A side of a panel and those along it on another line: gutters stay as wide as they are. Answers the panels as they then are. */
function withSideOn(
  panels: readonly PanelEntity[],
  start: PanelSide,
  to: Line,
  { widest, alone }: BorderOptions,
): PanelEntity[] {
  const old = sideLine(ringOf(panels, start.panelId), start.side);
  const group = alone ? [start] : sidesAlong(panels, start, widest);
  return panels.map((panel) => {
    const sides = group.filter(({ panelId }) => panelId === panel.id).map(({ side }) => side);
    if (sides.length === 0) return panel;
    const ring = sides.reduce((now, side) => {
      const [from, end] = sideEnds(now, side);
      const beside = (besideLine(old, from) + besideLine(old, end)) / 2;
      return sideMovedTo(now, side, lineBeside(to, beside));
    }, panel.ring);
    return reshaped(panel, ring);
  });
}

/** A ring with one side on another line: its corners move along the sides next to it. */
function sideMovedTo(ring: Spine, side: number, line: Line): Spine {
  const count = segmentCount(ring);
  const [before, after] = [(side + count - 1) % count, (side + 1) % count];
  const start = crossingOf(line, lineFromEnd(ring, before, 1));
  const end = crossingOf(line, lineFromEnd(ring, after, 0));
  if (!start || !end) throw new PageError('This border would run along the one next to it.');
  return unfolded(
    withNodesAt(
      ring,
      new Map([
        [side, start],
        [after, end],
      ]),
    ),
  );
}

/** A ring as it is. Throws a PageError for one that is turned inside out: its border was pulled past the one across. */
function unfolded(ring: Spine): Spine {
  if (ringArea(flatRing(ring)) < 0) throw new PageError('The borders of a panel cannot cross each other.');
  return ring;
}

function ringOf(panels: readonly PanelEntity[], id: EntityId): Spine {
  const panel = panels.find((one) => one.id === id);
  if (!panel) throw new PageError('This panel is no longer on the page.');
  return panel.ring;
}

/** Those of the panels that are others now. Throws a PageError where one is folded over or too small. */
function changed(before: readonly PanelEntity[], after: readonly PanelEntity[], least: number): PanelEntity[] {
  const others = after.filter((panel, k) => panel !== before[k]);
  for (const { ring } of others) checkPanelRing(ring, least);
  return others;
}

/**
 * Moves a border beside itself by page px, outwards where that is above 0; the borders that face it follow, so that gutters stay as
 * wide as they are. Answers the panels that change. Throws a PageError where one would fold over or be under 2 mm.
 */
export function moveBorder(
  panels: readonly PanelEntity[],
  start: PanelSide,
  by: number,
  options: BorderOptions,
): PanelEntity[] {
  const line = lineBeside(sideLine(ringOf(panels, start.panelId), start.side), by);
  return changed(panels, withSideOn(panels, start, line, options), options.least);
}

/** Moves a corner of a panel to a place: both sides that meet there turn about their other ends, and what faces them follows. */
export function moveCorner(
  panels: readonly PanelEntity[],
  panelId: EntityId,
  node: number,
  to: Point,
  options: BorderOptions,
): PanelEntity[] {
  const ring = ringOf(panels, panelId);
  const count = segmentCount(ring);
  const before = (node + count - 1) % count;
  const arriving = lineThrough(nodeAt(ring, before), to);
  const leaving = lineThrough(to, nodeAt(ring, (node + 1) % count));
  if (!arriving || !leaving) throw new PageError('Two corners of a panel cannot lie on one place.');
  if (count < 3) {
    const moved = panels.map((panel) =>
      panel.id === panelId ? reshaped(panel, withNodesAt(ring, new Map([[node, to]]))) : panel,
    );
    return changed(panels, moved, options.least);
  }
  const turned = withSideOn(panels, { panelId, side: before }, arriving, options);
  return changed(panels, withSideOn(turned, { panelId, side: node }, leaving, options), options.least);
}

/** The edges of a page. */
export type PageEdge = 'left' | 'top' | 'right' | 'bottom';

const OUTWARDS: Readonly<Record<PageEdge, Point>> = {
  left: { x: -1, y: 0 },
  top: { x: 0, y: -1 },
  right: { x: 1, y: 0 },
  bottom: { x: 0, y: 1 },
};

/**
 * Moves the side of a panel that lies towards an edge of the page over that edge, so that its border is not seen there. Neighbours
 * stay where they are. Throws a PageError where no side lies that way.
 */
export function bleedOver(
  panels: readonly PanelEntity[],
  panelId: EntityId,
  edge: PageEdge,
  { page, ...options }: BorderOptions & { readonly page: { readonly width: number; readonly height: number } },
): PanelEntity[] {
  const panel = panels.find(({ id }) => id === panelId);
  if (!panel) throw new PageError('This panel is no longer on the page.');
  const out = OUTWARDS[edge];
  let best: { readonly side: number; readonly towards: number } | undefined;
  for (let side = 0; side < segmentCount(panel.ring); side++) {
    const { dx, dy } = sideLine(panel.ring, side);
    // The left of a side as it goes is outside of its panel.
    const towards = dy * out.x - dx * out.y;
    if (towards > (best?.towards ?? OUTSIDE)) best = { side, towards };
  }
  if (!best) throw new PageError('No side of this panel lies towards that edge.');
  const [from, to] = sideEnds(panel.ring, best.side);
  const reach = edge === 'left' || edge === 'top' ? 0 : edge === 'right' ? page.width : page.height;
  const along = ({ x, y }: Point) => x * out.x + y * out.y;
  const over = (panel.border?.nib.size ?? 0) + OVER;
  const by = (reach * (out.x + out.y) + over - Math.min(along(from), along(to))) / best.towards;
  return moveBorder(panels, { panelId, side: best.side }, by, { ...options, alone: true });
}

/** The cosine of the angle up to which a side lies towards an edge. */
const OUTSIDE = 0.5;
/** Page px that a bleeding panel reaches beyond the page, besides its border. */
const OVER = 4;

/** Bends a side so that its middle comes to a place; the sides that face it bend along. */
export function bendBorder(
  panels: readonly PanelEntity[],
  start: PanelSide,
  to: Point,
  { widest, least, alone }: BorderOptions,
): PanelEntity[] {
  const ring = ringOf(panels, start.panelId);
  const bent = bendSegment(ring, { segment: start.side, t: 0.5 }, to);
  const line = sideLine(ring, start.side);
  const rise = (handle: number) => {
    const i = start.side * SEGMENT + 3 * handle;
    return besideLine(line, { x: bent.points[i], y: bent.points[i + 1] });
  };
  const rises = [rise(1), rise(2)] as const;
  const group = alone ? [start] : sidesAlong(panels, start, widest);
  const after = panels.map((panel) => {
    const sides = group.filter(({ panelId }) => panelId === panel.id);
    if (sides.length === 0) return panel;
    return reshaped(
      panel,
      sides.reduce((now, { side }) => bowed(now, side, line, rises), panel.ring),
    );
  });
  return changed(panels, after, least);
}

/** A side whose handles lie beside its chord as those of another side do beside theirs. */
function bowed(ring: Spine, side: number, line: Line, [first, second]: readonly [number, number]): Spine {
  const [from, to] = sideEnds(ring, side);
  const own = lineThrough(from, to);
  if (!own) return ring;
  const isSame = own.dx * line.dx + own.dy * line.dy > 0;
  const points = ring.points.slice();
  const put = (handle: 1 | 2, rise: number) => {
    const at = lineBeside(line, rise);
    const share = handle / 3;
    const i = side * SEGMENT + 3 * handle;
    points[i] = from.x + (to.x - from.x) * share + (at.x - line.x);
    points[i + 1] = from.y + (to.y - from.y) * share + (at.y - line.y);
  };
  put(1, isSame ? first : second);
  put(2, isSame ? second : first);
  return { points, closed: true };
}
