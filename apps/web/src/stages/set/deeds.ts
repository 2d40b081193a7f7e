import { PageError } from '@true-nib/core/gate';
import type { EntityId } from '@true-nib/core/kind';
import { find, mmToPx, topOfStack, type Page } from '@true-nib/core/page';
import {
  atHeight,
  boxOfSolid,
  focalInPx,
  inRow,
  middleOf,
  seeingAll,
  sizeOf,
  solidsOf,
  turnedBlock,
  withFocal,
  withPoints,
  type BlockEntity,
  type CameraEntity,
  type Eye,
  type PullSettings,
} from '@true-nib/core/set';
import {
  addBlocks,
  addCamera,
  blocksOf,
  changeBlocks,
  handFrame,
  laySet,
  letFrameGo,
  matched,
  middleOfWindow,
  pulledEdits,
  removeBlocks,
  removeSet,
  turnEdits,
  windowOf,
  withGroups,
} from '@true-nib/core/staging';
import type { Vector } from '@true-nib/core/math';
import type { Nib } from '@true-nib/core/nib';
import { begunSlot, takeTool, type Board } from '../../board';
import { frameInHand, setGuides } from '../../guiding';
import { nibFor } from '../../nibs';
import { newId } from '../../session';
import { cameraInHand, chosenOn, setInHand } from './inHand';
import { setSets, useSets, type PullChoice } from './setStore';

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
export function copyChosen({ session }: Board, count: number, gap: number): void {
  const { page } = session;
  const blocks = chosenOn(page);
  if (blocks.length === 0) return;
  const known = new Set(blocksOf(page, blocks[0].setId).map(({ id }) => id));
  const step = widthOf(blocks) + gap;
  const label = count === 1 ? 'Copy blocks' : 'Copy in a row';
  session.attempt((now) => addBlocks(now, blocks[0].setId, inRow(blocks, count, step), newId, label));
  const added = blocksOf(session.page, blocks[0].setId).filter(({ id }) => !known.has(id));
  if (count === 1) setSets({ chosen: added.map(({ id }) => id) });
}

const widthOf = (blocks: readonly BlockEntity[]): number => {
  if (blocks.length === 1) return sizeOf(blocks[0].shape)[0];
  const boxes = solidsOf(blocks).map(({ solid }) => boxOfSolid(solid));
  return Math.max(...boxes.map((box) => box[3])) - Math.min(...boxes.map((box) => box[0]));
};

export const turnChosen = (board: Board, degrees: number): boolean =>
  changeChosen(board, 'Turn blocks', (block) => turnedBlock(block, (degrees * Math.PI) / 180));

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

// The camera.

/** The place that a camera goes round: the middle of what is chosen, or of all that stands. */
export function pivotOf(page: Page, camera: CameraEntity): Vector {
  const chosen = chosenOn(page).filter(({ setId }) => setId === camera.setId);
  return middleOf(solidsOf(chosen.length > 0 ? chosen : blocksOf(page, camera.setId)));
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
  const lines = before.pulled ? await pulled(board, { ...before, ...eye }, before.pulled.settings) : undefined;
  const camera = find(session.page, 'camera', cameraId);
  if (!camera) return;
  try {
    const turned = turnEdits(session.page, camera, eye);
    if (!lines || !camera.pulled) return void session.commit(label, turned);
    const after = { ...camera, ...eye };
    const { edits, kept } = pulledEdits(session.page, after, lines, {
      ...{ settings: camera.pulled.settings, newId, follows: true },
    });
    // The camera itself is among both: once is enough.
    const others = edits.filter((edit) => edit.after?.id !== camera.id);
    session.commit(label, [...turned, ...others]);
    if (kept > 0) board.notice(keptInWords(kept));
  } catch (error) {
    if (!(error instanceof PageError)) throw error;
    board.notice(error.message);
  }
}

const keptInWords = (kept: number): string =>
  kept === 1
    ? 'One line was worked on since: it stays as it is.'
    : `${kept} lines were worked on since: they stay as they are.`;

export const setPoints = (board: Board, points: 1 | 2 | 3): Promise<void> =>
  turnCamera(board, `${points === 1 ? 'One point' : `${points} points`}`, (camera, page) =>
    withPoints(camera, points, pivotOf(page, camera), middleOfWindow(windowOf(page, camera))),
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
    seeingAll(camera, solidsOf(blocksOf(page, camera.setId)), windowOf(page, camera)),
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

// Lines.

/** Settings for lines on a page, from what was chosen: weights in mm become nibs like the one in hand. */
export function pullSettings(page: Page, choice: PullChoice): PullSettings {
  const px = (mm: number) => mmToPx(mm, page.size.ppi);
  const { color } = nibFor(page);
  const nib = (name: string, mm: number): Nib => ({
    ...{ name, size: Math.max(0.5, px(mm)), thinnest: 1, taperIn: 0, taperOut: 0, color },
  });
  const sorts = (['contour', 'crease', 'contact', 'mark', 'hidden'] as const).filter((sort) => choice[sort] > 0);
  return {
    nibs: Object.fromEntries(sorts.map((sort) => [sort, nib(NIB_NAMES[sort], choice[sort])])),
    crease: (choice.angle * Math.PI) / 180,
    fall: choice.fall / 100,
    over: px(choice.over),
    halo: px(choice.halo),
    dash: px(1.2),
  };
}

const NIB_NAMES = {
  contour: 'Contour',
  crease: 'Crease',
  contact: 'Contact',
  mark: 'Mark',
  hidden: 'Hidden line',
} as const;

async function pulled(board: Board, camera: CameraEntity, settings: PullSettings) {
  const { session, picture } = board;
  const { page } = session;
  const asked = {
    setId: camera.setId,
    camera: { eye: camera.eye, look: camera.look },
    settings,
    window: windowOf(page, camera),
  };
  setSets({ pulling: 0 });
  try {
    return await picture.besides.sets.pull(blocksOf(page, camera.setId), asked, (share) => setSets({ pulling: share }));
  } finally {
    setSets({ pulling: undefined });
  }
}

/** Pulls the lines that the camera in hand sees, onto an Ink layer of their own. */
export async function pullNow(board: Board): Promise<void> {
  const { session, notice } = board;
  const camera = cameraInHand(session.page);
  if (!camera || blocksOf(session.page, camera.setId).length === 0) return notice('Build something first.');
  const { pull } = useSets.getState();
  const settings = pullSettings(session.page, pull);
  if (Object.keys(settings.nibs).length === 0) return notice('Every sort of line is at 0 mm: give one a weight.');
  try {
    const lines = await pulled(board, camera, settings);
    const now = find(session.page, 'camera', camera.id);
    if (!lines || !now) return;
    if (lines.length === 0) return notice('Nothing of the set is seen from here.');
    const { edits, drawn, kept } = pulledEdits(session.page, now, lines, {
      ...{ settings, newId, follows: pull.follows, order: topOfStack(session.page) },
    });
    session.commit('Pull lines', edits);
    notice(`${drawn} lines were pulled.${kept > 0 ? ` ${keptInWords(kept)}` : ''}`);
  } catch (error) {
    notice(error instanceof Error ? error.message : 'The lines could not be pulled.');
  }
}

/** Takes up building. */
export function takeBlocks(): void {
  takeTool('blocks');
}
