import { ENTITY_LIMITS, id, PageError } from '../gate';
import { checkPacked } from '../hand';
import type { EntityBase, Kind } from '../kind';

/** Raw samples of the hand, packed (see `packSamples`). Stored once; strokes refer to them. */
export interface SamplesEntity extends EntityBase {
  readonly kind: 'samples';
  readonly packed: Uint8Array;
}

/** What raw samples are: every line that was drawn by hand has some. */
export const samplesKind: Kind<SamplesEntity> = {
  isMany: true,
  check({ id: own, packed }) {
    if (!(packed instanceof Uint8Array) || packed.length > ENTITY_LIMITS.samplesBytes)
      throw new PageError('Samples come as packed bytes of at most 4 MB.');
    checkPacked(packed);
    return { kind: 'samples', id: id(own, 'id'), packed: new Uint8Array(packed) };
  },
  refs: () => ({}),
  remap: (samples, copyId) => ({ ...samples, id: copyId }),
};
