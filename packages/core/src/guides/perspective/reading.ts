import type { Point } from '../../math';
import type { FrameShape } from '../guide';
import { cameraOf, isCamera, type Impossible } from './camera';
import { CONE, horizonOf, type Extent } from './frame';

/** The circle on the page inside which a picture looks natural: 60° about the centre of vision (common practice). */
export function coneOfVision(frame: FrameShape, page: Extent): (Point & { readonly radius: number }) | Impossible {
  const camera = cameraOf(frame, page);
  return isCamera(camera) ? { ...camera.centre, radius: camera.focal * Math.tan(CONE) } : camera;
}

/** What a frame says of the eye. Angles in radians, lengths in page px. */
export interface Reading {
  readonly horizon: (Point & { dx: number; dy: number }) | undefined;
  readonly focal: number;
  /** Across the page's width. */
  readonly fieldOfView: number;
  /** How far the eye looks up (positive) or down. */
  readonly tilt: number;
  /** Where the eye stands: over the centre of vision, `away` before the page. */
  readonly station: Point & { readonly away: number };
  /** The cone that holds the whole page, as a full angle. */
  readonly widest: number;
}

export function readFrame(frame: FrameShape, page: Extent): Reading | Impossible {
  const camera = cameraOf(frame, page);
  if (!isCamera(camera)) return camera;
  const { centre, focal, axes } = camera;
  const corners = [0, page.width].flatMap((x) => [0, page.height].map((y) => Math.hypot(x - centre.x, y - centre.y)));
  return {
    horizon: horizonOf(frame, page),
    focal,
    fieldOfView: Math.atan((page.width - centre.x) / focal) + Math.atan(centre.x / focal),
    tilt: Math.asin(Math.max(-1, Math.min(1, axes.height[2]))),
    station: { ...centre, away: focal },
    widest: 2 * Math.atan(Math.max(...corners) / focal),
  };
}
