import { turnedCamera, type Camera, type Turn } from '../guides';
import {
  carriedBy,
  dot,
  minus,
  scaled,
  sum,
  turnedBack,
  turnedBy,
  type Box,
  type Point,
  type Rigid,
  type Vector,
} from '../math';
import { boxOfSolid, cornersOfBox } from './ready';
import type { StandingBlock } from './scene';
import { NEAREST, picturedAt, viewOf, type Eye } from './view';

const turnOf = ({ axes }: Camera): Rigid => ({ axes: [axes.right, axes.left, axes.height], at: [0, 0, 0] });

/** The camera moved so that a place of the set comes to lie where it is said, in the eye's own space. */
const standingSo = (look: Camera, place: Vector, seen: Vector): Eye => ({
  look,
  eye: minus(place, turnedBack(turnOf(look), seen)),
});

/** A camera that goes round a place of the set, and looks at it as before. Radians, as `turnedCamera` has them. */
export function orbited({ eye, look }: Eye, about: Vector, turn: Turn): Eye {
  const seen = carriedBy(viewOf({ eye, look }).map, about);
  return standingSo(turnedCamera(look, turn), about, seen);
}

/** A camera moved along the picture, m to the right and down, and into it. */
export const movedCamera = ({ eye, look }: Eye, by: Vector): Eye => ({
  look,
  eye: sum(eye, turnedBack(turnOf(look), by)),
});

/** A camera turned where it stands. */
export const turnedEye = ({ eye, look }: Eye, turn: Turn): Eye => ({ eye, look: turnedCamera(look, turn) });

/** How high the camera stands above the floor, m; and the same camera at another height. */
export const eyeHeight = ({ eye }: Eye): number => eye[2];
export const atHeight = ({ eye, look }: Eye, height: number): Eye => ({ look, eye: [eye[0], eye[1], height] });

/** The direction into the picture, in the set. */
export const ahead = ({ look: { axes } }: Eye): Vector => [axes.right[2], axes.left[2], axes.height[2]];

/** Which way a camera looks round z, radians from x towards y. */
export function headingOf(camera: Eye): number {
  const [x, y] = ahead(camera);
  return Math.atan2(y, x);
}

/** A level camera that looks round z in a direction, without tilt and roll. */
function levelLook({ centre, focal }: Camera, heading: number): Camera {
  const [c, s] = [Math.cos(heading), Math.sin(heading)];
  // Ahead is (c, s, 0); to the right of it (s, −c, 0); up is z, which is −y of the picture.
  return { centre, focal, axes: { right: [s, 0, c], left: [-c, 0, s], height: [0, -1, 0] } };
}

/** The same look with its centre of vision where a place stays where it was seen. */
function shiftedTo(look: Camera, eye: Vector, place: Vector, seen: Point): Camera {
  const now = picturedAt(look, carriedBy(viewOf({ eye, look }).map, place));
  return { ...look, centre: { x: look.centre.x + seen.x - now.x, y: look.centre.y + seen.y - now.y } };
}

/**
 * A camera whose picture has one, two or three vanishing points, in which a place of the set stays where it is seen. Upright
 * lines are kept upright by shifting the lens; for three points the lens looks at the middle of the picture again.
 */
export function withPoints(camera: Eye, points: 1 | 2 | 3, about: Vector, middle: Point): Eye {
  const { eye, look } = camera;
  const seen = picturedAt(look, carriedBy(viewOf(camera).map, about));
  if (points === 3) {
    const { centre, focal } = look;
    const turn: Turn = {
      yaw: -Math.atan2(middle.x - centre.x, focal),
      tilt: Math.atan2(centre.y - middle.y, Math.hypot(focal, middle.x - centre.x)),
    };
    const turned = turnedCamera({ ...look, centre: middle }, turn);
    // Looking straight ahead there would still be two.
    return { eye, look: Math.abs(turned.axes.height[2]) > 0.01 ? turned : turnedCamera(turned, { tilt: -0.2 }) };
  }
  const heading = headingOf(camera);
  const square = Math.PI / 2;
  const level = levelLook(look, points === 1 ? Math.round(heading / square) * square : heading);
  return { eye, look: shiftedTo(level, eye, about, seen) };
}

/** How many vanishing points a camera's picture has within reach. */
export function pointsOf({ look: { axes } }: Eye): number {
  return [axes.right, axes.left, axes.height].filter((axis) => Math.abs(axis[2]) > 1e-6).length;
}

/** The middle of what stands, or the origin. */
export function middleOf(blocks: readonly StandingBlock[]): Vector {
  const box = blocks.map(({ solid }) => boxOfSolid(solid));
  if (box.length === 0) return [0, 0, 0];
  const at = (axis: number) =>
    (Math.min(...box.map((one) => one[axis])) + Math.max(...box.map((one) => one[axis + 3]))) / 2;
  return [at(0), at(1), at(2)];
}

/** The share of a part of the picture that all that stands fills at most. */
const FILLED = 0.9;

/** A camera from which all that stands is seen as large as it can be, looking the same way, within a part of the picture. */
export function seeingAll(camera: Eye, blocks: readonly StandingBlock[], window: Box): Eye {
  const { look } = camera;
  const middle = middleOf(blocks);
  const corners = blocks.flatMap(({ solid }) => cornersOfBox(boxOfSolid(solid)));
  const at = { x: (window.minX + window.maxX) / 2, y: (window.minY + window.maxY) / 2 };
  const [wide, high] = [(window.maxX - window.minX) * (FILLED / 2), (window.maxY - window.minY) * (FILLED / 2)];
  const from = (away: number): Eye =>
    standingSo(look, middle, [
      ((at.x - look.centre.x) * away) / look.focal,
      ((at.y - look.centre.y) * away) / look.focal,
      away,
    ]);
  const fits = (away: number): boolean => {
    const { map } = viewOf(from(away));
    return corners.every((corner) => {
      const p = carriedBy(map, corner);
      if (p[2] < NEAREST) return false;
      const { x, y } = picturedAt(look, p);
      return Math.abs(x - at.x) < wide && Math.abs(y - at.y) < high;
    });
  };
  let [near, far] = [0, 2];
  while (!fits(far) && far < FARTHEST) [near, far] = [far, 2 * far];
  for (let pass = 0; pass < 40; pass++) {
    const half = (near + far) / 2;
    if (fits(half)) far = half;
    else near = half;
  }
  return from(far);
}

/** m beyond which nobody stands. */
const FARTHEST = 1e6;

/** m of the set per page px at a place. */
export function scaleAt(camera: Eye, place: Vector): number {
  const depth = carriedBy(viewOf(camera).map, place)[2];
  return Math.max(1e-6, depth) / camera.look.focal;
}

/** How far along a line of the set a hand has come that went from one place of the page to another, m. */
export function alongLine(camera: Eye, on: Vector, way: Vector, from: Point, to: Point): number {
  const { map, camera: look } = viewOf(camera);
  const [p, d] = [carriedBy(map, on), turnedBy(map, way)];
  const at = ({ x, y }: Point) =>
    nearestAlong(p, d, [(x - look.centre.x) / look.focal, (y - look.centre.y) / look.focal, 1]);
  return at(to) - at(from);
}

/** Where a line passes nearest to a ray from the origin, as a length along it. */
function nearestAlong(on: Vector, way: Vector, ray: Vector): number {
  const [a, b, c] = [dot(way, way), dot(way, ray), dot(ray, ray)];
  const under = a * c - b * b;
  if (Math.abs(under) < 1e-9 * a * c) return 0;
  return (b * dot(ray, on) - c * dot(way, on)) / under;
}

/** The camera with another focal length, page px, standing as it does. */
export const withFocal = ({ eye, look }: Eye, focal: number): Eye => ({ eye, look: { ...look, focal } });

/** A camera that looks over a page for the first time: two points, 35 mm, from the height of someone who stands. */
export function firstCamera(page: { readonly width: number; readonly height: number }): Eye {
  const focal = (page.width * 35) / 36;
  const look = levelLook({ centre: { x: page.width / 2, y: page.height * 0.45 }, focal, axes: levelAxes }, 0.98);
  const away = 14;
  const [x, y] = scaled(ahead({ eye: [0, 0, 0], look }), -away);
  return { look, eye: [x, y, 1.6] };
}

const levelAxes: Camera['axes'] = { right: [1, 0, 0], left: [0, 0, 1], height: [0, -1, 0] };

/**
 * A camera that stands at a place and sees another in the middle of a picture; level, so that upright lines stay upright, or
 * tilted at it.
 */
export function lookingAt(
  eye: Vector,
  place: Vector,
  { focal, middle, level }: { readonly focal: number; readonly middle: Point; readonly level: boolean },
): Eye {
  const [x, y, z] = minus(place, eye);
  const straight = levelLook({ centre: middle, focal, axes: levelAxes }, Math.atan2(y, x));
  if (level) return { eye, look: shiftedTo(straight, eye, place, middle) };
  return { eye, look: turnedCamera(straight, { tilt: Math.atan2(z, Math.hypot(x, y)) }) };
}
