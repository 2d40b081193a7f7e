import type { CurvePoint } from '../math';
import { colour, list, number, oneOf, optional, PageError, record, text, within } from '../gate';
import { NIB_LIMITS, type Nib, type NibEdge, type NibProfile, type NibTip } from './types';

/** The nib in `value`. Throws a PageError that names the field, what it needs and what came. */
export function checkNib(value: unknown): Nib {
  const fields = record(value, 'A nib');
  return {
    name: text(fields.name, 'name'),
    size: number(fields.size, 'size', NIB_LIMITS.least, NIB_LIMITS.most),
    thinnest: number(fields.thinnest, 'thinnest', 0, 1),
    taperIn: number(fields.taperIn, 'taperIn', 0, 1_000),
    taperOut: number(fields.taperOut, 'taperOut', 0, 1_000),
    color: colour(fields.color, 'color'),
    ...optional(fields, 'tip', checkTip),
    ...optional(fields, 'press', checkBend),
    ...optional(fields, 'speed', within(-1, 1)),
    ...optional(fields, 'tilt', within(-0.9, 4)),
    ...optional(fields, 'profile', checkProfile),
    ...optional(fields, 'edge', checkEdge),
    ...optional(fields, 'opacity', within(0.05, 1)),
  };
}

function checkTip(value: unknown): NibTip {
  const fields = record(value, 'A tip');
  return {
    shape: oneOf(fields.shape, 'shape', ['flat', 'chisel']),
    angle: number(fields.angle, 'angle', -1e3, 1e3),
    thickness: number(fields.thickness, 'thickness', 0.02, 1),
  };
}

const checkProfile = (value: unknown, name: string): NibProfile =>
  typeof value === 'string' ? oneOf(value, name, ['in', 'out', 'lens']) : checkBend(value, name);

function checkEdge(value: unknown): NibEdge {
  const fields = record(value, 'An edge');
  return {
    kind: oneOf(fields.kind, 'kind', ['dry', 'rough']),
    amount: number(fields.amount, 'amount', 0, 1),
    grain: number(fields.grain, 'grain', 0.5, 500),
  };
}

/** Points of a bent curve: 2 to 12, both coordinates 0..1, x rising. */
function checkBend(value: unknown, name: string): CurvePoint[] {
  const points = list(value, name, 12).map((point): CurvePoint => {
    const pair = list(point, name, 2);
    return [number(pair[0], name, 0, 1), number(pair[1], name, 0, 1)];
  });
  if (points.length < 2 || points.some(([x], k) => k > 0 && x <= points[k - 1][0]))
    throw new PageError(`"${name}" needs at least two points, each to the right of the one before.`);
  return points;
}
