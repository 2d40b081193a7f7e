import { oneOf, record } from '../../gate';
import type { GuideKind, GuideShape } from '../guide';
import { fold, mirror, wheel } from './axes';
import { batten, echo } from './curves';
import { rails, rays, ripples } from './fields';
import { frame } from './frame';
import type { ShapeRow } from './row';
import { straightedge } from './straightedge';
import { plane, template } from './templates';

/** What there is to lay down: one row for each kind of guide. */
const SHAPES = {
  ...{ straightedge, batten, template, plane },
  ...{ rails, ripples, rays, echo },
  ...{ mirror, wheel, frame, fold },
} satisfies { readonly [K in GuideKind]: ShapeRow<Extract<GuideShape, { readonly kind: K }>> };

const rows: Readonly<Record<GuideKind, ShapeRow<GuideShape>>> = SHAPES;

const KINDS_OF_GUIDE = Object.keys(SHAPES) as GuideKind[];

/** The row of a shape's kind. */
export const shapeRow = ({ kind }: GuideShape): ShapeRow<GuideShape> => rows[kind];

/** The shape in `value`. Throws a PageError that names the field, what it needs and what came. */
export function checkShape(value: unknown): GuideShape {
  const fields = record(value, 'The shape of a guide');
  return rows[oneOf(fields.kind, 'kind', KINDS_OF_GUIDE)].check(fields);
}
