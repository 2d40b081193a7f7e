import type { EntityId } from '@true-nib/core/kind';
import type { BlockKind, BlockShape } from '@true-nib/core/set';
import { keptStore } from '../../base';

/** What a drag does to the camera. */
export const CAMERA_DEEDS = ['orbit', 'move', 'dolly', 'turn', 'roll'] as const;
export type CameraDeed = (typeof CAMERA_DEEDS)[number];

/** How lines are pulled, as an artist sets it: weights in mm. */
export interface PullChoice {
  readonly contour: number;
  readonly crease: number;
  readonly contact: number;
  readonly mark: number;
  /** 0 where hidden lines are gone. */
  readonly hidden: number;
  /** Degrees. */
  readonly angle: number;
  /** %: 0 the same everywhere, 100 as fast as things grow smaller. */
  readonly fall: number;
  /** mm over the corner; below 0 short of it. */
  readonly over: number;
  readonly halo: number;
  /** Lines are drawn with the nib in hand, at their own weights; else with one of even width. */
  readonly inHand: boolean;
  /** Lines follow the camera when it is turned. */
  readonly follows: boolean;
}

interface SetState {
  /** The shape that the next touch or drag lays; none where it takes hold of what stands. */
  readonly laying: BlockKind | undefined;
  /** A shape that was drawn, or read from a file, and is laid by the next touch. */
  readonly made: BlockShape | undefined;
  readonly setId: EntityId | undefined;
  readonly cameraId: EntityId | undefined;
  /** The blocks that are chosen. */
  readonly chosen: readonly EntityId[];
  readonly snaps: boolean;
  readonly cameraDeed: CameraDeed;
  /** Of the next row: copies, and m between them. */
  readonly row: { readonly count: number; readonly gap: number };
  readonly pull: PullChoice;
  /** Tones of dark faces: the share of the paper, and the strength of light up to which a face is dark, %. */
  readonly tone: { readonly share: number; readonly dark: number };
  /** 0..1 while lines are being pulled. */
  readonly pulling: number | undefined;
}

/** What is in hand about sets. */
export const useSets = keptStore<SetState>({
  name: 'true-nib-sets',
  version: 1,
  kept: ['snaps', 'row', 'pull', 'tone'],
  fresh: {
    ...{ laying: undefined, made: undefined, setId: undefined, cameraId: undefined, chosen: [] },
    ...{ snaps: true, cameraDeed: 'orbit', row: { count: 3, gap: 1 } },
    pull: {
      ...{ contour: 0.5, crease: 0.25, contact: 0.25, mark: 0.18, hidden: 0 },
      ...{ angle: 20, fall: 50, over: 0, halo: 0.5, inHand: false, follows: true },
    },
    ...{ pulling: undefined, tone: { share: 30, dark: 30 } },
  },
});

export const setSets = (change: Partial<SetState>): void => void useSets.setState(change);
export const setPull = (change: Partial<PullChoice>): void =>
  void useSets.setState(({ pull }) => ({ pull: { ...pull, ...change } }));
