import { scaled, sum, type Point, type Vector } from '../../math';
import { GUIDE_LIMITS, type FramePlane, type FrameShape, type FrameWay } from '../guide';
import type { LinePath } from '../../curve';
import { behind, cameraOf, isCamera, seenSegment, type Camera } from './camera';
import { isFinitePoint, PLANE_WAYS, wayTo, type Extent } from './frame';
import { onPlane, planeAxes, planeMap } from './plane';

/** Is told the ends of a piece of a grid line, page px, and how clearly it shows, 0..1. */
export type TellPiece = (ax: number, ay: number, bx: number, by: number, clear: number) => void;

/** Depths, in those of the corner, at which a grid pales by a step. */
const BANDS = [0, 1.6, 2.6, 4.2, 6.8, 11, 18, Infinity] as const;

/** Nearer to the eye than this, in depths of the corner, nothing is drawn. */
const NEAR = 0.02;

/** How clearly a grid shows at some depth, in depths of the corner: the same up to it, then ever less. */
export const clearAt = (fade: number, depth: number): number => 1 / (1 + 2.5 * fade * Math.max(0, depth - 1));

/**
 * Tells the grid of a plane as pieces of lines, those behind the viewer left out; none where the frame has no camera. Where
 * lines would lie closer than `finest` page px only every second, fourth … one is kept. In plain numbers: a board asks for
 * thousands at every move of a point.
 */
export function eachGridPiece(
  frame: FrameShape,
  page: Extent,
  plane: FramePlane,
  finest: number,
  tell: TellPiece,
): void {
  const grid = frame.grids[plane];
  const camera = cameraOf(frame, page);
  if (!grid || !isCamera(camera)) return;
  const [a, b] = planeAxes(camera, plane);
  const start = behind(camera, frame.corner);
  const reach = Math.min(grid.reach, GUIDE_LIMITS.gridReach.most);
  for (const [along, across] of [
    [a, b],
    [b, a],
  ] as const)
    for (let line = -reach; line <= reach; line++) {
      const at = (axis: 0 | 1 | 2, end: number) =>
        start[axis] + across[axis] * line * grid.step + along[axis] * end * reach * grid.step;
      const from: Vector = [at(0, -1), at(1, -1), at(2, -1)];
      const to: Vector = [at(0, 1), at(1, 1), at(2, 1)];
      // How deep this line may go before it lies too close to its neighbours.
      const deepest = finest > 0 ? (evenness(line) * grid.step) / finest : Infinity;
      addLine(camera, [from, to], { fade: grid.fade, deepest }, tell);
    }
}

/** The greatest power of two that divides a line's number: the last lines to be left out have the most. */
function evenness(line: number): number {
  return line === 0 ? Infinity : line & -line;
}

/** How lines pale with their depth, and the depth, in those of the corner, beyond which they are left out. */
interface Paling {
  readonly fade: number;
  readonly deepest: number;
}

/** Tells a line in pieces that pale with their depth. */
function addLine(
  { centre, focal }: Camera,
  [from, to]: readonly [Vector, Vector],
  { fade, deepest }: Paling,
  tell: TellPiece,
): void {
  const near = from[2] <= to[2] ? from : to;
  const far = near === from ? to : from;
  const shallow = Math.max(NEAR, near[2] / focal);
  const deep = Math.min(deepest, far[2] / focal);
  if (!(deep >= shallow)) return;
  const slope = (far[2] - near[2]) / focal;
  const dx = far[0] - near[0];
  const dy = far[1] - near[1];
  const xAt = (depth: number, share: number) => centre.x + (near[0] + share * dx) / depth;
  const yAt = (depth: number, share: number) => centre.y + (near[1] + share * dy) / depth;
  if (slope < 1e-9) {
    tell(xAt(shallow, 0), yAt(shallow, 0), xAt(shallow, 1), yAt(shallow, 1), clearAt(fade, shallow));
    return;
  }
  const shareAt = (depth: number) => (depth - near[2] / focal) / slope;
  let depth = shallow;
  let x = xAt(depth, shareAt(depth));
  let y = yAt(depth, shareAt(depth));
  for (const band of BANDS) {
    if (band <= shallow) continue;
    const next = Math.min(band, deep);
    const share = shareAt(next);
    const endX = xAt(next, share);
    const endY = yAt(next, share);
    tell(x, y, endX, endY, clearAt(fade, (depth + next) / 2));
    if (next >= deep) return;
    depth = next;
    x = endX;
    y = endY;
  }
}

/** A line of a grid near a place: the whole of it, as far as the grid goes, before the viewer. */
export interface GridLine {
  readonly way: FrameWay;
  readonly ends: readonly [Point, Point];
}

/** The line of a plane's grid that is nearest to a place, of those that run in one direction. */
export function gridLineAt(
  frame: FrameShape,
  page: Extent,
  plane: FramePlane,
  way: FrameWay,
  at: Point,
): GridLine | undefined {
  const grid = frame.grids[plane];
  const camera = cameraOf(frame, page);
  const isFirst = PLANE_WAYS[plane][0] === way;
  if (!grid || !isCamera(camera) || (!isFirst && PLANE_WAYS[plane][1] !== way)) return undefined;
  const [a, b] = planeAxes(camera, plane);
  const start = behind(camera, frame.corner);
  const map = planeMap(camera, a, b, start);
  const own = map && onPlane(map, at);
  if (!own) return undefined;
  const across = isFirst ? own.y : own.x;
  const line = Math.max(-grid.reach, Math.min(grid.reach, Math.round(across / grid.step))) * grid.step;
  const reach = grid.reach * grid.step;
  const [along, off] = isFirst ? [a, b] : [b, a];
  const middle = sum(start, scaled(off, line));
  const ends = seenSegment(camera, sum(middle, scaled(along, -reach)), sum(middle, scaled(along, reach)));
  return ends && { way, ends };
}

/**
 * The paths that a frame gives a hand that starts at `at`: through each awake point, or along the nearest line of a grid
 * that holds the hand. `ways`: only these directions. Nothing for a direction at its own point.
 */
export function framePaths(
  frame: FrameShape,
  page: Extent,
  at: Point,
  ways: readonly FrameWay[],
): { readonly way: FrameWay; readonly path: LinePath }[] {
  return ways.flatMap((way) => {
    if (frame.asleep.includes(way)) return [];
    const held = snappedTo(frame, page, way, at) ?? at;
    const line = wayTo(frame.points[way], held);
    if (!line) return [];
    const point = frame.points[way];
    // Reckoned from the point itself, so that the line meets it, be it far off.
    const path: LinePath = isFinitePoint(point)
      ? throughPoint(point[0], point[1], held, line)
      : { kind: 'line', ...held, dx: line.x, dy: line.y };
    return [{ way, path }];
  });
}

function throughPoint(x: number, y: number, at: Point, way: Point): LinePath {
  const along = (at.x - x) * way.x + (at.y - y) * way.y;
  // Far off the numbers of the point cost digits here: the place of the hand has them all.
  return Math.abs(along) > 1e6
    ? { kind: 'line', ...at, dx: way.x, dy: way.y }
    : { kind: 'line', x: x + along * way.x, y: y + along * way.y, dx: way.x, dy: way.y };
}

/** The place on the nearest grid line of a direction, where a grid that has such lines holds the hand. */
function snappedTo(frame: FrameShape, page: Extent, way: FrameWay, at: Point): Point | undefined {
  let best: { readonly place: Point; readonly away: number } | undefined;
  for (const plane of ['left', 'right', 'floor'] as const) {
    if (!frame.grids[plane]?.snaps) continue;
    const line = gridLineAt(frame, page, plane, way, at);
    if (!line) continue;
    const [p, q] = line.ends;
    const long = Math.hypot(q.x - p.x, q.y - p.y);
    if (!(long > 1e-9)) continue;
    const [dx, dy] = [(q.x - p.x) / long, (q.y - p.y) / long];
    const share = (at.x - p.x) * dx + (at.y - p.y) * dy;
    const place = { x: p.x + share * dx, y: p.y + share * dy };
    const away = Math.hypot(place.x - at.x, place.y - at.y);
    if (!best || away < best.away) best = { place, away };
  }
  return best?.place;
}

/** The direction of a frame, of some, that a drag from one place to another goes in. */
export function headedWay(
  frame: FrameShape,
  page: Extent,
  from: Point,
  to: Point,
  ways: readonly FrameWay[],
): FrameWay | undefined {
  const off = ({ dx, dy }: LinePath) => Math.abs((to.x - from.x) * dy - (to.y - from.y) * dx);
  const paths = framePaths({ ...frame, grids: {}, asleep: [] }, page, from, ways);
  return paths.sort((a, b) => off(a.path) - off(b.path))[0]?.way;
}
