import { ordersBetween, PageError, type EntityId, type StrokeEntity } from '@true-nib/core/page';
import { flippedFrame, sameColour, sameNib } from '@true-nib/core/select';
import { say, sayError } from '../../look/notices';
import type { OpenBoard } from '../boardContext';
import type { Command } from '../commands';
import { nibOf, takeTool, useDesk } from '../desk';
import { layerInHand } from '../inkHand';
import { asEntities, besides, copyStrokes, strokesToPaste } from './clipboard';

/** The Ink layer in hand with its strokes; says why not when there is none. */
function inkInHand({
  session,
  picture,
}: OpenBoard): { readonly layerId: EntityId; readonly strokes: StrokeEntity[] } | undefined {
  const node = layerInHand(session.page, useDesk.getState().layerId);
  if (node?.layer.medium !== 'ink' || node.isHidden) {
    say('Take an Ink layer that is seen in hand first.');
    return undefined;
  }
  return { layerId: node.layer.id, strokes: picture.inks.index.allOn(node.layer.id) };
}

function chooseAmong(
  board: OpenBoard,
  pick: (strokes: StrokeEntity[], chosen: StrokeEntity[]) => StrokeEntity[],
): void {
  const ink = inkInHand(board);
  if (!ink) return;
  const found = pick(ink.strokes, board.selection.strokes);
  takeTool('select');
  board.selection.choose(found, ink.layerId, 'instead');
}

function needsSome(board: OpenBoard): StrokeEntity[] {
  if (!board.selection.keep()) return [];
  const { strokes } = board.selection;
  if (strokes.length === 0) say('Select some lines first.');
  return strokes;
}

function isLocked({ session, selection }: OpenBoard): boolean {
  const node = layerInHand(session.page, selection.layerId);
  if (node?.isLocked) say(`${node.layer.name} is locked.`);
  return node?.isLocked ?? false;
}

export function deleteSelected(board: OpenBoard, label = 'Delete'): void {
  const strokes = needsSome(board);
  if (strokes.length === 0 || isLocked(board)) return;
  board.session.commit(
    label,
    strokes.map((before) => ({ before, after: null })),
    [strokes[0].layerId],
  );
}

async function copySelected(board: OpenBoard): Promise<boolean> {
  const strokes = needsSome(board);
  if (strokes.length === 0) return false;
  await copyStrokes(strokes);
  say(strokes.length === 1 ? 'One line copied.' : `${strokes.length} lines copied.`);
  return true;
}

async function pasteStrokes(board: OpenBoard): Promise<void> {
  try {
    const pasted = besides(await strokesToPaste(nibOf(useDesk.getState())), board.session.page.size);
    const node = layerInHand(board.session.page, useDesk.getState().layerId);
    if (node?.layer.medium !== 'ink') throw new PageError('Take an Ink layer in hand to paste on.');
    if (node.isLocked) throw new PageError(`${node.layer.name} is locked.`);
    const { index } = board.picture.inks;
    const entities = asEntities(pasted, node.layer.id, index.topOrder(node.layer.id));
    const edits = entities.map((after) => ({ before: null, after }));
    if (!board.session.commit('Paste', edits, [node.layer.id])) return;
    takeTool('select');
    board.selection.choose(entities, node.layer.id, 'instead');
  } catch (error) {
    sayError(error);
  }
}

/** Moves the selected strokes on top of another Ink layer. */
export function moveSelectedTo(board: OpenBoard, layerId: EntityId): void {
  const strokes = needsSome(board);
  const node = layerInHand(board.session.page, layerId);
  if (strokes.length === 0 || isLocked(board) || node?.layer.medium !== 'ink') return;
  if (node.isLocked) return say(`${node.layer.name} is locked.`);
  const orders = ordersBetween(board.picture.inks.index.topOrder(layerId), undefined, strokes.length);
  const edits = strokes.map((before, k) => ({ before, after: { ...before, layerId, order: orders[k] } }));
  if (!board.session.commit(`Move to ${node.layer.name}`, edits, [layerId])) return;
  useDesk.setState({ layerId });
  board.selection.choose(
    edits.map(({ after }) => after),
    layerId,
    'instead',
  );
}

function flip(board: OpenBoard, way: 'across' | 'down'): void {
  const { frame } = board.selection;
  if (frame && !isLocked(board)) board.selection.setFrame(flippedFrame(frame, way));
}

/** Arrow keys move what is selected while Select is in hand, and the page otherwise. */
export function nudgeOr(board: OpenBoard, dx: number, dy: number, otherwise: () => void): void {
  if (useDesk.getState().tool !== 'select' || board.selection.size === 0) return otherwise();
  if (!isLocked(board)) board.selection.nudge(dx, dy);
}

export const selectionCommands = [
  {
    id: 'select-all',
    label: 'Select all of the layer',
    room: 'Select',
    key: '$mod+a',
    run: (board) => chooseAmong(board, (all) => all),
  },
  { id: 'select-none', label: 'Select nothing', room: 'Select', run: ({ selection }) => selection.clear() },
  {
    id: 'select-others',
    label: 'Select the others instead',
    room: 'Select',
    run: (board) =>
      chooseAmong(board, (all, chosen) => {
        const ids = new Set(chosen.map(({ id }) => id));
        return all.filter(({ id }) => !ids.has(id));
      }),
  },
  { id: 'same-nib', label: 'Select all of the same nib', room: 'Select', run: (board) => chooseAmong(board, sameNib) },
  {
    id: 'same-colour',
    label: 'Select all of the same colour',
    room: 'Select',
    run: (board) => chooseAmong(board, sameColour),
  },
  { id: 'copy', label: 'Copy', room: 'Select', key: '$mod+c', run: (board) => void copySelected(board) },
  {
    id: 'cut',
    label: 'Cut',
    room: 'Select',
    key: '$mod+x',
    run: (board) => void copySelected(board).then((isCopied) => isCopied && deleteSelected(board, 'Cut')),
  },
  { id: 'paste', label: 'Paste', room: 'Select', key: '$mod+v', run: (board) => void pasteStrokes(board) },
  {
    id: 'delete',
    label: 'Delete what is selected',
    room: 'Select',
    key: 'Delete',
    also: ['Backspace'],
    run: (board) => deleteSelected(board),
  },
  { id: 'flip-across', label: 'Flip side for side', room: 'Select', run: (board) => flip(board, 'across') },
  { id: 'flip-down', label: 'Flip head over heels', room: 'Select', run: (board) => flip(board, 'down') },
  {
    id: 'keep',
    label: 'Keep the transform',
    room: 'Select',
    key: 'Enter',
    run: ({ selection }) => void selection.keep(),
  },
  {
    id: 'take-back',
    label: 'Take the transform back',
    room: 'Select',
    run: ({ selection }) => void selection.takeBack(),
  },
] as const satisfies readonly Command[];
