import Check from 'lucide-react-native/icons/clipboard-check';
import type { Tool, Wing } from '../../board';
import { pressSlot } from './pressHand';
import { PressLine, PressSettings } from './PressSettings';
import { NOTHING_FOUND, usePress } from './pressStore';

const press: Tool = {
  id: 'press',
  label: 'Check',
  icon: Check,
  hint: 'Touch what is ringed, then mend it, or leave it as it is',
  command: { room: 'Desk', label: 'Check the page before print' },
  borrows: 'nib',
  begin: (board, at) => board.of(pressSlot).begin(at),
  Line: PressLine,
  Settings: PressSettings,
};

/** The page is checked before it is printed. */
export const PRESS: Wing = { tools: [press], keeps: [pressSlot], forget: () => usePress.setState(NOTHING_FOUND) };
