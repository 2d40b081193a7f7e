import { checkFarPlace, flag, list, number, oneOf, optional, PageError, record, text, type Fields } from '../../gate';
import type { LinePath } from '../../curve';
import { checkVanishingPoint } from '../checkParts';
import { FRAME_WAYS, GUIDE_LIMITS, type FrameGrid, type FrameShape, type SightedEdge } from '../guide';
import { project } from '../path';
import { wayOf } from '../perspective/carry';
import { horizonOf } from '../perspective/frame';
import { framePaths } from '../perspective/grid';
import { pointGrips, pulledFrame } from '../perspective/grips';
import { shiftedFrame } from '../perspective/move';
import type { ShapeRow } from './row';

const NO_PAGE = { width: 0, height: 0 };

/** A perspective frame: lines run in its three directions. */
export const frame: ShapeRow<FrameShape> = {
  bears: 'frame',
  check: checkFrame,
  path(shape, { at, heading, page }) {
    const paths = framePaths(shape, page, at, FRAME_WAYS).map(({ path }) => path);
    if (heading === undefined) return paths[0];
    const away = ({ dx, dy }: LinePath) => Math.abs(dx * Math.sin(heading) - dy * Math.cos(heading));
    return paths.sort((a, b) => away(a) - away(b))[0];
  },
  obeys: (path, shape) => wayOf(shape, path) !== undefined,
  isOn(shape, at, reach) {
    const horizon = horizonOf(shape, NO_PAGE);
    return horizon !== undefined && project({ kind: 'line', ...horizon }, at).distance <= reach / 2;
  },
  anchor: ({ corner }) => corner,
  grips: (shape, { seen }) =>
    pointGrips(shape, seen).map(({ grip, at }) => ({
      grip: { part: 'frame', grip },
      at,
      look: grip.part === 'corner-of-planes' || grip.part === 'horizon' ? 'corner' : 'smooth',
    })),
  place: (shape, { grip, from, to, isExact, isBroken, isLevel, seen }) =>
    grip.part === 'frame'
      ? pulledFrame(shape, grip.grip, { from, to }, { isExact, isSpread: isBroken, isLevel }, seen)
      : undefined,
  move: shiftedFrame,
};

function checkFrame(fields: Fields): FrameShape {
  const points = record(fields.points, 'The points of a frame');
  const grids = record(fields.grids, 'The grids of a frame');
  const ways = (value: unknown, name: string) =>
    list(value, name, FRAME_WAYS.length).map((way) => oneOf(way, name, FRAME_WAYS));
  const { focal } = GUIDE_LIMITS;
  return {
    kind: 'frame',
    points: {
      right: checkVanishingPoint(points.right, 'right'),
      left: checkVanishingPoint(points.left, 'left'),
      height: checkVanishingPoint(points.height, 'height'),
    },
    asleep: ways(fields.asleep, 'asleep'),
    fixed: ways(fields.fixed, 'fixed'),
    ...optional(fields, 'names', checkNames),
    focal: number(fields.focal, 'focal', focal.least, focal.most),
    ...optional(fields, 'centre', checkPoint),
    corner: checkPoint(fields.corner, 'corner'),
    grids: {
      ...optional(grids, 'left', checkFrameGrid),
      ...optional(grids, 'right', checkFrameGrid),
      ...optional(grids, 'floor', checkFrameGrid),
    },
    edges: list(fields.edges, 'edges', GUIDE_LIMITS.edges).map(checkEdge),
  };
}

function checkNames(value: unknown): FrameShape['names'] {
  const fields = record(value, 'The names of a frame');
  return { ...optional(fields, 'right', text), ...optional(fields, 'left', text), ...optional(fields, 'height', text) };
}

const checkPoint = (value: unknown, name: string) => checkFarPlace(record(value, name));

function checkEdge(value: unknown): SightedEdge {
  const fields = record(value, 'An edge');
  const [from, to] = [checkPoint(fields.from, 'from'), checkPoint(fields.to, 'to')];
  if (Math.hypot(to.x - from.x, to.y - from.y) < 1e-6) throw new PageError('An edge goes from one place to another.');
  return { way: oneOf(fields.way, 'way', FRAME_WAYS), from, to };
}

function checkFrameGrid(value: unknown): FrameGrid {
  const fields = record(value, 'A grid');
  const { gridStep, gridReach, hues } = GUIDE_LIMITS;
  const reach = number(fields.reach, 'reach', gridReach.least, gridReach.most);
  if (!Number.isInteger(reach)) throw new PageError(`A grid reaches a whole number of steps; ${reach} came.`);
  return {
    step: number(fields.step, 'step', gridStep.least, gridStep.most),
    reach,
    fade: number(fields.fade, 'fade', 0, 1),
    hue: number(fields.hue, 'hue', 0, hues - 1),
    snaps: flag(fields.snaps, 'snaps'),
  };
}
