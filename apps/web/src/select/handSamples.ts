import { find, type Page } from '@true-nib/core/page';
import { unpackSamples, type PenSample } from '@true-nib/core/hand';
import type { EntityId } from '@true-nib/core/kind';
import type { StrokeEntity } from '@true-nib/core/stroke';

/** The raw samples of lines, each unpacked once. */
export class HandSamples {
  private readonly known = new Map<EntityId, readonly PenSample[]>();

  constructor(private readonly page: () => Page) {}

  /** The samples that a line comes from; nothing where it has none. */
  of({ origin }: StrokeEntity): readonly PenSample[] | undefined {
    if (!origin) return undefined;
    const known = this.known.get(origin.samples);
    if (known) return known;
    const kept = find(this.page(), 'samples', origin.samples);
    const samples = kept && unpackSamples(kept.packed);
    if (samples) this.known.set(origin.samples, samples);
    return samples;
  }
}
