import type { StrokeCopy, StrokeGuide } from './entity';
import { PageError } from './errors';
import {
  checkMatrix,
  checkSpine,
  ENTITY_LIMITS,
  flag,
  id,
  list,
  number,
  oneOf,
  optional,
  record,
  text,
  type Fields,
} from './fields';
import {
  GUIDE_LIMITS,
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

/** Points of guides may lie far off the page. */
const FAR = 100 * ENTITY_LIMITS.coordinate;

const placeOf = (fields: Fields) => ({ x: number(fields.x, 'x', -FAR, FAR), y: number(fields.y, 'y', -FAR, FAR) });
const angleOf = (fields: Fields) => number(fields.angle, 'angle', -1e3, 1e3);

function checkShape(value: unknown): GuideShape {
  const fields = record(value, 'The shape of a guide');
  const { length, width, ratio, sectors, rings } = GUIDE_LIMITS;
  switch (
    oneOf(fields.kind, 'kind', [
      ...(['straightedge', 'batten', 'template', 'rails', 'ripples', 'rays', 'echo', 'mirror', 'wheel'] as const),
    ])
  ) {
    case 'straightedge':
      return {
        kind: 'straightedge',
        ...placeOf(fields),
        angle: angleOf(fields),
        length: number(fields.length, 'length', length.least, length.most),
        width: number(fields.width, 'width', width.least, width.most),
      };
    case 'batten':
      return { kind: 'batten', course: checkSpine(fields.course) };
    case 'template':
      return {
        kind: 'template',
        rings: list(fields.rings, 'rings', rings).map(checkSpine),
        place: checkTemplatePlace(fields.place),
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

function checkTemplatePlace(value: unknown): TemplatePlace {
  const fields = record(value, 'A place');
  const scale = (name: string) => {
    const found = number(fields[name], name, -1e4, 1e4);
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
