import Black from 'lucide-react-native/icons/contrast';
import Rows from 'lucide-react-native/icons/hash';
import type { Stage, Wing } from '../../board';
import { TurningRows } from '../../hand';
import { outlineSlot } from './fillTools';
import { joinSlot } from './joinHand';
import { leakSlot } from './leakHand';
import { pieceSlot } from './pieceHand';
import { pourSlot } from './pourHand';
import { blackTools } from './tools';

/** Blacks are spotted, lights cut out of them, flats dropped in beneath; and, by a wing, the greys laid that lie between. */
export const blacksStage = (texture: Wing) =>
  ({
    id: 'blacks',
    label: 'Blacks',
    tools: [...blackTools, ...texture.tools],
    holds: ['pick-colour', 'peek', 'borrow'],
    keeps: [outlineSlot, joinSlot, pieceSlot, pourSlot, leakSlot, ...(texture.keeps ?? [])],
    Chips: () => (
      <TurningRows
        rows={[
          { label: 'Blacks', icon: Black, tools: blackTools },
          { label: 'Texture', icon: Rows, tools: texture.tools },
        ]}
      />
    ),
  }) satisfies Stage;
