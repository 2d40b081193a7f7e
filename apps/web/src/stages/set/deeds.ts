import { closedCourses } from '@true-nib/core/comic';
import type { Spine } from '@true-nib/core/curve';
import { PageError } from '@true-nib/core/gate';
import type { EntityId } from '@true-nib/core/kind';
import type { Page } from '@true-nib/core/page';
import { boxOfSolid, drawnOut, inRow, sizeOf, turnedFrom, type BlockEntity, type BlockShape } from '@true-nib/core/set';
import { addBlocks, blocksOf, changeBlocks, laySet, removeBlocks, removeSet, withGroups } from '@true-nib/core/staging';
import { begunSlot, takeTool, type Board } from '../../board';
import { frameInHand } from '../../guiding';
import { selectionSlot } from '../../select';
import { newId } from '../../session';
import { cameraInHand, chosenOn, setInHand, standingOn } from './inHand';
import { setSets, useSets } from './setStore';

/** Lays a set where there is none yet, as the frame in hand sees. Answers it. */
export function needSet(board: Board): { readonly setId: EntityId; readonly cameraId: EntityId } | undefined {
  const { session } = board;
  const camera = cameraInHand(session.page);
  if (camera) return { setId: camera.setId, cameraId: camera.id };
  return startSet(board);
}

/** Lays another set. */
export function startSet(board: Board): { readonly setId: EntityId; readonly cameraId: EntityId } | undefined {
  const { session } = board;
  const frame = frameInHand(session.page)?.shape;
  let ids: readonly EntityId[] = [];
  const isLaid = session.attempt((page) => {
    const draft = withoutFrame(
      () => laySet(page, newId, frame, board.of(begunSlot).panelId),
      () => laySet(page, newId, undefined, board.of(begunSlot).panelId),
    );
    ids = draft.edits.flatMap(({ after }) => (after ? [after.id] : []));
    return draft;
  });
  if (!isLaid) return undefined;
  setSets({ setId: ids[0], cameraId: ids[1], chosen: [] });
  return { setId: ids[0], cameraId: ids[1] };
}

/** A frame that has no camera yet is not asked. */
function withoutFrame<T>(first: () => T, otherwise: () => T): T {
  try {
    return first();
  } catch (error) {
    if (!(error instanceof PageError)) throw error;
    return otherwise();
  }
}

export function chooseBlocks(page: Page, ids: readonly EntityId[]): void {
  const set = setInHand(page);
  setSets({ chosen: set ? withGroups(blocksOf(page, set.id), ids) : [] });
}

/** Changes the chosen blocks. */
export function changeChosen({ session }: Board, label: string, change: (block: BlockEntity) => BlockEntity): boolean {
  const { chosen } = useSets.getState();
  return session.attempt((page) => changeBlocks(page, chosen, label, change));
}

export function removeChosen({ session }: Board): void {
  const { chosen } = useSets.getState();
  if (session.attempt((page) => removeBlocks(page, chosen))) setSets({ chosen: [] });
}

/** Copies the chosen blocks in a row, or once beside themselves. */
export function copyChosen(board: Board, count: number, gap: number): void {
  const { session } = board;
  const { page } = session;
  const blocks = chosenOn(page);
  if (blocks.length === 0) return;
  const known = new Set(blocksOf(page, blocks[0].setId).map(({ id }) => id));
  const step = widthOf(board, blocks) + gap;
  const label = count === 1 ? 'Copy blocks' : 'Copy in a row';
  session.attempt((now) => addBlocks(now, blocks[0].setId, inRow(blocks, count, step), newId, label));
  const added = blocksOf(session.page, blocks[0].setId).filter(({ id }) => !known.has(id));
  if (count === 1) setSets({ chosen: added.map(({ id }) => id) });
}

const widthOf = (board: Board, blocks: readonly BlockEntity[]): number => {
  if (blocks.length === 1) return sizeOf(blocks[0].shape)[0];
  const boxes = standingOn(board, blocks).map(({ solid }) => boxOfSolid(solid));
  return Math.max(...boxes.map((box) => box[3])) - Math.min(...boxes.map((box) => box[0]));
};

/** Puts the chosen blocks into one group, or takes their group apart. */
export function groupChosen(board: Board): void {
  const chosen = chosenOn(board.session.page);
  const isGroup = chosen.length > 1 && chosen.every(({ group }) => group !== undefined && group === chosen[0].group);
  const group = newId();
  changeChosen(board, isGroup ? 'Take the group apart' : 'Group blocks', ({ group: _old, ...block }) =>
    isGroup ? block : { ...block, group },
  );
}

export function deleteSet({ session }: Board): void {
  const set = setInHand(session.page);
  if (set && session.attempt((page) => removeSet(page, set.id))) setSets({ setId: undefined, chosen: [] });
}

// From what is drawn.

/** Makes a block of the selected closed lines, or of a template's outlines: drawn out, to be put somewhere. */
export function drawOut(
  board: Board,
  courses: readonly Spine[] = closedCourses(board.of(selectionSlot).entities),
): void {
  hold(board, () => drawnOut(courses));
}

/** Makes a block of the first selected line: turned round its left side. */
export function turnRound(board: Board): void {
  const [line] = board.of(selectionSlot).strokes;
  if (!line) return board.notice('Select a line first: half an outline, upright.');
  hold(board, () => turnedFrom(line.spine));
}

function hold({ notice }: Board, make: () => BlockShape): void {
  try {
    setSets({ made: make(), laying: undefined, chosen: [] });
    takeTool('blocks');
  } catch (error) {
    if (!(error instanceof PageError)) throw error;
    notice(error.message);
  }
}
