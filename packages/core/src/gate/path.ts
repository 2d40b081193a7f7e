import type { GuidePath } from '../curve';
import type { Point } from '../math';
import { PageError } from './errors';
import { checkSpine, number, oneOf, optional, record, type Fields } from './fields';

/** Points of guides may lie farther off than anything that is drawn, page px. */
export const FAR = 1e11;

/** A place that may lie far off the page. */
export const checkFarPlace = (fields: Fields): Point => ({
  x: number(fields.x, 'x', -FAR, FAR),
  y: number(fields.y, 'y', -FAR, FAR),
});

/** A turn in radians. */
export const checkAngle = (fields: Fields): number => number(fields.angle, 'angle', -1e3, 1e3);

/** The path in `value`. Throws a PageError that names the field, what it needs and what came. */
export function checkPath(value: unknown): GuidePath {
  const fields = record(value, 'A path');
  switch (oneOf(fields.kind, 'kind', ['line', 'ellipse', 'curve'])) {
    case 'line': {
      const dx = number(fields.dx, 'dx', -1, 1);
      const dy = number(fields.dy, 'dy', -1, 1);
      if (Math.abs(Math.hypot(dx, dy) - 1) > 1e-6) throw new PageError('A path goes along a unit vector.');
      const end = (limit: unknown, name: string) => number(limit, name, -FAR, FAR);
      return {
        kind: 'line',
        ...checkFarPlace(fields),
        dx,
        dy,
        ...optional(fields, 'from', end),
        ...optional(fields, 'to', end),
      };
    }
    case 'ellipse':
      return {
        kind: 'ellipse',
        ...checkFarPlace(fields),
        rx: number(fields.rx, 'rx', 1e-6, FAR),
        ry: number(fields.ry, 'ry', 1e-6, FAR),
        angle: checkAngle(fields),
      };
    case 'curve':
      return { kind: 'curve', course: checkSpine(fields.course) };
  }
}
