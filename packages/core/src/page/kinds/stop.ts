import { id, oneOf, place, record } from '../../gate';
import type { EntityBase, Kind } from '../../kind';
import type { Point } from '../../math';

/**
 * What the artist has said of an opening between lines: a stop holds colour there and is never inked; one that is meant stays
 * open, and is not said again.
 */
export interface StopEntity extends EntityBase {
  readonly kind: 'stop';
  readonly as: 'stop' | 'meant';
  /** The two places of the ink that it lies between, page px. */
  readonly from: Point;
  readonly to: Point;
}

const MOST_STOPS = 5_000;

/** What a stop is. */
export const stopKind: Kind<StopEntity> = {
  isMany: false,
  most: { count: MOST_STOPS, inWords: `A page holds at most ${MOST_STOPS} stops. Delete some first.` },
  check: (fields) => ({
    kind: 'stop',
    id: id(fields.id, 'id'),
    as: oneOf(fields.as, 'as', ['stop', 'meant']),
    from: place(record(fields.from, 'A place')),
    to: place(record(fields.to, 'A place')),
  }),
  refs: () => ({}),
  remap: (stop, copyId) => ({ ...stop, id: copyId }),
};
