import { Fold, setFold } from '../look';
import { CalmSettings } from './CalmSettings';
import { NibRack } from './NibRack';
import { NibSettings } from './NibSettings';

/** How the hand of the tool is calmed: folded away until it is asked for. */
export const CalmFold = ({ width, of }: { readonly width: number; readonly of: 'nib' | 'rub' }) => (
  <Fold title="Ways of calm">
    <CalmSettings width={width} of={of} />
  </Fold>
);

interface NibFoldsProps {
  readonly width: number;
  /** How many nibs of the rack lie beside one another. */
  readonly perRow: number;
}

const THIS_NIB = 'This nib';

/** All about nibs: the rack, and what makes the one in hand, folded away until a new one is made. */
export const NibFolds = ({ width, perRow }: NibFoldsProps) => (
  <>
    <Fold title="Nib rack" isOpenAtFirst>
      <NibRack width={width} perRow={perRow} onMade={() => setFold(THIS_NIB, true)} />
    </Fold>
    <Fold title={THIS_NIB}>
      <NibSettings width={width} />
    </Fold>
  </>
);
