import { pointAt, segmentCount, STRIDE, type Spine } from '../curve';
import type { EntityId } from '../kind';
import { boxOfFlat, type Box, type Point } from '../math';
import type { PanelEntity } from '../panel';
import type { PanelSide } from './borders';
import { besideLine, sideEnds, sideLine, type Line } from './sides';

/** What a border or a corner came to lie on. */
export type SnappedTo = 'margin' | 'trim' | 'border' | 'gutter' | 'same size';

export interface Snap {
  readonly by: number;
  readonly to: SnappedTo;
}

/** What panels snap to. Page px. */
export interface SnapOptions {
  readonly panels: readonly PanelEntity[];
  readonly margins: Box;
  readonly trim: Box;
  /** How wide gutters are. */
  readonly gutter: number;
  /** How near is near enough. */
  readonly reach: number;
}

const boxOf = ({ points }: Spine): Box => boxOfFlat(points, STRIDE);

/**
 * How far a border moves beside itself instead of `by` page px, where that brings it onto a margin, the trim, in line with another
 * border, a gutter from one, or to where its panel is as wide as another one; nothing where none of that is near.
 */
export function snapBorder(
  { panelId, side }: PanelSide,
  by: number,
  options: SnapOptions,
  still: readonly PanelSide[],
): Snap | undefined {
  const { panels, margins, trim, gutter } = options;
  const panel = panels.find(({ id }) => id === panelId);
  if (!panel) return undefined;
  const line = sideLine(panel.ring, side);
  const found: Snap[] = [];
  const add = (at: number | undefined, to: SnappedTo) => void (at !== undefined && found.push({ by: at, to }));
  for (const edge of edgesOf(margins)) add(distanceAlong(line, edge), 'margin');
  for (const edge of edgesOf(trim)) add(distanceAlong(line, edge), 'trim');
  const own = thickness(panel.ring, line);
  for (const other of panels) {
    if (other.id === panelId) continue;
    for (let k = 0; k < segmentCount(other.ring); k++) {
      if (still.some((one) => one.panelId === other.id && one.side === k)) continue;
      const away = distanceAlong(line, sideEnds(other.ring, k));
      if (away === undefined) continue;
      add(away, 'border');
      add(away - gutter, 'gutter');
    }
    add(thickness(other.ring, line) - own, 'same size');
  }
  return nearest(found, by, options.reach);
}

const nearest = (found: readonly Snap[], by: number, reach: number): Snap | undefined =>
  found.reduce<Snap | undefined>((best, snap) => {
    const away = Math.abs(snap.by - by);
    return away <= reach && (!best || away < Math.abs(best.by - by) - 1e-9) ? snap : best;
  }, undefined);

/** How far a ring reaches across a line. */
function thickness(ring: Spine, line: Line): number {
  let [least, most] = [Infinity, -Infinity];
  for (let segment = 0; segment < segmentCount(ring); segment++) {
    const away = besideLine(line, pointAt(ring, { segment, t: 0 }));
    least = Math.min(least, away);
    most = Math.max(most, away);
  }
  return most - least;
}

const edgesOf = ({ minX, minY, maxX, maxY }: Box): (readonly [Point, Point])[] => [
  [
    { x: minX, y: minY },
    { x: maxX, y: minY },
  ],
  [
    { x: maxX, y: minY },
    { x: maxX, y: maxY },
  ],
  [
    { x: maxX, y: maxY },
    { x: minX, y: maxY },
  ],
  [
    { x: minX, y: maxY },
    { x: minX, y: minY },
  ],
];

/** How far another line lies beside one; nothing where they do not run side by side. */
function distanceAlong(line: Line, [from, to]: readonly [Point, Point]): number | undefined {
  const [a, b] = [besideLine(line, from), besideLine(line, to)];
  return Math.abs(a - b) < 0.5 ? (a + b) / 2 : undefined;
}

/** A place brought onto margins, the trim, or the borders and gutters of panels, each way on its own. */
export function snapPlace(at: Point, options: SnapOptions, apart?: EntityId): Point & { readonly to?: SnappedTo } {
  const x = snapAlong(at.x, 'x', options, apart);
  const y = snapAlong(at.y, 'y', options, apart);
  const to = x?.to ?? y?.to;
  return { x: at.x + (x?.by ?? 0), y: at.y + (y?.by ?? 0), ...(to && { to }) };
}

function snapAlong(
  at: number,
  axis: 'x' | 'y',
  { panels, margins, trim, gutter, reach }: SnapOptions,
  apart?: EntityId,
) {
  const ends = (box: Box): readonly [number, number] => (axis === 'x' ? [box.minX, box.maxX] : [box.minY, box.maxY]);
  const found: Snap[] = [];
  const add = (place: number, to: SnappedTo) => void found.push({ by: place - at, to });
  for (const end of ends(margins)) add(end, 'margin');
  for (const end of ends(trim)) add(end, 'trim');
  for (const { id, ring } of panels) {
    if (id === apart) continue;
    const [low, high] = ends(boxOf(ring));
    add(low, 'border');
    add(high, 'border');
    add(low - gutter, 'gutter');
    add(high + gutter, 'gutter');
  }
  return nearest(found, 0, reach);
}
