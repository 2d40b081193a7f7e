import type { StrokeCopy, StrokeGuide } from './entity';
import { PageError } from './errors';
import { checkMatrix, checkSpine, flag, id, list, number, oneOf, optional, record, text, type Fields } from './fields';
import type { Matrix3x3 } from '../math';
import {
  FRAME_PLANES,
  FRAME_WAYS,
  GUIDE_LIMITS,
  type Aim,
  type FrameGrid,
  type FrameShape,
  type SightedEdge,
  type VanishingPoint,
  type GuideEntity,
  type GuideGrid,
  type GuidePath,
  type GuideShape,
  type TemplatePlace,
} from './guide';

/** The guide in `fields`. Throws a PageError that names the field, what it needs and what came. */
export const checkGuide = (fields: Fields): GuideEntity => ({
  kind: 'guide',
  id: id(fields.id, 'id'),
  order: id(fields.order, 'order'),
  name: text(fields.name, 'name'),
  seen: flag(fields.seen, 'seen'),
  acting: flag(fields.acting, 'acting'),
  locked: flag(fields.locked, 'locked'),
  tethers: flag(fields.tethers, 'tethers'),
  reach:
    fields.reach === 'all'
      ? 'all'
      : list(fields.reach, 'reach', GUIDE_LIMITS.layers).map((layer) => id(layer, 'reach')),
  hue: number(fields.hue, 'hue', 0, GUIDE_LIMITS.hues - 1),
  shape: checkShape(fields.shape),
});

/** Points of guides may lie farther off than anything that is drawn. */
const FAR = 1e11;

const placeOf = (fields: Fields) => ({ x: number(fields.x, 'x', -FAR, FAR), y: number(fields.y, 'y', -FAR, FAR) });
const angleOf = (fields: Fields) => number(fields.angle, 'angle', -1e3, 1e3);

function checkShape(value: unknown): GuideShape {
  const fields = record(value, 'The shape of a guide');
  const { length, width, ratio, sectors, rings } = GUIDE_LIMITS;
  switch (
    oneOf(fields.kind, 'kind', [
      ...([
        'straightedge',
        'batten',
        'template',
        'plane',
        'rails',
        'ripples',
        'rays',
        'echo',
        'mirror',
        'wheel',
      ] as const),
      ...(['frame', 'fold'] as const),
    ])
  ) {
    case 'straightedge':
      return {
        kind: 'straightedge',
        ...placeOf(fields),
        angle: angleOf(fields),
        length: number(fields.length, 'length', length.least, length.most),
        width: number(fields.width, 'width', width.least, width.most),
        ...optional(fields, 'aim', checkAim),
      };
    case 'batten':
      return { kind: 'batten', course: checkSpine(fields.course) };
    case 'template':
      return {
        kind: 'template',
        rings: list(fields.rings, 'rings', rings).map(checkSpine),
        place: checkTemplatePlace(fields.place),
      };
    case 'plane':
      return {
        kind: 'plane',
        ...{ frame: id(fields.frame, 'frame'), plane: planeOf(fields), map: checkMap(fields.map) },
        rings: list(fields.rings, 'rings', rings).map(checkSpine),
        place: checkTemplatePlace(fields.place),
      };
    case 'frame':
      return checkFrame(fields);
    case 'fold':
      return {
        kind: 'fold',
        ...placeOf(fields),
        ...{ frame: id(fields.frame, 'frame'), plane: planeOf(fields) },
        across: checkVanishingPoint(fields.across, 'across'),
        along: checkVanishingPoint(fields.along, 'along'),
      };
    case 'rails':
      return { kind: 'rails', ...placeOf(fields), angle: angleOf(fields), ...optional(fields, 'grid', checkGrid) };
    case 'ripples':
      return {
        kind: 'ripples',
        ...placeOf(fields),
        ratio: number(fields.ratio, 'ratio', ratio.least, ratio.most),
        angle: angleOf(fields),
        ...optional(fields, 'grid', checkGrid),
      };
    case 'rays':
      return { kind: 'rays', ...placeOf(fields), ...optional(fields, 'grid', checkGrid) };
    case 'echo':
      return { kind: 'echo', course: checkSpine(fields.course) };
    case 'mirror':
      return { kind: 'mirror', ...placeOf(fields), angle: angleOf(fields), joins: flag(fields.joins, 'joins') };
    case 'wheel': {
      const count = number(fields.sectors, 'sectors', sectors.least, sectors.most);
      const reflects = flag(fields.reflects, 'reflects');
      if (!Number.isInteger(count)) throw new PageError(`A wheel has a whole number of sectors; ${count} came.`);
      if (reflects && count % 2 === 1)
        throw new PageError(
          `A reflecting wheel draws each stroke with its mirror image: its number is even; ${count} came.`,
        );
      return {
        kind: 'wheel',
        ...placeOf(fields),
        angle: angleOf(fields),
        sectors: count,
        reflects,
        joins: flag(fields.joins, 'joins'),
      };
    }
  }
}

const planeOf = (fields: Fields) => oneOf(fields.plane, 'plane', FRAME_PLANES);

function checkVanishingPoint(value: unknown, name: string): VanishingPoint {
  const [x, y, w] = list(value, name, 3);
  const at = (coordinate: unknown) => number(coordinate, name, -FAR, FAR);
  if (w !== 0 && w !== 1) throw new PageError(`"${name}" is x, y and 1, or a direction and 0.`);
  const point: VanishingPoint = [at(x), at(y), w];
  if (w === 0 && Math.abs(Math.hypot(point[0], point[1]) - 1) > 1e-6)
    throw new PageError(`"${name}" lies infinitely far along a unit vector.`);
  return point;
}

function checkAim(value: unknown): Aim {
  const fields = record(value, 'An aim');
  return {
    point: checkVanishingPoint(fields.point, 'point'),
    ...optional(fields, 'frame', id),
    ...optional(fields, 'way', (way) => oneOf(way, 'way', FRAME_WAYS)),
  };
}

function checkMap(value: unknown): Matrix3x3 {
  const fields = list(value, 'map', 9);
  const at = (k: number) => number(fields[k], 'map', -1e12, 1e12);
  return [at(0), at(1), at(2), at(3), at(4), at(5), at(6), at(7), at(8)];
}

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

const checkPoint = (value: unknown, name: string) => placeOf(record(value, name));

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

function checkTemplatePlace(value: unknown): TemplatePlace {
  const fields = record(value, 'A place');
  const scale = (name: string) => {
    const found = number(fields[name], name, -GUIDE_LIMITS.scale, GUIDE_LIMITS.scale);
    if (Math.abs(found) < 1e-4) throw new PageError(`"${name}" flattens the template; ${found} came.`);
    return found;
  };
  return { ...placeOf(fields), scaleX: scale('scaleX'), scaleY: scale('scaleY'), angle: angleOf(fields) };
}

function checkGrid(value: unknown): GuideGrid {
  const fields = record(value, 'A grid');
  return {
    step: number(fields.step, 'step', 1e-4, 1e5),
    offset: number(fields.offset, 'offset', -1e6, 1e6),
    count: number(fields.count, 'count', 0, GUIDE_LIMITS.count),
    snaps: flag(fields.snaps, 'snaps'),
  };
}

export function checkStrokeGuide(value: unknown): StrokeGuide {
  const fields = record(value, "A stroke's guide");
  return { id: id(fields.id, 'id'), path: checkPath(fields.path) };
}

function checkPath(value: unknown): GuidePath {
  const fields = record(value, 'A path');
  switch (oneOf(fields.kind, 'kind', ['line', 'ellipse', 'curve'])) {
    case 'line': {
      const dx = number(fields.dx, 'dx', -1, 1);
      const dy = number(fields.dy, 'dy', -1, 1);
      if (Math.abs(Math.hypot(dx, dy) - 1) > 1e-6) throw new PageError('A path goes along a unit vector.');
      const end = (limit: unknown, name: string) => number(limit, name, -FAR, FAR);
      return {
        kind: 'line',
        ...placeOf(fields),
        dx,
        dy,
        ...optional(fields, 'from', end),
        ...optional(fields, 'to', end),
      };
    }
    case 'ellipse':
      return {
        kind: 'ellipse',
        ...placeOf(fields),
        rx: number(fields.rx, 'rx', 1e-6, FAR),
        ry: number(fields.ry, 'ry', 1e-6, FAR),
        angle: angleOf(fields),
      };
    case 'curve':
      return { kind: 'curve', course: checkSpine(fields.course) };
  }
}

export function checkCopy(value: unknown): StrokeCopy {
  const fields = record(value, 'A copy');
  return { set: id(fields.set, 'set'), matrix: checkMatrix(fields.matrix) };
}
