import { PLAIN_STYLE } from '@true-nib/core/nib';
import { say } from '../look/notices';
import { fitted, fittedToWidth, fitZoom, turnOf } from '../render/view';
import type { OpenBoard } from '../board/boardContext';
import {
  borrowTool,
  giveBack,
  scaleTool,
  setStage,
  takeTool,
  togglePage,
  useDesk,
  type DeskSheet,
} from '../board/desk';
import { setGuides, toggleGuided } from '../guiding/guideStore';
import { guideCommands } from '../stages/guides/guideCommands';
import { mendCommands } from '../stages/mend/mendCommands';
import { layerInHand } from '../hand/inkHand';
import { toggleCalm } from '../nibs/rackStore';
import { nudgeOr, selectionCommands } from '../select/selectionCommands';
import {
  addLayer,
  deleteChosen,
  duplicateChosen,
  groupChosen,
  mergeDown,
  tellLayers,
  toggleSolo,
  walkStack,
} from '../stack/layerCommands';

/** The parts of the desk that commands belong to, as the lists of them are ordered. */
export const ROOMS = ['Draw', 'Guides', 'Mend', 'Select', 'Layers', 'See', 'Desk'] as const;
export type Room = (typeof ROOMS)[number];

/**
 * Everything that a key or a button can do on the board. The one table: keys, tooltips, lists and the search are read from
 * it. `key` is written as `tinykeys` takes it: a `code` (the place on the keyboard) for plain keys, a character with `$mod`
 * (Ctrl, or Cmd on a Mac), as browsers have it. Left out where a command has no key of its own.
 */
export interface Command {
  readonly id: string;
  readonly label: string;
  readonly room: Room;
  readonly key?: string;
  /** Further keys that do the same and cannot be changed. */
  readonly also?: readonly string[];
  readonly run: (board: OpenBoard) => void;
}

const TURN_STEP = Math.PI / 12;
const PAN_STEP = 80;

/**
 * While a path is built, its last node is what was done last; while a frame is sighted, its last edge; while a guide's lines are
 * being carried, its move.
 */
const undo = ({ session, hand, path, depth, guides }: OpenBoard) =>
  void (hand.isBusy || path.takeBack() || depth.takeBackEdge() || guides.takeBackMove() || session.undo());
const redo = ({ session, hand }: OpenBoard) => void (hand.isBusy || session.redo());
const open = (sheet: DeskSheet) => () => useDesk.setState({ sheet });

/** An arrow key: 1 px of the selection, 10 px with Shift, or a step of the page. */
function step(board: OpenBoard, x: number, y: number): void {
  const px = board.hand.isShifted ? 10 : 1;
  if (board.guides.nudge(x * px, y * px)) return;
  nudgeOr(board, x * px, y * px, () => board.hand.panBy(-x * PAN_STEP, -y * PAN_STEP));
}

const inHand = ({ session }: OpenBoard) => layerInHand(session.page, useDesk.getState().layerId)?.layer;

function tellHand(board: OpenBoard, name: 'hidden' | 'locked', words: readonly [on: string, off: string]): void {
  const layer = inHand(board);
  if (layer) tellLayers(board, [layer.id], `${words[layer[name] ? 1 : 0]} ${layer.name}`, { [name]: !layer[name] });
}

export const COMMANDS = [
  { id: 'undo', label: 'Undo', room: 'Draw', key: '$mod+z', run: undo },
  { id: 'redo', label: 'Redo', room: 'Draw', key: '$mod+Shift+z', also: ['$mod+y'], run: redo },
  { id: 'stage-rough', label: 'Rough', room: 'Desk', key: 'Digit1', run: () => setStage('rough') },
  { id: 'stage-guides', label: 'Guides', room: 'Desk', run: () => setStage('guides') },
  { id: 'stage-ink', label: 'Ink', room: 'Desk', key: 'Digit2', run: () => setStage('ink') },
  { id: 'stage-mend', label: 'Mend', room: 'Desk', key: 'Shift+Digit4', run: () => setStage('mend') },
  { id: 'stage-finish', label: 'Finish', room: 'Desk', key: 'Digit3', run: () => setStage('finish') },
  { id: 'nib', label: 'Nib', room: 'Draw', key: 'KeyQ', run: () => takeTool('nib') },
  { id: 'rub', label: 'Rub', room: 'Draw', key: 'KeyW', run: () => takeTool('rub') },
  { id: 'lift', label: 'Lift', room: 'Draw', key: 'KeyE', run: () => takeTool('lift') },
  { id: 'shape', label: 'Shapes', room: 'Draw', key: 'Shift+Digit1', run: () => takeTool('shape') },
  { id: 'path', label: 'Bézier', room: 'Draw', key: 'Shift+Digit2', run: () => takeTool('path') },
  { id: 'points', label: 'Points', room: 'Draw', key: 'Shift+Digit3', run: () => takeTool('points') },
  ...mendCommands,
  { id: 'select', label: 'Select', room: 'Select', key: 'Digit4', run: () => takeTool('select') },
  { id: 'thinner', label: 'Smaller', room: 'Draw', key: 'KeyA', run: () => scaleTool(1 / 1.12) },
  { id: 'thicker', label: 'Larger', room: 'Draw', key: 'KeyS', run: () => scaleTool(1.12) },
  { id: 'calm', label: 'Calm on or off', room: 'Draw', key: 'KeyD', run: () => toggleCalm() },
  { id: 'guided', label: 'Guided or free', room: 'Guides', key: 'Shift+KeyT', run: () => toggleGuided() },
  ...guideCommands,
  ...selectionCommands,
  {
    id: 'add-layer',
    label: 'Add an Ink layer',
    room: 'Layers',
    key: 'Shift+KeyA',
    run: (board) => addLayer(board, 'ink'),
  },
  { id: 'add-wash', label: 'Add a Wash layer', room: 'Layers', run: (board) => addLayer(board, 'wash') },
  {
    id: 'group-layers',
    label: 'Group the chosen layers',
    room: 'Layers',
    key: 'Shift+KeyG',
    run: (board) => void groupChosen(board),
  },
  {
    id: 'duplicate-layers',
    label: 'Copy the chosen layers',
    room: 'Layers',
    key: 'Shift+KeyC',
    run: (board) => void duplicateChosen(board),
  },
  {
    id: 'merge-down',
    label: 'Merge with the layer below',
    room: 'Layers',
    key: 'Shift+KeyF',
    run: (board) => void mergeDown(board),
  },
  { id: 'delete-layers', label: 'Delete the chosen layers', room: 'Layers', run: (board) => void deleteChosen(board) },
  {
    id: 'layer-up',
    label: 'Take the layer above in hand',
    room: 'Layers',
    key: 'Shift+KeyE',
    run: (board) => walkStack(board, 1),
  },
  {
    id: 'layer-down',
    label: 'Take the layer below in hand',
    room: 'Layers',
    key: 'Shift+KeyD',
    run: (board) => walkStack(board, -1),
  },
  {
    id: 'hide-layer',
    label: 'Hide or show the layer in hand',
    room: 'Layers',
    key: 'Shift+KeyQ',
    run: (board) => tellHand(board, 'hidden', ['Hide', 'Show']),
  },
  {
    id: 'lock-layer',
    label: 'Lock or unlock the layer in hand',
    room: 'Layers',
    key: 'Shift+KeyW',
    run: (board) => tellHand(board, 'locked', ['Lock', 'Unlock']),
  },
  {
    id: 'solo-layer',
    label: 'The layer in hand alone, or all again',
    room: 'Layers',
    key: 'Shift+KeyS',
    run: (board) => {
      const layer = inHand(board);
      if (layer) toggleSolo(layer);
    },
  },
  {
    id: 'plain-lines',
    label: 'All lines of the layer as drawn',
    room: 'Layers',
    run: (board) => {
      const layer = inHand(board);
      if (layer) tellLayers(board, [layer.id], 'Lines as drawn', { style: PLAIN_STYLE });
    },
  },
  {
    id: 'stand-ins',
    label: 'Stand-in or real colours',
    room: 'Layers',
    key: 'Shift+KeyR',
    run: () => useDesk.setState({ standIns: !useDesk.getState().standIns }),
  },
  { id: 'stack', label: 'Open or close the stack', room: 'Desk', key: 'Shift+KeyX', run: () => toggleStack() },
  {
    id: 'fit',
    label: 'Fit the page',
    room: 'See',
    key: 'KeyF',
    run: ({ picture, hand }) => hand.show(fitted(picture.shownPage.size, picture.free)),
  },
  {
    id: 'fit-width',
    label: 'Fit the width',
    room: 'See',
    key: 'Shift+KeyV',
    run: ({ picture, hand }) => hand.show(fittedToWidth(picture.shownPage.size, picture.free)),
  },
  {
    id: 'one-to-one',
    label: 'One page px on one screen px',
    room: 'See',
    key: 'Shift+Digit6',
    run: ({ hand }) => hand.zoomTo(1 / (window.devicePixelRatio || 1)),
  },
  {
    id: 'print-size',
    label: 'As large as in print',
    room: 'See',
    key: 'Shift+KeyB',
    run: ({ hand, session }) => hand.zoomTo((useDesk.getState().pxPerMm * 25.4) / session.page.size.ppi),
  },
  { id: 'ruler', label: 'Measure this screen with a ruler', room: 'See', run: open('ruler') },
  {
    id: 'reset-zoom',
    label: 'Zoom back to the whole page',
    room: 'See',
    run: ({ hand, picture }) => hand.zoomTo(fitZoom(picture.shownPage.size, picture.free)),
  },
  { id: 'centre', label: 'Page back to the middle', room: 'See', key: 'Shift+KeyZ', run: ({ hand }) => hand.centre() },
  { id: 'flip', label: 'Turn the page over', room: 'See', key: 'Shift+Digit5', run: ({ hand }) => hand.flip() },
  { id: 'only-page', label: 'Only the page, or all again', room: 'Desk', key: 'KeyB', run: () => togglePage() },
  { id: 'turn-left', label: 'Turn left', room: 'See', key: 'KeyZ', run: ({ hand }) => hand.turnBy(-TURN_STEP) },
  { id: 'turn-right', label: 'Turn right', room: 'See', key: 'KeyC', run: ({ hand }) => hand.turnBy(TURN_STEP) },
  {
    id: 'upright',
    label: 'Upright',
    room: 'See',
    key: 'KeyX',
    run: ({ hand, picture }) => hand.turnBy(-turnOf(picture.view)),
  },
  {
    id: 'zoom-in',
    label: 'Zoom in',
    room: 'See',
    key: '+',
    also: ['Shift++', '='],
    run: ({ hand }) => hand.zoomBy(1.25),
  },
  { id: 'zoom-out', label: 'Zoom out', room: 'See', key: '-', run: ({ hand }) => hand.zoomBy(1 / 1.25) },
  {
    id: 'pan-left',
    label: 'Selection left, or page right',
    room: 'See',
    key: 'ArrowLeft',
    also: ['Shift+ArrowLeft'],
    run: (board) => step(board, -1, 0),
  },
  {
    id: 'pan-right',
    label: 'Selection right, or page left',
    room: 'See',
    key: 'ArrowRight',
    also: ['Shift+ArrowRight'],
    run: (board) => step(board, 1, 0),
  },
  {
    id: 'pan-up',
    label: 'Selection up, or page down',
    room: 'See',
    key: 'ArrowUp',
    also: ['Shift+ArrowUp'],
    run: (board) => step(board, 0, -1),
  },
  {
    id: 'pan-down',
    label: 'Selection down, or page up',
    room: 'See',
    key: 'ArrowDown',
    also: ['Shift+ArrowDown'],
    run: (board) => step(board, 0, 1),
  },
  {
    id: 'navigator',
    label: 'Small view of the whole page',
    room: 'See',
    run: () => useDesk.setState({ navigator: !useDesk.getState().navigator }),
  },
  { id: 'find', label: 'Find a command', room: 'Desk', key: 'Backquote', run: open('find') },
  { id: 'keys', label: 'Keys', room: 'Desk', run: open('keys') },
  {
    id: 'drop',
    label: 'Let go of what is being drawn',
    room: 'Draw',
    key: 'Escape',
    run: (board) => {
      if (board.hand.cancel()) say('Let go: nothing was drawn.');
      else if (board.path.finish() || board.points.letGo() || board.depth.letGo() || board.guides.letGo()) return;
      else if (board.selection.takeBack()) return;
      else if (useDesk.getState().onlyPage) togglePage();
      else board.selection.clear();
    },
  },
] as const satisfies readonly Command[];

export type CommandId = (typeof COMMANDS)[number]['id'];

/** What is so only while its key is down. */
export interface HoldCommand {
  readonly id: string;
  readonly label: string;
  readonly room: Room;
  readonly key: string;
  readonly hold: (board: OpenBoard, isHeld: boolean) => void;
}

export const HOLD_COMMANDS = [
  {
    id: 'free',
    label: 'Just this line free',
    room: 'Guides',
    key: 'Space',
    hold: (_board, isFree) => setGuides({ isFree }),
  },
  {
    id: 'slide',
    label: 'Move edges under the nib',
    room: 'Guides',
    key: 'Shift+Space',
    hold: (_board, isSliding) => setGuides({ isSliding }),
  },
  {
    id: 'straight-on',
    label: 'Straight on from the last line',
    room: 'Draw',
    key: 'Digit5',
    hold: ({ hand }, isHeld) => hand.setStraightOn(isHeld),
  },
  {
    id: 'corner',
    label: 'Next guide, or a corner while towing',
    room: 'Draw',
    key: 'KeyG',
    hold: ({ hand }, isHeld) => hand.setCornering(isHeld),
  },
  {
    id: 'peek',
    label: 'Peek: hide the rough',
    room: 'See',
    key: 'KeyR',
    hold: (_board, peeking) => useDesk.setState({ peeking }),
  },
  { id: 'move', label: 'Move the page', room: 'See', key: 'KeyV', hold: ({ hand }, isHeld) => hand.setMoveKey(isHeld) },
  {
    id: 'scrub-zoom',
    label: 'Zoom by dragging',
    room: 'See',
    key: 'Digit6',
    hold: ({ hand }, isHeld) => hand.setZoomKey(isHeld),
  },
  {
    id: 'borrow',
    label: 'Borrow a tool',
    room: 'Draw',
    key: 'KeyT',
    hold: (_board, isHeld) => {
      const { borrowed, tool, lender } = useDesk.getState();
      if (isHeld) borrowTool(borrowed[lender ?? tool]);
      else giveBack();
    },
  },
] as const satisfies readonly HoldCommand[];

export type HoldId = (typeof HOLD_COMMANDS)[number]['id'];

/** Every command and hold command, as the keys see them. */
export const ALL_COMMANDS: readonly (Command | HoldCommand)[] = [...COMMANDS, ...HOLD_COMMANDS];

export function runCommand(id: CommandId, board: OpenBoard): void {
  const command: Command | undefined = COMMANDS.find((one) => one.id === id);
  command?.run(board);
}

function toggleStack(): void {
  const { stackOpen, sideFolded } = useDesk.getState();
  useDesk.setState({ stackOpen: !stackOpen, sideFolded: !sideFolded });
}
