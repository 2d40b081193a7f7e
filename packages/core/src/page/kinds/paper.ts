import { colour, id } from '../../gate';
import type { EntityBase, Kind } from '../../kind';

/** What the page lies on: a colour `#rrggbb`, or nothing. There is at most one, and white paper where there is none. */
export interface PaperEntity extends EntityBase {
  readonly kind: 'paper';
  readonly color: string | null;
}

/** What paper is. */
export const paperKind: Kind<PaperEntity> = {
  isMany: false,
  check: (fields) => ({
    kind: 'paper',
    id: id(fields.id, 'id'),
    color: fields.color === null ? null : colour(fields.color, 'color'),
  }),
  refs: () => ({}),
  remap: (paper, copyId) => ({ ...paper, id: copyId }),
};
