import type { Following } from '@true-nib/core/tethers';
import type { FrameReach, FramePlane, FrameWay, SightedEdge } from '@true-nib/core/guides';
import { keptStore } from '../base';

/** The picture that the next drag lays on a plane. */
export interface HeldPicture {
  readonly file: File;
  /** How high it is, of how wide. */
  readonly ratio: number;
}

/** What a drag does while one works in depth. */
export type DepthDeed = 'frame' | 'sight' | 'shape' | 'box' | 'march' | 'bays' | 'stairs' | 'lines' | 'fold';

/** What lies on the desk about perspective. Frames themselves are part of the page. */
export interface DepthDesk {
  readonly deed: DepthDeed;
  /** The plane that shapes, boxes, marches and selections lie on. */
  readonly plane: FramePlane;
  /** The directions that lines take. */
  readonly limit: FrameReach;
  /** Right and left stay on the horizon while they are dragged. */
  readonly keepsHorizon: boolean;
  readonly following: Following;
  /** The direction that the next sighted edge runs in, and the edges so far. */
  readonly sightWay: FrameWay;
  readonly edges: readonly SightedEdge[];
  /** Copies of a march, and whether the drag is one step or all of them. */
  readonly steps: number;
  readonly spans: boolean;
  readonly bays: number;
  readonly stairs: { readonly count: number; readonly rise: number; readonly width: number };
  /** Whether boxes show the edges behind them. */
  readonly hidden: boolean;
  /** The picture that the next drag lays on the plane instead of a template. */
  readonly picture: HeldPicture | undefined;
  /** How wide, of how high a plane shape came out last, in words. */
  readonly proportions: string | undefined;
}

export const useDepth = keptStore<DepthDesk>({
  name: 'true-nib.depth',
  version: 1,
  fresh: {
    deed: 'frame',
    plane: 'right',
    limit: 'all',
    keepsHorizon: true,
    following: 'carried',
    sightWay: 'right',
    edges: [],
    steps: 6,
    spans: false,
    bays: 4,
    stairs: { count: 8, rise: 60, width: 300 },
    hidden: false,
    picture: undefined,
    proportions: undefined,
  },
  kept: ['plane', 'keepsHorizon', 'following', 'steps', 'spans', 'bays', 'stairs', 'hidden'],
});

export const setDepth = (change: Partial<DepthDesk>): void => void useDepth.setState(change);
