import type { FrameShape } from '../guide';
import { frameOfCamera, type Camera } from './camera';
import { turnedCamera, type Turn } from './turn';
import { CONE, naturalFocal, type Extent, type FrameParts } from './frame';

export interface FramePreset {
  readonly id: string;
  readonly name: string;
  /** How many points lie within reach. */
  readonly points: 1 | 2 | 3;
  /** Where the eye looks, as shares of the page, and how it is turned from looking straight at a wall, degrees. */
  readonly at: readonly [x: number, y: number];
  readonly yaw: number;
  readonly tilt: number;
  /** The cone that just holds the page, as a share of the natural one. */
  readonly wide: number;
}

/** Frames that look natural: all of the page lies within the cone of vision of 60°. */
export const FRAME_PRESETS: readonly FramePreset[] = [
  { id: 'one', name: 'One point', points: 1, at: [0.5, 0.45], yaw: 0, tilt: 0, wide: 0.95 },
  { id: 'one-aside', name: 'One, aside', points: 1, at: [0.36, 0.42], yaw: 0, tilt: 0, wide: 0.99 },
  { id: 'two', name: 'Two points', points: 2, at: [0.5, 0.45], yaw: 36, tilt: 0, wide: 0.95 },
  { id: 'two-flat', name: 'Two, one far', points: 2, at: [0.5, 0.45], yaw: 16, tilt: 0, wide: 0.95 },
  { id: 'three-up', name: 'Three, looking up', points: 3, at: [0.5, 0.5], yaw: 38, tilt: 24, wide: 0.95 },
  { id: 'three-down', name: 'Three, looking down', points: 3, at: [0.5, 0.5], yaw: 38, tilt: -26, wide: 0.95 },
];

/** The frame of a preset on a page. */
export function framePreset({ at, yaw, tilt, wide }: FramePreset, page: Extent, settings: FrameParts = {}): FrameShape {
  const centre = { x: at[0] * page.width, y: at[1] * page.height };
  const straight: Camera = {
    centre,
    focal: naturalFocal(page, centre, wide * CONE),
    axes: { right: [1, 0, 0], left: [0, 0, 1], height: [0, -1, 0] },
  };
  const turn: Turn = { yaw: (yaw * Math.PI) / 180, tilt: (tilt * Math.PI) / 180 };
  const frame = frameOfCamera(turnedCamera(straight, turn), page, settings);
  const { centre: told, ...rest } = frame;
  // What the points tell need not be said again: then the centre follows when they are moved.
  return yaw !== 0 && tilt === 0 && told ? { ...rest, centre: told } : rest;
}
