import type { Stage } from '../../board';
import { pickSlot, usePick } from '../../nibs';
import { selectionKeepSlot } from '../../select';
import { pathSlot } from './pathTool';
import { straightOnSlot } from './straightOn';
import { inkTools } from './tools';

/** Lines are drawn. */
export const INK = {
  id: 'ink',
  label: 'Ink',
  key: 'Digit2',
  tools: inkTools,
  holds: ['free', 'straight-on', 'peek'],
  keeps: [selectionKeepSlot, straightOnSlot, pathSlot, pickSlot],
  holdCommands: [
    {
      id: 'straight-on',
      label: 'Straight on from the last line',
      room: 'Draw',
      key: 'Digit5',
      hold: ({ of }, isHeld) => of(straightOnSlot).setHeld(isHeld),
    },
    {
      id: 'pick-colour',
      label: 'Pick a colour up from the page',
      room: 'Draw',
      key: 'Shift+KeyR',
      hold: (_board, isHeld) => usePick.setState({ isHeld }),
    },
  ],
} as const satisfies Stage;
