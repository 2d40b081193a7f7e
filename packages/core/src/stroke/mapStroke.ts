import { mapPath, mapSpine, STRIDE, type Spine } from '../curve';
import {
  apply,
  applyProjective,
  clamp,
  depthAt,
  scaleOf,
  then,
  type Matrix,
  type Matrix3x3,
  type Point,
} from '../math';
import { NIB_LIMITS, type Nib } from '../nib';
import type { Stroke, StrokeEnd, StrokeOrigin } from './types';

/** The nib of a mapped line: `factor` times as large, and a flat tip turned as the map turns it; `map` may be a slope alone. */
export function mapNib(nib: Nib, factor: number, [xx, yx, xy, yy]: readonly number[]): Nib {
  const size = clamp(nib.size * factor, NIB_LIMITS.least, NIB_LIMITS.most);
  const { tip } = nib;
  if (tip?.shape !== 'flat') return factor === 1 ? nib : { ...nib, size };
  const [x, y] = [Math.cos(tip.angle), Math.sin(tip.angle)];
  return { ...nib, size, tip: { ...tip, angle: Math.atan2(yx * x + yy * y, xx * x + xy * y) } };
}

/** Page px from its corner beyond which nothing is drawn: lines that run towards a horizon have no end of their own. */
export const FARTHEST_DRAWN = 9e5;

/** Whether all of a course lies where lines can be kept. */
export function isKeepable({ points }: Spine): boolean {
  for (let i = 0; i < points.length; i += STRIDE)
    if (!(Math.abs(points[i]) < FARTHEST_DRAWN && Math.abs(points[i + 1]) < FARTHEST_DRAWN)) return false;
  return true;
}

/** Ends whose cuts went where `map` takes points of the page; straight across where it takes one of them nowhere, or too far. */
export function mapEnds([first, last]: Stroke['ends'], map: (at: Point) => Point | undefined): Stroke['ends'] {
  const mapped = (end: StrokeEnd): StrokeEnd => {
    if (typeof end === 'string') return end;
    const gone = new Float64Array(end.gone.length);
    for (let i = 0; i < gone.length; i += 2) {
      const at = map({ x: end.gone[i], y: end.gone[i + 1] });
      if (!at || !(Math.hypot(at.x, at.y) < FARTHEST_DRAWN)) return 'flat';
      gone[i] = at.x;
      gone[i + 1] = at.y;
    }
    return { gone };
  };
  return [mapped(first), mapped(last)];
}

/** Ends whose cuts went under a projective map; straight across where a cut comes too near the horizon or behind the viewer. */
export const projectEnds = (ends: Stroke['ends'], map: Matrix3x3, side = 1): Stroke['ends'] =>
  mapEnds(ends, ({ x, y }) => (depthAt(map, x, y) * side > 1e-6 ? applyProjective(map, x, y) : undefined));

/** Ends for a line that goes another way now: what was cut along a line there is straight across. */
export const plainEnds = ([first, last]: Stroke['ends']): Stroke['ends'] => [
  typeof first === 'string' ? first : 'flat',
  typeof last === 'string' ? last : 'flat',
];

const mapOrigin = (origin: StrokeOrigin, map: Matrix, factor: number): StrokeOrigin => ({
  ...origin,
  matrix: origin.matrix ? then(origin.matrix, map) : map,
  ...(factor !== 1 && { widened: factor * (origin.widened ?? 1) }),
});

/**
 * A stroke under an affine map of the page: it stays a stroke, and its raw samples and the path it rode go along.
 * `scaleWidth`: its weight grows and shrinks with the map.
 */
export function mapStroke<S extends Stroke>(stroke: S, map: Matrix, scaleWidth = false): S {
  const factor = scaleWidth ? scaleOf(map) : 1;
  const { origin, guide } = stroke;
  return {
    ...stroke,
    spine: mapSpine(stroke.spine, map, factor),
    nib: mapNib(stroke.nib, factor, map),
    ends: mapEnds(stroke.ends, (at) => apply(map, at)),
    ...(guide && { guide: { ...guide, path: mapPath(guide.path, map) } }),
    ...(origin && { origin: mapOrigin(origin, map, factor) }),
  };
}
