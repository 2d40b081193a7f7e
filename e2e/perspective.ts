import type { Page as Tab } from '@playwright/test';
import {
  cameraOf,
  isCamera,
  type Camera,
  type FrameShape,
  type FrameWay,
  type GuideEntity,
} from '@true-nib/core/guides';
import type { StrokeEntity } from '@true-nib/core/stroke';

/** Takes up work in depth on the wide board. */
export async function inDepth(tab: Tab, deed: string): Promise<void> {
  await tab.getByRole('tab', { name: 'Guides' }).click();
  await tab.getByRole('button', { name: 'Depth', exact: true }).click();
  await tab.getByRole('radiogroup', { name: 'In depth' }).getByRole('radio', { name: deed, exact: true }).click();
}

export const takePlane = (tab: Tab, plane: string): Promise<void> =>
  tab.getByRole('radiogroup', { name: 'Plane', exact: true }).getByRole('radio', { name: plane, exact: true }).click();

export function frameOf({ shape }: GuideEntity): FrameShape {
  if (shape.kind !== 'frame') throw new Error(`A frame was expected; a guide of kind ${shape.kind} came.`);
  return shape;
}

export function cameraIn(guide: GuideEntity, size: { width: number; height: number }): Camera {
  const camera = cameraOf(frameOf(guide), size);
  if (!isCamera(camera)) throw new Error(camera.impossible);
  return camera;
}

/** How far, in radians, the line between the ends of a stroke misses a point of a frame. */
export function missOf({ points }: FrameShape, way: FrameWay, { spine: { points: p } }: StrokeEntity): number {
  const [x, y, w] = points[way];
  const [dx, dy] = [p[p.length - 3] - p[0], p[p.length - 2] - p[1]];
  const [u, v] = [x - w * p[0], y - w * p[1]];
  return Math.abs(dx * v - dy * u) / Math.hypot(dx, dy) / Math.hypot(u, v);
}

/** The direction of a frame that a stroke runs in, within 10⁻⁶ rad. */
export const wayOfStroke = (frame: FrameShape, stroke: StrokeEntity): FrameWay | undefined =>
  (['right', 'left', 'height'] as const).find((way) => missOf(frame, way, stroke) < 1e-6);
