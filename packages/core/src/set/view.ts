import { PageError } from '../gate';
import { cameraOf, frameOfCamera, isCamera, type Camera, type FrameShape } from '../guides';
import { dot, scaled, sum, turnedBack, cross, type Point, type Rigid, type Vector } from '../math';
import type { CameraEntity } from './types';

export interface Extent {
  readonly width: number;
  readonly height: number;
}

export type Eye = Pick<CameraEntity, 'eye' | 'look'>;

/** How a camera sees: `map` takes places of the set to its own space, x to the right, y down, z into the picture, m. */
export interface View {
  readonly camera: Camera;
  readonly map: Rigid;
}

export function viewOf({ eye, look }: Eye): View {
  const axes: Rigid['axes'] = [look.axes.right, look.axes.left, look.axes.height];
  const turn: Rigid = { axes, at: [0, 0, 0] };
  const [a, b, c] = axes;
  const at: Vector = [
    -(a[0] * eye[0] + b[0] * eye[1] + c[0] * eye[2]),
    -(a[1] * eye[0] + b[1] * eye[1] + c[1] * eye[2]),
    -(a[2] * eye[0] + b[2] * eye[1] + c[2] * eye[2]),
  ];
  return { camera: look, map: { axes: turn.axes, at } };
}

/** The picture of a place in a camera's own space, page px. */
export const picturedAt = ({ centre, focal }: Camera, p: Vector): Point => ({
  x: centre.x + (focal * p[0]) / p[2],
  y: centre.y + (focal * p[1]) / p[2],
});

/** The direction, in the set, in which a camera sees a place of the page; of no set length. */
export const rayThrough = ({ look }: Eye, at: Point): Vector => {
  const { centre, focal, axes } = look;
  const turn: Rigid = { axes: [axes.right, axes.left, axes.height], at: [0, 0, 0] };
  return turnedBack(turn, [at.x - centre.x, at.y - centre.y, focal]);
};

/** Where the ray of a place of the page meets a plane of the set; nothing where it runs beside it, or behind the eye. */
export function meetsPlane(camera: Eye, at: Point, on: Vector, normal: Vector): Vector | undefined {
  const ray = rayThrough(camera, at);
  const along = dot(ray, normal);
  const from = dot(normal, on) - dot(normal, camera.eye);
  if (Math.abs(along) < 1e-9 * Math.hypot(...ray)) return undefined;
  const t = from / along;
  return t > 0 && Number.isFinite(t) ? sum(camera.eye, scaled(ray, t)) : undefined;
}

/** Nearer than this, m, nothing is seen. */
export const NEAREST = 0.02;

/** The perspective frame of what a camera sees: its corner is the origin of the set. */
export function frameOf(camera: Eye, page: Extent): FrameShape {
  const { map } = viewOf(camera);
  const seen = map.at[2] > NEAREST ? picturedAt(camera.look, map.at) : undefined;
  const isNear = seen && Math.abs(seen.x) < 20 * page.width && Math.abs(seen.y) < 20 * page.height;
  return frameOfCamera(camera.look, page, isNear ? { corner: seen } : {});
}

/**
 * What a frame says of its camera, turned so that right, left and height are x, y and z. Of the four ways in which the set can
 * stand in it, it is the one nearest to `like`. Throws a PageError where the frame has no camera.
 */
export function cameraFromFrame(frame: FrameShape, page: Extent, like?: Camera): Camera {
  const camera = cameraOf(frame, page);
  if (!isCamera(camera)) throw new PageError(camera.impossible);
  const { right, left, height } = camera.axes;
  const isRight = dot(cross(right, left), height) > 0;
  let [x, y] = isRight ? [right, left] : [left, right];
  if (like) {
    const fits = () => dot(x, like.axes.right) + dot(y, like.axes.left);
    const ways = [0, 1, 2, 3].map(() => {
      const way = { x, y, fits: fits() };
      [x, y] = [y, scaled(x, -1)];
      return way;
    });
    ({ x, y } = ways.reduce((best, way) => (way.fits > best.fits ? way : best)));
  }
  return { ...camera, axes: { right: x, left: y, height } };
}

/** The width of the picture on full frame film, mm. */
export const FULL_FRAME = 36;

/** A focal length in mm of full frame, for a picture `width` page px wide; and back. */
export const focalInMm = (focal: number, width: number): number => (focal * FULL_FRAME) / width;
export const focalInPx = (mm: number, width: number): number => (mm * width) / FULL_FRAME;

/** How wide a lens sees, radians: 50 mm see 39.6° across. */
export const widthOfView = (mm: number): number => 2 * Math.atan(FULL_FRAME / (2 * mm));
