import Balloon from 'lucide-react-native/icons/message-circle';
import Letters from 'lucide-react-native/icons/type';
import type { Tool, Wing } from '../../board';
import { letterSlot } from './letterHand';
import { BalloonSettings, LetterLine, TextSettings } from './LetterSettings';
import { setLetters } from './letterStore';

const speech: Tool = {
  id: 'balloon',
  label: 'Balloon',
  icon: Balloon,
  hint: 'Touch the page where a balloon goes; drag its tail to the mouth',
  command: { room: 'Draw', label: 'Letter balloons' },
  borrows: 'letters',
  begin: (board, press) => board.of(letterSlot).begin(press, 'balloon'),
  Line: LetterLine,
  Settings: BalloonSettings,
};

const letters: Tool = {
  id: 'letters',
  label: 'Text',
  icon: Letters,
  hint: 'Touch the page where a text goes: a sound, a title',
  command: { room: 'Draw', label: 'Letter on the page' },
  borrows: 'balloon',
  begin: (board, press) => board.of(letterSlot).begin(press, 'text'),
  Line: LetterLine,
  Settings: TextSettings,
};

/** The page is lettered. */
export const LETTERING: Wing = {
  tools: [speech, letters],
  keeps: [letterSlot],
  forget: () => setLetters({ chosen: [], isNew: false, trouble: undefined }),
};
