import { measureOf, type GuideShape } from '../guides';
import type { GuidePath } from '../curve';
import type { Point } from '../math';
import type { StrokeEntity } from '../stroke';

export type Ends = readonly [Point, Point];

/** A tethered line while its new ends are looked for. */
export interface Tied {
  readonly stroke: StrokeEntity;
  readonly ends: Ends;
  /** The guide's shape that it obeys from now on. */
  readonly shape: GuideShape;
  /** Its path after the move, where no neighbour pulls at it. */
  readonly path: GuidePath;
  /** Its ends after the move, where no neighbour pulls at it. */
  readonly moved: Ends;
  readonly isMoved: boolean;
}

/** How much larger a path is than another of its kind. */
export function sizeRatio(old: GuidePath, path: GuidePath): number {
  if (old.kind === 'ellipse' && path.kind === 'ellipse') return Math.max(path.rx, path.ry) / Math.max(old.rx, old.ry);
  if (old.kind === 'curve' && path.kind === 'curve') return measureOf(path.course) / (measureOf(old.course) || 1);
  if (old.kind === 'line' && path.kind === 'line' && old.to && path.to) return path.to / old.to;
  return 1;
}
