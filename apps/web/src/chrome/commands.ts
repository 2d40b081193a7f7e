import { PLAIN_STYLE } from '@true-nib/core/nib';
import { say } from '../look';
import { fitted, fittedToWidth, fitZoom, turnOf } from '../render';
import {
  type Board,
  type PageKeep,
  type Command,
  type HoldCommand,
  borrowTool,
  giveBack,
  togglePage,
  toolInHand,
  useDesk,
  type DeskSheet,
  workbench,
  nodeInHand,
} from '../board';
import { toggleGuided, setGuides } from '../guiding';
import { toggleCalm, resizeNib } from '../nibs';
import {
  addLayer,
  deleteChosen,
  duplicateChosen,
  groupChosen,
  inkToPixels,
  mergeDown,
  tellLayers,
  toggleSolo,
  walkStack,
} from '../stack';

const TURN_STEP = Math.PI / 12;
const PAN_STEP = 80;

/** Asks what the stages keep for this page, the last stage first, until one has done something. */
const some = ({ keeps }: Board, asked: (keep: PageKeep) => boolean | undefined): boolean =>
  [...keeps].reverse().some((keep) => asked(keep) === true);

/** What is no part of the page yet is taken back first: the last node of a path, the last edge of a frame that is sighted. */
const undo = (board: Board) =>
  void (board.hand.isBusy || some(board, (keep) => keep.takeBack?.()) || board.session.undo());
const redo = ({ session, hand }: Board) => void (hand.isBusy || session.redo());
const open = (sheet: DeskSheet) => () => useDesk.setState({ sheet });

/** An arrow key: 1 px of what can be moved, 10 px with Shift, or a step of the page. */
function step(board: Board, x: number, y: number): void {
  const px = board.hand.isShifted ? 10 : 1;
  if (!some(board, (keep) => keep.nudge?.(x * px, y * px))) board.hand.panBy(-x * PAN_STEP, -y * PAN_STEP);
}

function resize(factor: number): void {
  const tool = workbench.tool(toolInHand(useDesk.getState()));
  (tool?.resize ?? resizeNib)(factor);
}

const inHand = (board: Board) => nodeInHand(board)?.layer;

function tellHand(board: Board, name: 'hidden' | 'locked', words: readonly [on: string, off: string]): void {
  const layer = inHand(board);
  if (layer) tellLayers(board, [layer.id], `${words[layer[name] ? 1 : 0]} ${layer.name}`, { [name]: !layer[name] });
}

/** Back and forth in time. */
export const historyCommands: readonly Command[] = [
  { id: 'undo', label: 'Undo', room: 'Draw', key: '$mod+z', run: undo },
  { id: 'redo', label: 'Redo', room: 'Draw', key: '$mod+Shift+z', also: ['$mod+y'], run: redo },
];

/** The commands that belong to no stage. */
export const generalCommands: readonly Command[] = [
  { id: 'thinner', label: 'Smaller', room: 'Draw', key: 'KeyA', run: () => resize(1 / 1.12) },
  { id: 'thicker', label: 'Larger', room: 'Draw', key: 'KeyS', run: () => resize(1.12) },
  { id: 'calm', label: 'Calm on or off', room: 'Draw', key: 'KeyD', run: () => toggleCalm() },
  { id: 'guided', label: 'Guided or free', room: 'Guides', key: 'Shift+KeyT', run: () => toggleGuided() },
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
  { id: 'ink-to-pixels', label: 'Ink layer to pixels', room: 'Layers', run: (board) => void inkToPixels(board) },
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
    run: () => useDesk.setState({ standIns: !useDesk.getState().standIns }),
  },
  {
    id: 'px-grid',
    label: 'The edges of px over lines, or not',
    room: 'See',
    run: () => useDesk.setState({ pxGrid: !useDesk.getState().pxGrid }),
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
    run: ({ hand, session, desk }) => hand.zoomTo((desk().pxPerMm * 25.4) / session.page.size.ppi),
  },
  { id: 'ruler', label: 'Measure this screen with a ruler', room: 'See', run: open('ruler') },
  {
    id: 'reset-zoom',
    label: 'Zoom back to the whole page',
    room: 'See',
    run: ({ hand, picture }) => hand.zoomTo(fitZoom(picture.shownPage.size, picture.free)),
  },
  { id: 'centre', label: 'Page back to the middle', room: 'See', key: 'Shift+KeyZ', run: ({ hand }) => hand.centre() },
  { id: 'flip', label: 'Flip the view left–right', room: 'See', key: 'Shift+Digit5', run: ({ hand }) => hand.flip() },
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
      if (board.hand.cancel()) return say('Let go: nothing was drawn.');
      if (some(board, (keep) => keep.letGo?.())) return;
      if (board.desk().onlyPage) togglePage();
      else some(board, (keep) => keep.letAllGo?.());
    },
  },
  {
    id: 'keep',
    label: 'Keep the transform, or end the curve',
    room: 'Select',
    key: 'Enter',
    run: (board) => void some(board, (keep) => keep.settle?.()),
  },
];

/** What is so only while a key is down, whatever stage one is in. */
export const generalHolds: readonly HoldCommand[] = [
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
    hold: (_board, isHeld) => (isHeld ? borrowTool() : giveBack()),
  },
];

function toggleStack(): void {
  const { stackOpen, sideFolded } = useDesk.getState();
  useDesk.setState({ stackOpen: !stackOpen, sideFolded: !sideFolded });
}
