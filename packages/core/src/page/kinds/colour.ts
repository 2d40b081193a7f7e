import { colour, id, text } from '../../gate';
import type { EntityBase, Kind } from '../../kind';

/** A colour of the page that has a name. Things have colours of their own: this one says what theirs is called. */
export interface ColourEntity extends EntityBase {
  readonly kind: 'colour';
  readonly color: string;
  readonly name: string;
}

const MOST_COLOURS = 500;

/** What a named colour is. */
export const colourKind: Kind<ColourEntity> = {
  isMany: false,
  most: { count: MOST_COLOURS, inWords: `A page names at most ${MOST_COLOURS} colours.` },
  check: (fields) => ({
    kind: 'colour',
    id: id(fields.id, 'id'),
    color: colour(fields.color, 'color'),
    name: text(fields.name, 'name'),
  }),
  refs: () => ({}),
  remap: (named, copyId) => ({ ...named, id: copyId }),
};
