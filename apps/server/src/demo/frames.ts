import { frameOfCamera, framePaths, type Extent, FRAME_WAYS, type FrameShape } from '@true-nib/core/guides';
import type { Point, Vector } from '@true-nib/core/math';
import type { LinePath } from '@true-nib/core/curve';
import { camera, type CameraOptions, type Place } from './camera';
import { QUAY_TURN, QUAY_VIEW } from './quay';
import { STAIR_VIEW } from './lampStair';

/** The frame of a camera that a sketch was made with; `right` and `left` are directions of the scene. */
function frameOf(options: CameraOptions, page: Extent, right: Place, left: Place, corner: Place): FrameShape {
  const { seen, project } = camera(options);
  const axis = ([x, y, z]: Place): Vector => {
    const at = seen([x + options.eye[0], y + options.eye[1], z + options.eye[2]]);
    const away: Vector = at[2] < 0 ? [-at[0], at[1], -at[2]] : [at[0], -at[1], at[2]];
    return away;
  };
  const [a, b, c] = seen([options.eye[0], options.eye[1] + 1, options.eye[2]]);
  return frameOfCamera(
    {
      centre: options.centre,
      focal: options.focal,
      axes: { right: axis(right), left: axis(left), height: [a, -b, c] },
    },
    page,
    { corner: project(corner) },
  );
}

/** The frame that *Quay at low tide* stands in: two points, on the walls of the corner house. */
export const quayFrame = (page: Extent): FrameShape =>
  frameOf(
    QUAY_VIEW,
    page,
    [Math.cos(QUAY_TURN), 0, Math.sin(QUAY_TURN)],
    [-Math.sin(QUAY_TURN), 0, Math.cos(QUAY_TURN)],
    [-0.35, 0, 10.4],
  );

/** The frame of *Down the lamp stair*: three points, looking down. */
export const stairFrame = (page: Extent): FrameShape => frameOf(STAIR_VIEW, page, [1, 0, 0], [0, 0, 1], [-1.7, 0, 0]);

/** How far a sketched line may be off its direction and still be meant to run in it, as the sine of the angle. */
const MEANT = 0.008;

/** The path of the frame that a straight mark was meant to run along; nothing for marks that run elsewhere. */
export function meantPath(frame: FrameShape, page: Extent, points: readonly Point[]): LinePath | undefined {
  const [a, b] = [points[0], points[points.length - 1]];
  const long = Math.hypot(b.x - a.x, b.y - a.y);
  if (points.length !== 2 || long < 40) return undefined;
  const off = ({ dx, dy }: LinePath) => Math.abs((b.x - a.x) * dy - (b.y - a.y) * dx) / long;
  const paths = framePaths(frame, page, a, FRAME_WAYS).map(({ path }) => path);
  const [best] = paths.sort((p, q) => off(p) - off(q));
  return best && off(best) < MEANT ? best : undefined;
}
