import { cross, median, scaled, sum, turnedAbout, unit, type Point, type Vector } from '../../math';
import { FRAME_WAYS, type FrameShape, type FrameWay, type SightedEdge } from '../guide';
import { PageError } from '../../gate';
import { isCamera, cameraOf, frameOfCamera, type Camera } from './camera';
import { lineThrough, naturalFocal, vanishingPoint, WAY_NAMES, type Extent, type FrameParts } from './frame';
import { leastSquares } from './leastSquares';
import { surelyMore } from './surely';

/** How well an edge agrees with a frame. */
export interface SightedResidual {
  readonly edge: SightedEdge;
  /** Between the edge and the line from its middle to its point, degrees, signed clockwise. */
  readonly degrees: number;
  /** It disagrees by far more than the others and was not heard. */
  readonly isOutlier: boolean;
}

export interface Sighting {
  readonly frame: FrameShape;
  /** One for each edge, in their order. */
  readonly residuals: readonly SightedResidual[];
  /** The root mean square of the residuals that were heard, degrees. */
  readonly error: number;
}

/** Edges shorter than this, page px, have no direction to speak of. */
const LEAST_EDGE = 1;
const DEGREE = Math.PI / 180;
/** An edge that is off by more than this many times the usual is an outlier, where it is off by 1.5° at least. */
const OUTLIER = 3.5;
const LEAST_OUTLIER = 1.5 * DEGREE;
/** From the median of absolute errors to the spread of a normal distribution (1 / Φ⁻¹(3/4)). */
const TO_SPREAD = 1.4826;
/** How far a careful hand is off, and how many edges this counts for beside what the edges themselves say. */
const HAND = 0.1 * DEGREE;
const HAND_COUNTS = 2;
/** How far the centre of vision of a picture may lie from its middle, as a share of its diagonal, where edges leave it open. */
const CENTRED = 0.1;
const PAIRS = 120;
/** The sine of an angle from which on an edge disagrees with a point. */
const DISAGREES = 0.03;

/** An edge in the fit's own unit: the page's middle is 0, its diagonal 1. */
interface Line {
  readonly x: number;
  readonly y: number;
  readonly dx: number;
  readonly dy: number;
}

/**
 * The frame that edges were seen in: for each direction its point by least squares on the angles between the edges and the
 * lines from their middles to the point, then one camera for all of them together. Edges that are parallel but for their
 * spread give a point at infinity. Throws a PageError for edges without length, for directions that are told by no two edges,
 * and where all of them are parallel.
 */
export function sightFrame(edges: readonly SightedEdge[], page: Extent, settings: FrameParts = {}): Sighting {
  const unitOf = Math.hypot(page.width, page.height);
  const middle: Point = { x: page.width / 2, y: page.height / 2 };
  const lines = edges.map(({ from, to }): Line => {
    const [x, y] = [to.x - from.x, to.y - from.y];
    const long = Math.hypot(x, y);
    if (!(long >= LEAST_EDGE)) throw new PageError('This edge has no length: drag along it.');
    return {
      ...{ x: ((from.x + to.x) / 2 - middle.x) / unitOf, y: ((from.y + to.y) / 2 - middle.y) / unitOf },
      ...{ dx: x / long, dy: y / long },
    };
  });
  const found: Partial<Record<FrameWay, PointFit>> = {};
  for (const way of FRAME_WAYS) {
    const own = lines.filter((_, k) => edges[k].way === way);
    if (own.length > 1) found[way] = fitPoint(own);
  }
  const heard = new Set(Object.values(found).flatMap(({ heard }) => heard));
  const camera = fitCamera(found, (way) => lines.filter((line, k) => edges[k].way === way && heard.has(line)));
  const onPage: Camera = {
    ...camera,
    centre: { x: middle.x + camera.centre.x * unitOf, y: middle.y + camera.centre.y * unitOf },
    focal: camera.focal * unitOf,
  };
  const { centre: _told, ...frame } = frameOfCamera(onPage, page, { ...settings, edges });
  const shape: FrameShape = isTold(frame, page) ? frame : { ...frame, centre: onPage.centre };
  const errors = lines.map((line, k) => errorOf(directionOf(camera, edges[k].way), line));
  const spread = TO_SPREAD * median(errors.filter((_, k) => heard.has(lines[k])).map(Math.abs));
  const least = Math.max(LEAST_OUTLIER, OUTLIER * spread);
  const good = errors.filter((error) => Math.abs(error) <= least);
  return {
    frame: shape,
    residuals: edges.map((edge, k) => ({
      edge,
      degrees: errors[k] / DEGREE,
      isOutlier: Math.abs(errors[k]) > least,
    })),
    error: Math.sqrt(good.reduce((whole, error) => whole + error * error, 0) / Math.max(1, good.length)) / DEGREE,
  };
}

/** Whether the points alone give the camera again. */
function isTold(frame: FrameShape, page: Extent): boolean {
  return isCamera(cameraOf(frame, page));
}

interface PointFit {
  readonly point: Vector;
  readonly isFar: boolean;
  readonly heard: readonly Line[];
}

/** The sine of the angle at an edge's middle between it and the way to a homogeneous point. */
function sineOf([x, y, w]: Vector, line: Line): number {
  const [u, v] = [x - w * line.x, y - w * line.y];
  const long = Math.sqrt(u * u + v * v);
  return long < 1e-12 ? 0 : (line.dy * u - line.dx * v) / long;
}

/** That angle itself, −π/2..π/2. */
const errorOf = (point: Vector, line: Line): number => Math.asin(Math.max(-1, Math.min(1, sineOf(point, line))));

/** The point of one direction, and the edges that agree on it. */
function fitPoint(lines: readonly Line[]): PointFit {
  const start = consensus(lines);
  const spread = spreadOf(start, lines);
  const heard =
    lines.length < 4
      ? lines
      : lines.filter((line) => Math.abs(errorOf(start, line)) <= Math.max(LEAST_OUTLIER, OUTLIER * spread));
  const point = refined(start, heard);
  const angle = parallelAngle(heard);
  const far: Vector = [Math.cos(angle), Math.sin(angle), 0];
  const [near, away] = [point, far].map((at) => heard.reduce((whole, line) => whole + errorOf(at, line) ** 2, 0));
  const freedom = heard.length - 2 + HAND_COUNTS;
  const noise = (near + HAND_COUNTS * HAND ** 2) / freedom;
  // A point is drawn in from infinity only where the edges clearly say so.
  const isFar = away - near < surelyMore(freedom) * noise;
  return { point: isFar ? far : point, isFar, heard };
}

const spreadOf = (point: Vector, lines: readonly Line[]): number =>
  TO_SPREAD * median(lines.map((line) => Math.abs(errorOf(point, line))));

/** Where two of the lines meet that most of the others agree with. */
function consensus(lines: readonly Line[]): Vector {
  const homogeneous = lines.map((line) => lineThrough([line.x, line.y, 1], [line.dx, line.dy, 0]));
  const count = (lines.length * (lines.length - 1)) / 2;
  const every = Math.max(1, Math.floor(count / PAIRS));
  let best: { readonly point: Vector; readonly cost: number } | undefined;
  let pair = 0;
  for (let i = 0; i < lines.length; i++)
    for (let k = i + 1; k < lines.length; k++) {
      if (pair++ % every !== 0) continue;
      const met = lineThrough(homogeneous[i], homogeneous[k]);
      if (Math.hypot(...met) < 1e-12) continue;
      const point = unit(met);
      // Those that disagree count alike, however much they do (as in RANSAC's relative MSAC; Torr & Zisserman 2000).
      const cost = lines.reduce((whole, line) => whole + Math.min(DISAGREES, Math.abs(sineOf(point, line))), 0);
      // Of two lines alone every one agrees.
      if (!best || cost < best.cost) best = { point, cost };
    }
  const angle = parallelAngle(lines);
  return best?.point ?? [Math.cos(angle), Math.sin(angle), 0];
}

/** The direction of parallels: angles doubled, so that both ways along an edge count as one. */
function parallelAngle(lines: readonly Line[]): number {
  const [c, s] = lines.reduce(([x, y], { dx, dy }) => [x + dx * dx - dy * dy, y + 2 * dx * dy], [0, 0]);
  return Math.atan2(s, c) / 2;
}

/** The homogeneous point about `start`, on the unit sphere, with the least squares of angles. */
function refined(start: Vector, lines: readonly Line[]): Vector {
  const [u, v] = acrossOf(start);
  const at = ([a, b]: readonly number[]): Vector => unit(sum(start, sum(scaled(u, a), scaled(v, b))));
  return at(leastSquares((p) => lines.map((line) => errorOf(at(p), line)), [0, 0]));
}

/** Two directions at right angles to a unit vector and to each other. */
function acrossOf(a: Vector): readonly [Vector, Vector] {
  const u = unit(cross(a, Math.abs(a[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0]));
  return [u, cross(a, u)];
}

const directionOf = ({ centre, focal, axes }: Camera, way: FrameWay): Vector => {
  const [x, y, z] = axes[way];
  return [focal * x + centre.x * z, focal * y + centre.y * z, z];
};

/** One camera for all edges that are heard, from the points of the directions alone. In the fit's own unit. */
function fitCamera(found: Partial<Record<FrameWay, PointFit>>, linesOf: (way: FrameWay) => readonly Line[]): Camera {
  const near = FRAME_WAYS.filter((way) => found[way]?.isFar === false);
  const level = near.filter((way) => way !== 'height');
  if (near.length === 0)
    throw new PageError(
      Object.keys(found).length === 0
        ? 'Lay two edges at least in one direction.'
        : 'These edges are parallel: none of them goes away from the eye. Lay edges that do.',
    );
  if (level.length === 0) throw new PageError('Lay edges that run level too: two of them at least.');
  const model =
    near.length === 3 ? threePoints(found) : near.length === 2 ? twoPoints(found, near) : onePoint(found, near[0]);
  const told = FRAME_WAYS.flatMap((way) => linesOf(way).map((line) => ({ way, line })));
  const errors = (p: readonly number[]) => {
    const camera = model.camera(p);
    return told.map(({ way, line }) => errorOf(directionOf(camera, way), line));
  };
  const first = leastSquares(errors, model.start);
  if (!model.isCentred) return model.camera(first);
  // Where the edges leave the centre of vision open it lies about the middle: as strongly as their spread lets it.
  const spread = Math.sqrt(
    errors(first).reduce((whole, error) => whole + error * error, 0) / Math.max(1, told.length - first.length),
  );
  const pull = spread / CENTRED;
  return model.camera(
    leastSquares((p) => {
      const { centre } = model.camera(p);
      return [...errors(p), pull * centre.x, pull * centre.y];
    }, first),
  );
}

interface Model {
  readonly start: readonly number[];
  readonly camera: (parameters: readonly number[]) => Camera;
  /** Whether the centre of vision is a parameter that is expected about the middle. */
  readonly isCentred: boolean;
}

/** The angle in which the horizon of a one-point frame lies, by the edges that say so; level otherwise. */
function onePoint(found: Partial<Record<FrameWay, PointFit>>, near: FrameWay): Model {
  const [x, y, w] = found[near]?.point ?? [0, 0, 1];
  const level = near === 'right' ? 'left' : 'right';
  const lean = angleOf(found.height?.point, Math.PI / 2);
  const roll = found[level] ? angleOf(found[level]?.point, 0) : lean - Math.PI / 2;
  const focal = naturalFocal({ width: 0.6, height: 0.8 }, { x: 0.3, y: 0.4 });
  return {
    start: [x / w, y / w, Math.atan(Math.tan(roll))],
    isCentred: false,
    camera: ([u, v, turn]) => {
      const across: Vector = [Math.cos(turn), Math.sin(turn), 0];
      const axes = { [near]: [0, 0, 1], [level]: level === 'left' ? scaled(across, -1) : across };
      return seenAs({ x: u, y: v }, focal, { ...axes, height: [Math.sin(turn), -Math.cos(turn), 0] });
    },
  };
}

/** The angle of a far point's direction, within a right angle of `about`. */
function angleOf(point: Vector | undefined, about: number): number {
  if (!point) return about;
  const angle = Math.atan2(point[1], point[0]);
  return angle - Math.PI * Math.round((angle - about) / Math.PI);
}

/** Two points within reach: the third direction lies in the page, and the eye before the foot of the middle on their line. */
function twoPoints(found: Partial<Record<FrameWay, PointFit>>, [a, b]: readonly FrameWay[]): Model {
  const far = FRAME_WAYS.find((way) => way !== a && way !== b) ?? 'height';
  const [p, q] = [a, b].map((way): readonly [number, number] => {
    const [x, y, w] = found[way]?.point ?? [0, 0, 1];
    return [x / w, y / w];
  });
  const turn = Math.atan2(q[1] - p[1], q[0] - p[0]) + Math.PI / 2;
  const out: readonly [number, number] = [Math.cos(turn), Math.sin(turn)];
  const offset = p[0] * out[0] + p[1] * out[1];
  const along = ([x, y]: readonly [number, number]) => x * out[1] - y * out[0];
  const product = -along(p) * along(q);
  const focal = product > 0 ? Math.sqrt(product) : 1;
  return {
    start: [turn, Math.atan2(along(p), focal), offset, Math.log(focal)],
    isCentred: false,
    camera: ([angle, yaw, away, logFocal]) => {
      const [c, s] = [Math.cos(angle), Math.sin(angle)];
      const level: Vector = [s, -c, 0];
      const [cos, sin] = [Math.cos(yaw), Math.sin(yaw)];
      const first: Vector = [level[0] * sin, level[1] * sin, cos];
      const second: Vector = [level[0] * cos, level[1] * cos, -sin];
      return seenAs({ x: away * c, y: away * s }, Math.exp(logFocal), { [a]: first, [b]: second, [far]: [c, s, 0] });
    },
  };
}

function threePoints(found: Partial<Record<FrameWay, PointFit>>): Model {
  const points = FRAME_WAYS.map((way) => found[way]?.point ?? [0, 0, 1]);
  const [right, left, height] = points.map(([x, y, w]) => vanishingPoint(x, y, w));
  // In the fit's own unit points of a frame may well lie nearer together than a page's px.
  const told = cameraOf({ points: { right, left, height }, focal: 1 }, { width: 0, height: 0 });
  const { centre, focal } = isCamera(told) && told.focal > 0.05 ? told : { centre: { x: 0, y: 0 }, focal: 1 };
  const [a, b] = points.map(([x, y, w]): Vector => {
    const seen = unit([x - w * centre.x, y - w * centre.y, w * focal]);
    return w < 0 ? scaled(seen, -1) : seen;
  });
  // At right angles, whatever the points say: the first as it is, the others by it.
  const third = unit(cross(a, b));
  const base = { right: a, left: unit(cross(third, a)), height: third };
  return {
    start: [0, 0, 0, Math.log(focal), centre.x, centre.y],
    isCentred: true,
    camera: ([x, y, z, logFocal, u, v]) => {
      const angle = Math.hypot(x, y, z);
      const turned = (axis: Vector): Vector => (angle < 1e-15 ? axis : turnedAbout(axis, unit([x, y, z]), angle));
      return seenAs({ x: u, y: v }, Math.exp(logFocal), {
        right: turned(base.right),
        left: turned(base.left),
        height: turned(base.height),
      });
    },
  };
}

/** A camera with its axes the way round that a frame has them: level ones away from the eye, height up the page. */
function seenAs(centre: Point, focal: number, axes: Readonly<Record<string, Vector>>): Camera {
  const away = (way: FrameWay): Vector => {
    const [x, y, z] = axes[way];
    const isBack = Math.abs(z) > 1e-9 ? z < 0 : way === 'right' ? x < 0 : x > 0;
    return isBack ? [-x, -y, -z] : [x, y, z];
  };
  const { height } = axes;
  return {
    ...{ centre, focal },
    axes: { right: away('right'), left: away('left'), height: height[1] > 0 ? scaled(height, -1) : height },
  };
}

/** An outlier in words. */
export const outlierInWords = ({ edge, degrees }: SightedResidual, number: number): string =>
  `Edge ${number} (${WAY_NAMES[edge.way]}) is off by ${Math.abs(degrees).toFixed(1)}°`;
