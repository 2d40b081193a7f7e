import {
  checkAngle,
  checkFarPlace,
  checkProjective,
  checkSpine,
  FAR,
  flag,
  id,
  list,
  number,
  oneOf,
  optional,
  PageError,
  record,
  text,
  type Fields,
} from '../gate';
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
        ...checkFarPlace(fields),
        angle: checkAngle(fields),
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
        ...{ frame: id(fields.frame, 'frame'), plane: planeOf(fields), map: checkProjective(fields.map) },
        rings: list(fields.rings, 'rings', rings).map(checkSpine),
        place: checkTemplatePlace(fields.place),
      };
    case 'frame':
      return checkFrame(fields);
    case 'fold':
      return {
        kind: 'fold',
        ...checkFarPlace(fields),
        ...{ frame: id(fields.frame, 'frame'), plane: planeOf(fields) },
        across: checkVanishingPoint(fields.across, 'across'),
        along: checkVanishingPoint(fields.along, 'along'),
      };
    case 'rails':
      return {
        kind: 'rails',
        ...checkFarPlace(fields),
        angle: checkAngle(fields),
        ...optional(fields, 'grid', checkGrid),
      };
    case 'ripples':
      return {
        kind: 'ripples',
        ...checkFarPlace(fields),
        ratio: number(fields.ratio, 'ratio', ratio.least, ratio.most),
        angle: checkAngle(fields),
        ...optional(fields, 'grid', checkGrid),
      };
    case 'rays':
      return { kind: 'rays', ...checkFarPlace(fields), ...optional(fields, 'grid', checkGrid) };
    case 'echo':
      return { kind: 'echo', course: checkSpine(fields.course) };
    case 'mirror':
      return {
        kind: 'mirror',
        ...checkFarPlace(fields),
        angle: checkAngle(fields),
        joins: flag(fields.joins, 'joins'),
      };
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
        ...checkFarPlace(fields),
        angle: checkAngle(fields),
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

function checkTemplatePlace(value: unknown): TemplatePlace {
  const fields = record(value, 'A place');
  const scale = (name: string) => {
    const found = number(fields[name], name, -GUIDE_LIMITS.scale, GUIDE_LIMITS.scale);
    if (Math.abs(found) < 1e-4) throw new PageError(`"${name}" flattens the template; ${found} came.`);
    return found;
  };
  return { ...checkFarPlace(fields), scaleX: scale('scaleX'), scaleY: scale('scaleY'), angle: checkAngle(fields) };
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
