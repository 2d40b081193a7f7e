import { keptStore } from '../base';
import { PLAIN_CHOICE, type DeliverChoice, type Preset } from './choice';

/** How the next file is made, and the artist's own presets. */
interface DeliverStore {
  readonly choice: DeliverChoice;
  readonly presets: readonly Preset[];
}

export const useDeliverChoice = keptStore<DeliverStore>({
  ...{ name: 'true-nib-deliver', version: 1, kept: ['choice', 'presets'] },
  fresh: { choice: PLAIN_CHOICE, presets: [] },
});
