import { clamp, type Point } from '../../math';
import {
  FRAME_PLANES,
  FRAME_WAYS,
  GUIDE_LIMITS,
  type FrameGrid,
  type FramePlane,
  type FrameShape,
  type FrameWay,
  type VanishingPoint,
} from '../guide';
import { PageError } from '../../gate';

export type FramePoints = FrameShape['points'];
export interface Extent {
  readonly width: number;
  readonly height: number;
}

/** Points farther off than this, page px, are taken to lie infinitely far: lines over a page turn by less than 10⁻⁶ rad. */
const FARTHEST = 1e10;
/** Finite points nearer than this, page px, are one. */
const LEAST_APART = 1;

/** The two directions of each plane: along it, and up or deep. */
export const PLANE_WAYS: Readonly<Record<FramePlane, readonly [FrameWay, FrameWay]>> = {
  left: ['left', 'height'],
  right: ['right', 'height'],
  floor: ['right', 'left'],
};

/** A vanishing point from homogeneous coordinates of any scale. Throws a PageError for none at all. */
export function vanishingPoint(x: number, y: number, w: number): VanishingPoint {
  if (![x, y, w].every(Number.isFinite)) throw new PageError('This point lies nowhere.');
  const long = Math.hypot(x, y);
  if (Math.abs(w) * FARTHEST > long) return [x / w, y / w, 1];
  if (!(long > 0)) throw new PageError('This point lies nowhere.');
  return [x / long, y / long, 0];
}

export const isFinitePoint = (point: VanishingPoint): boolean => point[2] === 1;

/** The place of a point that does not lie infinitely far. */
export const placeOfPoint = ([x, y, w]: VanishingPoint): Point | undefined => (w === 1 ? { x, y } : undefined);

/** The unit direction from a place towards a vanishing point; nothing at the point itself. */
export function wayTo([vx, vy, w]: VanishingPoint, { x, y }: Point, least = 0.5): Point | undefined {
  const [dx, dy] = [vx - w * x, vy - w * y];
  const long = Math.hypot(dx, dy);
  return w === 1 && long < least ? undefined : { x: dx / long, y: dy / long };
}

/** The page line through two homogeneous points, as a·x + b·y + c = 0. */
export const lineThrough = (p: readonly number[], q: readonly number[]): readonly [number, number, number] => [
  p[1] * q[2] - p[2] * q[1],
  p[2] * q[0] - p[0] * q[2],
  p[0] * q[1] - p[1] * q[0],
];

/** Settings of a frame that its points do not tell. */
export type FrameParts = Partial<Omit<FrameShape, 'kind' | 'points'>>;

/**
 * A frame from its three points. Throws a PageError where two directions have one point, since they would be one direction.
 */
export function frameFromPoints(points: FramePoints, page: Extent, settings: FrameParts = {}): FrameShape {
  FRAME_WAYS.forEach((way, k) => {
    for (const other of FRAME_WAYS.slice(k + 1)) {
      const [a, b] = [points[way], points[other]];
      const isOne =
        a[2] === b[2] &&
        (a[2] === 1 ? Math.hypot(a[0] - b[0], a[1] - b[1]) < LEAST_APART : Math.abs(a[0] * b[1] - a[1] * b[0]) < 1e-6);
      if (isOne) throw new PageError(`The points ${wayInWords(way)} and ${wayInWords(other)} lie in one place.`);
    }
  });
  const { focal = naturalFocal(page, { x: page.width / 2, y: page.height / 2 }), ...rest } = settings;
  return {
    ...{ asleep: [], fixed: [], grids: {}, edges: [], corner: { x: page.width / 2, y: page.height * 0.62 } },
    ...rest,
    // Last: the settings may be a whole frame.
    ...{ kind: 'frame', points },
    focal: clamp(focal, GUIDE_LIMITS.focal.least, GUIDE_LIMITS.focal.most),
  };
}

/** The half angle within which a picture looks natural, radians: a cone of vision of 60° (common practice). */
export const CONE = Math.PI / 6;

/** The focal length, page px, with which the farthest corner of a page lies just inside the cone of vision. */
export function naturalFocal({ width, height }: Extent, centre: Point, half = 0.95 * CONE): number {
  const far = Math.hypot(
    Math.max(Math.abs(centre.x), Math.abs(width - centre.x)),
    Math.max(Math.abs(centre.y), Math.abs(height - centre.y)),
  );
  return far / Math.tan(half);
}

/** How many points lie within reach, 0–3: a frame of one, two or three points. */
export const pointCount = ({ points }: Pick<FrameShape, 'points'>): number =>
  FRAME_WAYS.filter((way) => isFinitePoint(points[way])).length;

/** The horizon: the place on it nearest to the page's middle, and its unit direction; nothing where one looks straight down. */
export function horizonOf(
  { points }: Pick<FrameShape, 'points'>,
  page: Extent,
): (Point & { dx: number; dy: number }) | undefined {
  const [a, b, c] = lineThrough(points.right, points.left);
  const long = Math.hypot(a, b);
  const scale = Math.max(1, ...[points.right, points.left].map(([x, y]) => Math.hypot(x, y)));
  if (!(long > 1e-12 * scale)) return undefined;
  const [nx, ny] = [a / long, b / long];
  const middle = { x: page.width / 2, y: page.height / 2 };
  const away = nx * middle.x + ny * middle.y + c / long;
  const sign = ny > 0 ? 1 : -1;
  return { x: middle.x - away * nx, y: middle.y - away * ny, dx: sign * ny, dy: -sign * nx };
}

/** What a direction is called: by the artist, else by where it goes. */
export const wayName = ({ names }: Pick<FrameShape, 'names'>, way: FrameWay): string => names?.[way] ?? WAY_NAMES[way];

export const WAY_NAMES: Readonly<Record<FrameWay, string>> = { right: 'Right', left: 'Left', height: 'Upright' };
const wayInWords = (way: FrameWay): string => WAY_NAMES[way];

/** The names of the planes: with one point there is a facing wall, and side walls. */
export const planeName = (frame: Pick<FrameShape, 'points'>, plane: FramePlane): string => {
  if (plane === 'floor') return 'Floor';
  const isOne = pointCount(frame) === 1;
  if (isOne) return isFinitePoint(frame.points[plane]) ? 'Side walls' : 'Facing wall';
  return plane === 'left' ? 'Left wall' : 'Right wall';
};

export const freshGrid = (page: Extent, hue: number): FrameGrid => ({
  step: Math.round(page.width / 16),
  reach: 24,
  fade: 0.5,
  hue,
  snaps: false,
});

/** Which directions of a frame lines take: all, those of one plane, or a single one. */
export type FrameReach = 'all' | `plane:${FramePlane}` | `way:${FrameWay}`;

export function waysWithin(reach: FrameReach): readonly FrameWay[] {
  const way = FRAME_WAYS.find((one) => reach === `way:${one}`);
  if (way) return [way];
  const plane = FRAME_PLANES.find((one) => reach === `plane:${one}`);
  return plane ? PLANE_WAYS[plane] : FRAME_WAYS;
}
