import { selectionSlot } from './selection';
import { washingSlot } from '../wash';
import { useSelectChoice } from './selectChoice';
import type { DrawnEntity } from '@true-nib/core/drawn';
import { identity, projectiveOf } from '@true-nib/core/math';
import { find, isKind, ordersBetween } from '@true-nib/core/page';
import { PageError } from '@true-nib/core/gate';
import type { EntityId } from '@true-nib/core/kind';
import { flippedFrame, sameColour, sameNib } from '@true-nib/core/select';
import { say, sayError } from '../look';
import type { AreaQuery, TakenPixels } from '../render';
import { type Board, type Command, takeTool, useDesk, layerInHand, nodeInHand } from '../board';
import { nibFor } from '../nibs';
import { besides, pastedOn, copyPixels, copyDrawn, onPage, pixelsToPaste, drawnToPaste } from './clipboard';

/** The Ink layer in hand with what lies on it; says why not when there is none. */
function inkInHand(
  board: Board,
): { readonly layerId: EntityId; readonly entities: readonly DrawnEntity[] } | undefined {
  const node = nodeInHand(board);
  if (node?.layer.medium !== 'ink' || node.isHidden) {
    say('Take an Ink layer that is seen in hand first.');
    return undefined;
  }
  return { layerId: node.layer.id, entities: board.picture.inks.index.unorderedOn(node.layer.id) };
}

/** The Wash layer in hand, when that is one and is seen. */
function washInHand(board: Board): EntityId | undefined {
  const node = nodeInHand(board);
  return node?.layer.medium === 'wash' && !node.isHidden ? node.layer.id : undefined;
}

/** Selects pixels when a Wash layer is in hand. Answers whether one is. */
function choosePixels(board: Board, query: AreaQuery): boolean {
  const layerId = washInHand(board);
  if (layerId === undefined) return false;
  takeTool('select');
  void board.of(selectionSlot).chooseArea(layerId, query, 'instead');
  return true;
}

/** All pixels of the colour that was touched last. */
function chooseColour(board: Board): boolean {
  if (washInHand(board) === undefined) return false;
  const at = board.of(selectionSlot).touched;
  if (at) return choosePixels(board, { by: 'colour', at });
  say('Touch the colour first, with Select by Touch.');
  return true;
}

function chooseAmong(
  board: Board,
  pick: (all: readonly DrawnEntity[], chosen: readonly DrawnEntity[]) => readonly DrawnEntity[],
): void {
  const ink = inkInHand(board);
  if (!ink) return;
  const found = pick(ink.entities, board.of(selectionSlot).entities);
  takeTool('select');
  board.of(selectionSlot).choose(found, ink.layerId, 'instead');
}

function needsSome(board: Board): readonly DrawnEntity[] {
  if (!board.of(selectionSlot).keep(true)) return [];
  const { entities } = board.of(selectionSlot);
  if (entities.length === 0) say('Select some lines first.');
  return entities;
}

const linesOf = (entities: readonly DrawnEntity[]) => entities.filter((entity) => isKind(entity, 'stroke'));

/** Does something to the selected pixels, when there are any and they may be changed. Answers whether pixels were meant. */
function withPixels(board: Board, run: (layerId: EntityId) => unknown): boolean {
  const selection = board.of(selectionSlot);
  if (!selection.isPixels || selection.layerId === undefined) return false;
  selection.keep();
  if (!isLocked(board)) run(selection.layerId);
  return true;
}

/** Fills the selected pixels with the colour in hand. */
export function fillSelected(board: Board): void {
  const { color } = nibFor(board.session.page);
  const isMeant = withPixels(board, (layerId) => board.of(washingSlot).do('Fill', layerId, { deed: 'fill', color }));
  if (!isMeant) say('Select an area on a Wash layer first.');
}

/** Grows the selected pixels all round, or shrinks them when `px` is negative. */
export function growSelected(board: Board, px: number): void {
  const selection = board.of(selectionSlot);
  if (!selection.isPixels || selection.layerId === undefined) return say('Select an area on a Wash layer first.');
  void selection.chooseArea(selection.layerId, { by: 'grow', px }, 'instead');
}

function isLocked({ session, of }: Board): boolean {
  const node = layerInHand(session.page, of(selectionSlot).layerId);
  if (node?.isLocked) say(`${node.layer.name} is locked.`);
  return node?.isLocked ?? false;
}

export function deleteSelected(board: Board, label = 'Delete'): void {
  if (withPixels(board, (layerId) => board.of(washingSlot).do(label, layerId, { deed: 'clear' }))) return;
  const chosen = needsSome(board);
  if (chosen.length === 0 || isLocked(board)) return;
  board.session.commit(
    label,
    chosen.map((before) => ({ before, after: null })),
  );
}

async function copySelected(board: Board): Promise<boolean> {
  const selection = board.of(selectionSlot);
  if (selection.isPixels && selection.layerId !== undefined) {
    selection.keep();
    await board.of(washingSlot).settled();
    copyPixels(await board.picture.inks.wash.take(selection.layerId));
    say('Pixels copied.');
    return true;
  }
  const { length } = needsSome(board);
  if (length === 0) return false;
  await copyDrawn(selection.lowestFirst);
  say(length === 1 ? 'One line copied.' : `${length} lines copied.`);
  return true;
}

async function paste(board: Board): Promise<void> {
  try {
    const pixels = await pixelsToPaste();
    if (pixels) return await pastePixels(board, pixels);
    const pasted = besides(await drawnToPaste(nibFor(board.session.page)), board.session.page.size);
    const node = nodeInHand(board);
    if (node?.layer.medium !== 'ink') throw new PageError('Take an Ink layer in hand to paste on.');
    if (node.isLocked) throw new PageError(`${node.layer.name} is locked.`);
    const { index } = board.picture.inks;
    const entities = pastedOn(pasted, node.layer.id, index.topOrder(node.layer.id));
    const edits = entities.map((after) => ({ before: null, after }));
    if (!board.session.commit('Paste', edits)) return;
    takeTool('select');
    board.of(selectionSlot).choose(entities, node.layer.id, 'instead');
  } catch (error) {
    sayError(error);
  }
}

async function pastePixels(board: Board, taken: TakenPixels): Promise<void> {
  const { session } = board;
  const selection = board.of(selectionSlot);
  const node = nodeInHand(board);
  if (node?.layer.medium !== 'wash')
    throw new PageError('Pixels were copied: take a Wash layer in hand to paste them on.');
  if (node.isLocked) throw new PageError(`${node.layer.name} is locked.`);
  const { id } = node.layer;
  selection.keep();
  const placed = onPage(taken, session.page.size);
  if (!(await board.of(washingSlot).do('Paste', id, { deed: 'paste', taken: placed }))) return;
  takeTool('select');
  await selection.followArea(id);
}

async function movePixels(board: Board, layerId: EntityId, targetId: EntityId): Promise<void> {
  const map = projectiveOf(identity);
  const name = find(board.session.page, 'layer', targetId)?.name ?? 'another layer';
  if (!(await board.of(washingSlot).do(`Move to ${name}`, layerId, { deed: 'move', map, targetId }))) return;
  // The selection goes first: a layer taken in hand lets go of what is selected on others.
  await board.of(selectionSlot).followArea(targetId);
  useDesk.setState({ layerId: targetId });
}

/** Moves what is selected on top of another layer of its kind. */
export function moveSelectedTo(board: Board, layerId: EntityId): void {
  if (withPixels(board, (from) => void movePixels(board, from, layerId))) return;
  if (needsSome(board).length === 0) return;
  const chosen = board.of(selectionSlot).lowestFirst;
  const node = layerInHand(board.session.page, layerId);
  if (isLocked(board) || node?.layer.medium !== 'ink') return;
  if (node.isLocked) return say(`${node.layer.name} is locked.`);
  const orders = ordersBetween(board.picture.inks.index.topOrder(layerId), undefined, chosen.length);
  const edits = chosen.map((before, k) => ({ before, after: { ...before, layerId, order: orders[k] } }));
  if (!board.session.commit(`Move to ${node.layer.name}`, edits)) return;
  useDesk.setState({ layerId });
  board.of(selectionSlot).choose(
    edits.map(({ after }) => after),
    layerId,
    'instead',
  );
}

function flip(board: Board, axis: 'across' | 'down'): void {
  const { frame } = board.of(selectionSlot);
  if (frame && !isLocked(board)) board.of(selectionSlot).setFrame(flippedFrame(frame, axis));
}

export const selectionCommands: readonly Command[] = [
  {
    id: 'select-all',
    label: 'Select all of the layer',
    room: 'Select',
    key: '$mod+a',
    run: (board) => void (choosePixels(board, { by: 'all' }) || chooseAmong(board, (all) => all)),
  },
  { id: 'select-none', label: 'Select nothing', room: 'Select', run: ({ of }) => of(selectionSlot).clear() },
  {
    id: 'select-others',
    label: 'Select the others instead',
    room: 'Select',
    run: (board) =>
      void (
        choosePixels(board, { by: 'others' }) ||
        chooseAmong(board, (all, chosen) => {
          const ids = new Set(chosen.map(({ id }) => id));
          return all.filter(({ id }) => !ids.has(id));
        })
      ),
  },
  {
    id: 'same-nib',
    label: 'Select all of the same nib',
    room: 'Select',
    run: (board) => chooseAmong(board, (all, like) => sameNib(linesOf(all), linesOf(like))),
  },
  {
    id: 'same-colour',
    label: 'Select all of the same colour',
    room: 'Select',
    run: (board) => void (chooseColour(board) || chooseAmong(board, (all, like) => sameColour(all, like))),
  },
  {
    id: 'fill',
    label: 'Fill what is selected',
    room: 'Select',
    key: 'Shift+Enter',
    run: (board) => fillSelected(board),
  },
  {
    id: 'grow',
    label: 'Grow what is selected',
    room: 'Select',
    run: (board) => growSelected(board, useSelectChoice.getState().growBy),
  },
  {
    id: 'shrink',
    label: 'Shrink what is selected',
    room: 'Select',
    run: (board) => growSelected(board, -useSelectChoice.getState().growBy),
  },
  { id: 'copy', label: 'Copy', room: 'Select', key: '$mod+c', run: (board) => void copySelected(board) },
  {
    id: 'cut',
    label: 'Cut',
    room: 'Select',
    key: '$mod+x',
    run: (board) => void copySelected(board).then((isCopied) => isCopied && deleteSelected(board, 'Cut')),
  },
  { id: 'paste', label: 'Paste', room: 'Select', key: '$mod+v', run: (board) => void paste(board) },
  {
    id: 'delete',
    label: 'Delete what is selected',
    room: 'Select',
    key: 'Delete',
    also: ['Backspace'],
    run: (board) => deleteSelected(board),
  },
  { id: 'flip-across', label: 'Flip left–right', room: 'Select', run: (board) => flip(board, 'across') },
  { id: 'flip-down', label: 'Flip top–bottom', room: 'Select', run: (board) => flip(board, 'down') },
  {
    id: 'take-back',
    label: 'Take the transform back',
    room: 'Select',
    run: ({ of }) => void of(selectionSlot).takeBack(),
  },
];
