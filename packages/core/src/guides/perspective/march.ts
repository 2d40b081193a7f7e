import {
  afterwards,
  applyProjective,
  invertProjective,
  scaled,
  sum,
  withDepth,
  type Matrix3x3,
  type Point,
} from '../../math';
import { PageError } from '../../gate';
import type { FramePlane, FrameShape, FrameWay } from '../guide';
import { behind, cameraOrThrow, keptSegment } from './camera';
import { PLANE_WAYS, wayTo, type Extent } from './frame';
import { onPlane, planeAxes, planeHomography, planeMap } from './plane';

/** Copies that one march may make. */
export const MOST_STEPS = 500;

/** How something is repeated in equal true steps. */
export interface March {
  /** The plane that it lies on. */
  readonly plane: FramePlane;
  /** A place of it, page px: there a px of a step is a px of the page. */
  readonly anchor: Point;
  /** The direction of the steps. */
  readonly way: FrameWay;
  /** The length of a step, page px at the anchor; below 0 it goes the other way. */
  readonly step: number;
  readonly count: number;
}

/**
 * The maps of the page that take a thing on a plane to each of its equal steps, the nearest first. Steps that would come
 * behind the viewer are left out. Throws a PageError for a step of no length, for none and for more than 500 of them.
 */
export function march(frame: FrameShape, page: Extent, { plane, anchor, way, step, count }: March): Matrix3x3[] {
  if (!Number.isInteger(count) || count < 1 || count > MOST_STEPS)
    throw new PageError(`A march has 1 to ${MOST_STEPS} steps; ${count} came.`);
  if (!(Math.abs(step) > 1e-6)) throw new PageError('A step of no length marches nowhere.');
  const camera = cameraOrThrow(frame, page);
  const back = invertProjective(planeHomography(frame, plane, anchor, page));
  const [a, b] = planeAxes(camera, plane);
  const at = behind(camera, anchor);
  const along = camera.axes[way];
  const maps: Matrix3x3[] = [];
  for (let k = 1; k <= count; k++) {
    const map = planeMap(camera, a, b, sum(at, scaled(along, k * step)));
    if (map) maps.push(withDepth(afterwards(back, map), anchor));
  }
  return maps;
}

/** The true way along a direction from an anchor to the place on its line that is nearest to a mark, page px at the anchor. */
export function trueDistance(frame: FrameShape, page: Extent, anchor: Point, way: FrameWay, mark: Point): number {
  const camera = cameraOrThrow(frame, page);
  const line = wayTo(frame.points[way], anchor);
  if (!line) throw new PageError('This place is the point itself: all lines end here.');
  const share = (mark.x - anchor.x) * line.x + (mark.y - anchor.y) * line.y;
  const [u, v] = [anchor.x + share * line.x, anchor.y + share * line.y];
  // behind(anchor) + s·along is seen at (u, v): both coordinates say so, the longer one says it better.
  const [x, y, z] = behind(camera, anchor);
  const d = camera.axes[way];
  const [px, py] = [u - camera.centre.x, v - camera.centre.y];
  const ways = [
    [camera.focal * d[0] - px * d[2], px * z - camera.focal * x],
    [camera.focal * d[1] - py * d[2], py * z - camera.focal * y],
  ].sort(([p], [q]) => Math.abs(q) - Math.abs(p));
  const distance = ways[0][1] / ways[0][0];
  if (!Number.isFinite(distance) || z + distance * d[2] <= 0)
    throw new PageError('This mark lies beyond the point: no step comes there.');
  return distance;
}

/** A box between two corners on a plane, and along which direction, into how many bays, it is divided. */
export interface BayPlan {
  readonly plane: FramePlane;
  readonly corners: readonly [Point, Point];
  readonly way: FrameWay;
  readonly count: number;
}

/** The lines that divide a box on a plane into equal true bays. */
export function equalBays(
  frame: FrameShape,
  page: Extent,
  { plane, corners, way, count }: BayPlan,
): (readonly [Point, Point])[] {
  if (!Number.isInteger(count) || count < 2 || count > MOST_STEPS)
    throw new PageError(`A wall is divided into 2 to ${MOST_STEPS} bays; ${count} came.`);
  const map = planeHomography(frame, plane, corners[0], page);
  const [from, to] = corners.map((corner) => onPlane(map, corner));
  if (!from || !to) throw new PageError('One corner lies beyond the horizon of this plane.');
  const isAlong = PLANE_WAYS[plane][0] === way;
  if (!isAlong && PLANE_WAYS[plane][1] !== way) throw new PageError('This direction does not lie in the plane.');
  return Array.from({ length: count - 1 }, (_, k) => k).flatMap((k) => {
    const share = (k + 1) / count;
    const u = from.x + (to.x - from.x) * share;
    const v = from.y + (to.y - from.y) * share;
    const ends = isAlong
      ? [
          { x: u, y: from.y },
          { x: u, y: to.y },
        ]
      : [
          { x: from.x, y: v },
          { x: to.x, y: v },
        ];
    const [a, b] = ends.map(({ x, y }) => applyProjective(map, x, y));
    const kept = keptSegment(a, b);
    return kept ? [kept] : [];
  });
}
