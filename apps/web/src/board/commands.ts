import { say } from '../look/notices';
import { fitted, turnOf } from '../render/view';
import type { OpenBoard } from './boardContext';
import { scaleTool, setStage, takeTool, toggleCalm, togglePage, useDesk } from './desk';

/**
 * Everything that a key or a button can do on the board. The one table: keys, tooltips and the list of keys are read from
 * it. `key` is written as `tinykeys` takes it; `$mod` is Ctrl, or Cmd on a Mac.
 */
export interface Command {
  readonly id: string;
  readonly label: string;
  readonly key: string;
  /** Further keys that do the same: signs that need Shift on some keyboards. */
  readonly also?: readonly string[];
  readonly run: (board: OpenBoard) => void;
}

const TURN_STEP = Math.PI / 12;
const PAN_STEP = 80;

const undo = ({ session, hand }: OpenBoard) => void (hand.isBusy || session.undo());
const redo = ({ session, hand }: OpenBoard) => void (hand.isBusy || session.redo());

export const COMMANDS = [
  { id: 'undo', label: 'Undo', key: '$mod+z', run: undo },
  { id: 'redo', label: 'Redo', key: '$mod+Shift+z', also: ['$mod+y'], run: redo },
  { id: 'stage-rough', label: 'Rough', key: '1', run: () => setStage('rough') },
  { id: 'stage-ink', label: 'Ink', key: '2', run: () => setStage('ink') },
  { id: 'stage-finish', label: 'Finish', key: '3', run: () => setStage('finish') },
  { id: 'nib', label: 'Nib', key: 'q', run: () => takeTool('nib') },
  { id: 'rub', label: 'Rub', key: 'w', run: () => takeTool('rub') },
  { id: 'lift', label: 'Lift', key: 'e', run: () => takeTool('lift') },
  { id: 'thinner', label: 'Smaller', key: 'a', run: () => scaleTool(1 / 1.12) },
  { id: 'thicker', label: 'Larger', key: 's', run: () => scaleTool(1.12) },
  { id: 'calm', label: 'Calm on or off', key: 'd', run: () => toggleCalm() },
  {
    id: 'fit',
    label: 'Fit the page',
    key: 'f',
    run: ({ picture, hand }) => hand.show(fitted(picture.shownPage.size, picture.free)),
  },
  { id: 'only-page', label: 'Only the page, or all again', key: 'b', run: () => togglePage() },
  { id: 'turn-left', label: 'Turn left', key: 'z', run: ({ hand }) => hand.turnBy(-TURN_STEP) },
  { id: 'turn-right', label: 'Turn right', key: 'c', run: ({ hand }) => hand.turnBy(TURN_STEP) },
  { id: 'upright', label: 'Upright', key: 'x', run: ({ hand, picture }) => hand.turnBy(-turnOf(picture.view)) },
  { id: 'zoom-in', label: 'Zoom in', key: '+', also: ['Shift++', '='], run: ({ hand }) => hand.zoomBy(1.25) },
  { id: 'zoom-out', label: 'Zoom out', key: '-', run: ({ hand }) => hand.zoomBy(1 / 1.25) },
  { id: 'pan-left', label: 'Page to the right', key: 'ArrowLeft', run: ({ hand }) => hand.panBy(PAN_STEP, 0) },
  { id: 'pan-right', label: 'Page to the left', key: 'ArrowRight', run: ({ hand }) => hand.panBy(-PAN_STEP, 0) },
  { id: 'pan-up', label: 'Page down', key: 'ArrowUp', run: ({ hand }) => hand.panBy(0, PAN_STEP) },
  { id: 'pan-down', label: 'Page up', key: 'ArrowDown', run: ({ hand }) => hand.panBy(0, -PAN_STEP) },
  {
    id: 'drop',
    label: 'Let go of what is being drawn',
    key: 'Escape',
    run: ({ hand }) => {
      if (hand.cancel()) say('Let go: nothing was drawn.');
    },
  },
] as const satisfies readonly Command[];

export type CommandId = (typeof COMMANDS)[number]['id'];

/** What is so only while its key is down. */
export interface HoldKey {
  readonly id: 'peek' | 'move';
  readonly label: string;
  readonly key: string;
  readonly hold: (board: OpenBoard, isHeld: boolean) => void;
}

export const HOLD_KEYS: readonly HoldKey[] = [
  { id: 'peek', label: 'Peek: hide the rough', key: 'r', hold: (_board, peeking) => useDesk.setState({ peeking }) },
  { id: 'move', label: 'Move the page', key: 'v', hold: ({ hand }, isHeld) => hand.setMoveKey(isHeld) },
];

const isMac = typeof navigator !== 'undefined' && navigator.platform?.startsWith('Mac') === true;
const WORDS: Readonly<Record<string, string>> = {
  $mod: isMac ? 'Cmd' : 'Ctrl',
  ArrowLeft: 'Left',
  ArrowRight: 'Right',
  ArrowUp: 'Up',
  ArrowDown: 'Down',
  Escape: 'Esc',
};

/** A key as a person reads it: "Ctrl Z". */
export const keyInWords = (key: string): string =>
  key === '+'
    ? '+'
    : key
        .split('+')
        .map((part) => WORDS[part] ?? (part.length === 1 ? part.toUpperCase() : part))
        .join(' ');

/** The name of a command with its key, for tooltips. */
export function withKey(id: CommandId | HoldKey['id']): string {
  const command = [...COMMANDS, ...HOLD_KEYS].find((one) => one.id === id);
  return command ? `${command.label} (${'hold' in command ? 'hold ' : ''}${keyInWords(command.key)})` : '';
}

export function runCommand(id: CommandId, board: OpenBoard): void {
  const command: Command | undefined = COMMANDS.find((one) => one.id === id);
  command?.run(board);
}
