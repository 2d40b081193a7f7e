import type { Stage } from '../../board';
import { mergeClean } from '../../stack';
import { mendSlot } from './mendTool';
import { pointSlot } from './pointTool';
import { mendTools } from './tools';

/** Lines are mended rather than drawn again. */
export const MEND = {
  id: 'mend',
  label: 'Mend',
  key: 'Shift+Digit4',
  tools: mendTools,
  holds: ['peek', 'move', 'borrow'],
  keeps: [mendSlot, pointSlot],
  commands: [
    {
      id: 'merge-clean',
      label: 'Merge clean with the layer below',
      room: 'Mend',
      run: (board) => void mergeClean(board),
    },
  ],
} as const satisfies Stage;
