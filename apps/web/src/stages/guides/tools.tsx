import Move from 'lucide-react-native/icons/move';
import Rows from 'lucide-react-native/icons/rows-4';
import type { Tool } from '../../board';
import { layNext } from '../../guiding';
import { guideCommands } from './guideCommands';
import { GuideInWords, GuideSettings } from './GuideSettings';
import { guideSlot } from './guideTool';
import { beginRake } from './raking';
import { RakeInWords, RakeSettings } from './RakeSettings';

const guide: Tool = {
  id: 'guide',
  label: 'Move',
  icon: Move,
  hint: 'Lay guides down, or drag their grips',
  command: { room: 'Guides', label: 'Move guides', run: () => layNext(undefined) },
  borrows: 'nib',
  begin: (board, press) => board.of(guideSlot).begin(press.at, press.modifiers),
  Line: GuideInWords,
  Settings: ({ width, isWide }) => (
    <>
      {isWide && <GuideInWords />}
      <GuideSettings width={width} perRow={isWide ? 2 : 3} />
    </>
  ),
  commands: guideCommands,
};

const rake: Tool = {
  id: 'rake',
  label: 'Rake',
  icon: Rows,
  hint: 'Draw a loop to rake',
  command: { room: 'Guides' },
  borrows: 'guide',
  begin: beginRake,
  Line: RakeInWords,
  Settings: ({ isWide }) => (
    <>
      {isWide && <RakeInWords />}
      <RakeSettings />
    </>
  ),
};

export const guideTools: readonly Tool[] = [guide, rake];
