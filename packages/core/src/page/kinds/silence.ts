import { id } from '../../gate';
import type { EntityBase, Kind } from '../../kind';

/** A finding of the press check that the artist knows of and wants to hear no more of. */
export interface SilenceEntity extends EntityBase {
  readonly kind: 'silence';
  /** The finding's id. */
  readonly about: string;
}

const MOST_SILENCES = 5_000;

/** What a silence is. */
export const silenceKind: Kind<SilenceEntity> = {
  isMany: false,
  most: { count: MOST_SILENCES, inWords: `A page holds at most ${MOST_SILENCES} silences. Let some go first.` },
  check: (fields) => ({ kind: 'silence', id: id(fields.id, 'id'), about: id(fields.about, 'about') }),
  refs: () => ({}),
  remap: (silence, copyId) => ({ ...silence, id: copyId }),
};
