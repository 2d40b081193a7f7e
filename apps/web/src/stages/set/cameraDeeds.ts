import { PageError } from '@true-nib/core/gate';
import type { EntityId } from '@true-nib/core/kind';
import { boxMiddle, type Vector } from '@true-nib/core/math';
import { find, type Page } from '@true-nib/core/page';
import {
  atHeight,
  focalInPx,
  middleOf,
  seeingAll,
  withFocal,
  withPoints,
  type CameraEntity,
  type Eye,
  type PulledLine,
} from '@true-nib/core/set';
import {
  addCamera,
  blocksOf,
  followEdits,
  handFrame,
  letFrameGo,
  matched,
  turnEdits,
  windowOf,
} from '@true-nib/core/staging';
import { begunSlot, type Board } from '../../board';
import { keptInWords } from '../../hand';
import { frameInHand, setGuides } from '../../guiding';
import { newId } from '../../session';
import { cameraInHand, chosenOn, standingOn } from './inHand';
import { pulled } from './lineDeeds';
import { setSets } from './setStore';

/** The place that a camera goes round: the middle of what is chosen, or of all that stands. */
export function pivotOf(board: Board, camera: CameraEntity): Vector {
  const { page } = board.session;
  const chosen = chosenOn(page).filter(({ setId }) => setId === camera.setId);
  return middleOf(standingOn(board, chosen.length > 0 ? chosen : blocksOf(page, camera.setId)));
}

/** Turns the camera in hand for good. Lines that follow it are pulled anew. */
export async function turnCamera(
  board: Board,
  label: string,
  turn: (camera: CameraEntity, page: Page) => Eye,
): Promise<void> {
  const { session } = board;
  const camera = cameraInHand(session.page);
  if (!camera) return board.notice('There is no set on this page yet.');
  let eye: Eye;
  try {
    eye = turn(camera, session.page);
  } catch (error) {
    if (!(error instanceof PageError)) throw error;
    return board.notice(error.message);
  }
  await keepTurned(board, camera.id, eye, label);
}

/** Keeps where a camera stands now, in one change with all that follows it. */
export async function keepTurned(board: Board, cameraId: EntityId, eye: Eye, label: string): Promise<void> {
  const { session } = board;
  const before = find(session.page, 'camera', cameraId);
  if (!before) return;
  const lines = before.pulled && (await linesFrom(board, { ...before, ...eye }));
  const camera = find(session.page, 'camera', cameraId);
  if (!camera) return;
  try {
    // Without lines, since somebody stopped them, the camera is turned alone.
    if (!lines) return void session.commit(label, turnEdits(session.page, camera, eye));
    const { edits, kept } = followEdits(session.page, camera, eye, lines, newId);
    session.commit(label, edits);
    if (kept > 0) board.notice(keptInWords(kept));
  } catch (error) {
    if (!(error instanceof PageError)) throw error;
    board.notice(error.message);
  }
}

/** The lines that follow a camera; nothing, and why, where they could not be pulled. */
async function linesFrom(board: Board, camera: CameraEntity): Promise<PulledLine[] | undefined> {
  try {
    return camera.pulled && (await pulled(board, camera, camera.pulled.settings));
  } catch (error) {
    board.notice(error instanceof Error ? error.message : 'The lines could not be pulled.');
    return undefined;
  }
}

export const setPoints = (board: Board, points: 1 | 2 | 3): Promise<void> =>
  turnCamera(board, `${points === 1 ? 'One point' : `${points} points`}`, (camera, page) =>
    withPoints(camera, points, pivotOf(board, camera), boxMiddle(windowOf(page, camera))),
  );

export const setLens = (board: Board, mm: number): Promise<void> =>
  turnCamera(board, 'Focal length', (camera, page) => {
    const { minX, maxX } = windowOf(page, camera);
    return withFocal(camera, focalInPx(mm, maxX - minX));
  });

export const setEyeHeight = (board: Board, height: number): Promise<void> =>
  turnCamera(board, 'Eye height', (camera) => atHeight(camera, height));

export const seeAll = (board: Board): Promise<void> =>
  turnCamera(board, 'See all', (camera, page) =>
    seeingAll(camera, standingOn(board, blocksOf(page, camera.setId)), windowOf(page, camera)),
  );

/** Lets the camera see as the frame in hand says. */
export function matchFrame(board: Board): Promise<void> {
  return turnCamera(board, 'Match the frame', (camera, page) => {
    const frame = frameInHand(page);
    if (!frame || frame.id === camera.frameId)
      throw new PageError('There is no other frame on this page: sight one from the rough first.');
    return matched(camera, frame.shape, page, camera);
  });
}

/** Hands the frame of the camera to the board, or lets it go. */
export function toggleFrame(board: Board): void {
  const { session } = board;
  const camera = cameraInHand(session.page);
  if (!camera) return;
  const hasFrame = camera.frameId !== undefined && find(session.page, 'guide', camera.frameId) !== undefined;
  session.attempt((page) => (hasFrame ? letFrameGo(page, camera.id) : handFrame(page, camera.id, newId)));
  const { frameId } = find(session.page, 'camera', camera.id) ?? {};
  if (frameId !== undefined) setGuides({ guideId: frameId });
}

export function newCamera(board: Board): void {
  const { session } = board;
  const camera = cameraInHand(session.page);
  if (!camera) return;
  const id = newId();
  if (session.attempt((page) => addCamera(page, camera, id, board.of(begunSlot).panelId))) setSets({ cameraId: id });
}

/** Changes what a camera is called, or how it is seen. */
export function changeCamera({ session }: Board, id: EntityId, label: string, change: Partial<CameraEntity>): void {
  const before = find(session.page, 'camera', id);
  if (before) session.commit(label, [{ before, after: { ...before, ...change } }]);
}
