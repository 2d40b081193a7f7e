import { spineLength, type GuidePath, type LinePath } from '../curve';
import { distance, type Point } from '../math';
import {
  FRAME_WAYS,
  type EchoShape,
  type FieldShape,
  type GuideGrid,
  type GuideShape,
  type RaysShape,
  type RipplesShape,
} from './guide';
import type { Extent } from './perspective/frame';
import { framePaths } from './perspective/grid';
import { edgePaths } from './edges';
import { echoThrough } from './echo';
import { fromMiddle } from './ellipse';
import { project } from './path';

/** A hand that starts nearer to the point of rays than this, page px, goes the way it sets out. */
const NO_RAY = 0.5;
const NO_PAGE: Extent = { width: 0, height: 0 };
/** Rings smaller than this, page px, are none. */
const LEAST_RING = 0.5;

export const isField = (shape: GuideShape): shape is FieldShape =>
  shape.kind === 'rails' || shape.kind === 'ripples' || shape.kind === 'rays' || shape.kind === 'echo';

/**
 * The path that a guide gives a hand that starts at `point`: of a field the one through it (or the nearest line of its grid,
 * where it snaps), of an edge the nearest. `heading` (radians) is where the hand sets out to; rays need it at their own point.
 * Of a frame it is the path closest to the heading; `page` tells the camera of its grids.
 * Nothing where the guide gives none: at the middle of ripples, for a curve of no length, and for symmetries.
 */
export function pathThrough(
  { shape }: { readonly shape: GuideShape },
  point: Point,
  heading?: number,
  page: Extent = NO_PAGE,
): GuidePath | undefined {
  switch (shape.kind) {
    case 'rails': {
      const [dx, dy] = [Math.cos(shape.angle), Math.sin(shape.angle)];
      const across = (point.x - shape.x) * -dy + (point.y - shape.y) * dx;
      const move = snapped(across, shape.grid) - across;
      return { kind: 'line', x: point.x - dy * move, y: point.y + dx * move, dx, dy };
    }
    case 'rays':
      return rayThrough(shape, point, heading);
    case 'ripples':
      return ringThrough(shape, point);
    case 'echo': {
      return echoPath(shape, point);
    }
    case 'straightedge':
    case 'batten':
    case 'template':
    case 'plane': {
      const paths = edgePaths(shape).map((path) => ({ path, away: project(path, point).distance }));
      return paths.sort((a, b) => a.away - b.away)[0]?.path;
    }
    case 'frame': {
      const paths = framePaths(shape, page, point, FRAME_WAYS).map(({ path }) => path);
      if (heading === undefined) return paths[0];
      const off = ({ dx, dy }: LinePath) => Math.abs(dx * Math.sin(heading) - dy * Math.cos(heading));
      return paths.sort((a, b) => off(a) - off(b))[0];
    }
    case 'mirror':
    case 'wheel':
    case 'fold':
      return undefined;
  }
}

/** The last path of an echo: a hand asks again and again from where it started. */
const echoes = new WeakMap<EchoShape, { readonly at: Point; readonly path: GuidePath | undefined }>();

function echoPath(shape: EchoShape, { x, y }: Point): GuidePath | undefined {
  const known = echoes.get(shape);
  if (known && known.at.x === x && known.at.y === y) return known.path;
  const course = spineLength(shape.course) > 0 ? echoThrough(shape.course, { x, y }) : undefined;
  const path: GuidePath | undefined = course && { kind: 'curve', course };
  echoes.set(shape, { at: { x, y }, path });
  return path;
}

/** The value of the grid line nearest to `value`, where a grid snaps; a count bounds how far the lines go. */
function snapped(value: number, grid: GuideGrid | undefined, least = -Infinity): number {
  if (!grid?.snaps) return value;
  const { step, offset, count } = grid;
  let line = Math.round((value - offset) / step);
  if (count > 0) line = Math.max(-count, Math.min(count, line));
  return Math.max(least, offset + line * step);
}

function rayThrough({ x, y, grid }: RaysShape, point: Point, heading: number | undefined): GuidePath | undefined {
  const away = distance({ x, y }, point);
  const angle = away > NO_RAY ? Math.atan2(point.y - y, point.x - x) : heading;
  if (angle === undefined) return undefined;
  const turned = grid?.snaps ? grid.offset + Math.round((angle - grid.offset) / grid.step) * grid.step : angle;
  // From the very numbers of the point where nothing turns it: an angle would cost digits far off.
  const isTrue = turned === angle && away > NO_RAY;
  const dx = isTrue ? (point.x - x) / away : Math.cos(turned);
  const dy = isTrue ? (point.y - y) / away : Math.sin(turned);
  const along = (point.x - x) * dx + (point.y - y) * dy;
  return { kind: 'line', x: x + along * dx, y: y + along * dy, dx, dy };
}

function ringThrough(shape: RipplesShape, point: Point): GuidePath | undefined {
  const { x, y, ratio, angle, grid } = shape;
  const own = fromMiddle({ kind: 'ellipse', x, y, rx: 1, ry: ratio, angle }, point);
  const radius = Math.hypot(own.x, own.y / ratio);
  const rx = snapped(radius, grid, grid ? LEAST_RING : 0);
  return rx < LEAST_RING ? undefined : { kind: 'ellipse', x, y, rx, ry: rx * ratio, angle };
}
