import type { GuidePath } from '../../curve';
import { checkAngle, checkFarPlace, flag, number, optional, record } from '../../gate';
import { chain, clamp, distance, projectiveOf, rotation, translation, type Point } from '../../math';
import { fromMiddle } from '../ellipse';
import { GUIDE_LIMITS, type GuideGrid, type RailsShape, type RaysShape, type RipplesShape } from '../guide';
import { project } from '../path';
import { ARM, gripOf, movedBy, off, turnedBy } from './handling';
import type { ShapeRow } from './row';

/** A hand that starts nearer to the point of rays than this, page px, goes the way it sets out. */
const NO_RAY = 0.5;
/** Rings smaller than this, page px, are none. */
const LEAST_RING = 0.5;

/** Parallels at an angle. */
export const rails: ShapeRow<RailsShape> = {
  bears: 'field',
  check: (fields) => ({
    kind: 'rails',
    ...checkFarPlace(fields),
    angle: checkAngle(fields),
    ...optional(fields, 'grid', checkGrid),
  }),
  path(shape, { at }) {
    const [dx, dy] = [Math.cos(shape.angle), Math.sin(shape.angle)];
    const across = (at.x - shape.x) * -dy + (at.y - shape.y) * dx;
    const move = snapped(across, shape.grid) - across;
    return { kind: 'line', x: at.x - dy * move, y: at.y + dx * move, dx, dy };
  },
  obeys: (path, { angle }) =>
    path.kind === 'line' && Math.abs(path.dx * Math.sin(angle) - path.dy * Math.cos(angle)) < 1e-6,
  isOn: ({ x, y, angle }, at, reach) =>
    project({ kind: 'line', x, y, dx: Math.cos(angle), dy: Math.sin(angle) }, at).distance <= reach,
  anchor: ({ x, y }) => ({ x, y }),
  grips: (shape, { perCss }) => [gripOf('move', shape), gripOf('turn', off(shape, shape.angle, ARM * perCss))],
  place: turnedBy,
  move: movedBy,
  courses: (_before, { angle }) => ({ by: 'aim', point: [Math.cos(angle), Math.sin(angle), 0] }),
};

/** All lines through one point. */
export const rays: ShapeRow<RaysShape> = {
  bears: 'field',
  check: (fields) => ({ kind: 'rays', ...checkFarPlace(fields), ...optional(fields, 'grid', checkGrid) }),
  path: (shape, { at, heading }) => rayThrough(shape, at, heading),
  obeys(path, shape) {
    if (path.kind !== 'line') return false;
    const [x, y] = [shape.x - path.x, shape.y - path.y];
    return Math.abs(x * path.dy - y * path.dx) < 1e-6 * (1 + Math.hypot(x, y)) + 1e-3;
  },
  isOn: (shape, at, reach) => distance(shape, at) <= 2 * reach,
  anchor: ({ x, y }) => ({ x, y }),
  grips: (shape) => [gripOf('move', shape)],
  move: movedBy,
  courses: (_before, { x, y }) => ({ by: 'aim', point: [x, y, 1] }),
};

/** Concentric ellipses. */
export const ripples: ShapeRow<RipplesShape> = {
  bears: 'field',
  check: (fields) => ({
    kind: 'ripples',
    ...checkFarPlace(fields),
    ratio: number(fields.ratio, 'ratio', GUIDE_LIMITS.ratio.least, GUIDE_LIMITS.ratio.most),
    angle: checkAngle(fields),
    ...optional(fields, 'grid', checkGrid),
  }),
  path: (shape, { at }) => ringThrough(shape, at),
  obeys(path, shape) {
    if (path.kind !== 'ellipse' || distance(path, shape) > 1e-3) return false;
    const [long, short] = [Math.max(path.rx, path.ry), Math.min(path.rx, path.ry)];
    return Math.abs(short / long - shape.ratio) < 1e-6;
  },
  isOn: (shape, at, reach) => distance(shape, at) <= 2 * reach,
  anchor: ({ x, y }) => ({ x, y }),
  grips: (shape, { perCss }) => [
    gripOf('move', shape),
    gripOf('turn', off(shape, shape.angle, 1.25 * ARM * perCss)),
    gripOf('ratio', off(shape, shape.angle + Math.PI / 2, 1.25 * ARM * perCss * shape.ratio)),
  ],
  place(shape, drag) {
    if (drag.grip.part !== 'ratio') return turnedBy(shape, drag);
    const { from, to } = drag;
    const across = Math.abs((to.y - shape.y) * Math.cos(shape.angle) - (to.x - shape.x) * Math.sin(shape.angle));
    const whole = distance(from, shape) / shape.ratio;
    return { ...shape, ratio: clamp(across / whole, GUIDE_LIMITS.ratio.least, 1) };
  },
  move: movedBy,
  courses: (before, after) => ({
    by: 'map',
    map: projectiveOf(
      chain(
        chain(translation(-before.x, -before.y), rotation(-before.angle), [1, 0, 0, after.ratio / before.ratio, 0, 0]),
        rotation(after.angle),
        translation(after.x, after.y),
      ),
    ),
  }),
};

function checkGrid(value: unknown): GuideGrid {
  const fields = record(value, 'A grid');
  return {
    step: number(fields.step, 'step', 1e-4, 1e5),
    offset: number(fields.offset, 'offset', -1e6, 1e6),
    count: number(fields.count, 'count', 0, GUIDE_LIMITS.count),
    snaps: flag(fields.snaps, 'snaps'),
  };
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
