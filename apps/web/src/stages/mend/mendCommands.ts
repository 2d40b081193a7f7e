import { takeTool, type MendingTool } from '../../board/desk';
import type { Command } from '../../chrome/commands';
import { mergeClean } from '../../stack/mergeClean';

const mending = <Id extends MendingTool>(id: Id, label: string) =>
  ({ id, label, room: 'Mend', run: () => takeTool(id) }) as const;

/** Commands about mending. None has a key from the start: one hand's keys are taken; any can be given one. */
export const mendCommands = [
  mending('snip', 'Snip'),
  mending('tidy', 'Tidy ends'),
  mending('tug', 'Tug'),
  mending('retrace', 'Retrace'),
  mending('bridge', 'Bridge'),
  mending('reweigh', 'Re-weigh'),
  mending('swell', 'Swell or pare'),
  mending('pool', 'Pool'),
  mending('ease', 'Ease'),
  mending('knife', 'Pare knife'),
  {
    id: 'merge-clean',
    label: 'Merge clean with the layer below',
    room: 'Mend',
    run: (board) => void mergeClean(board),
  },
] as const satisfies readonly Command[];
