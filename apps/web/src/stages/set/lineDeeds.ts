import { find, mmToPx, type Page } from '@true-nib/core/page';
import type { AreaFill } from '@true-nib/core/area';
import type { Nib } from '@true-nib/core/nib';
import { Touching, type CameraEntity, type PullSettings, type SetEntity } from '@true-nib/core/set';
import { blocksOf, layMarks, pulledEdits, toneEdits, windowOf } from '@true-nib/core/staging';
import { nodeInHand, underBorders, useDesk, type Board } from '../../board';
import { keptInWords } from '../../hand';
import { nibFor } from '../../nibs';
import { selectionSlot } from '../../select';
import { newId } from '../../session';
import { cameraInHand, setInHand, standingOn } from './inHand';
import { setSets, useSets, type PullChoice } from './setStore';
import { lightOf } from './setView';

/** Settings for lines on a page, from what was chosen: weights in mm become nibs like the one in hand. */
export function pullSettings(page: Page, choice: PullChoice): PullSettings {
  const px = (mm: number) => mmToPx(mm, page.size.ppi);
  const inHand = nibFor(page);
  const even: Nib = { name: '', size: 1, thinnest: 1, taperIn: 0, taperOut: 0, color: inHand.color };
  const nib = (name: string, mm: number): Nib => ({
    ...(choice.inHand ? inHand : even),
    ...{ name, size: Math.max(0.5, px(mm)) },
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

/** The lines that a camera sees, worked out beside the main thread; nothing where others were asked for meanwhile. */
export async function pulled(board: Board, camera: CameraEntity, settings: PullSettings) {
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
      ...{ settings, newId, follows: pull.follows, order: underBorders(session.page) },
    });
    const inHand = nodeInHand(board)?.layer.id;
    session.commit('Pull lines', edits);
    // Whoever inked on goes on where he was.
    useDesk.setState({ layerId: inHand });
    notice(`${drawn} lines were pulled.${kept > 0 ? ` ${keptInWords(kept)}` : ''}`);
  } catch (error) {
    notice(error instanceof Error ? error.message : 'The lines could not be pulled.');
  }
}

/** Lays tones on the faces that the light of the set leaves dark, as areas under the lines. */
export async function toneNow(board: Board): Promise<void> {
  const { session, picture, notice } = board;
  const camera = cameraInHand(session.page);
  const set = camera && find(session.page, 'set', camera.setId);
  if (!camera || !set) return notice('Build something first.');
  const { share, dark } = useSets.getState().tone;
  const asked = {
    ...{ setId: set.id, camera: { eye: camera.eye, look: camera.look } },
    window: windowOf(session.page, camera),
  };
  setSets({ pulling: 0 });
  try {
    const light = { from: lightOf(set), most: dark / 100 };
    const blocks = blocksOf(session.page, set.id);
    const rings = await picture.besides.sets.shade(blocks, asked, light, (done) => setSets({ pulling: done }));
    if (!rings) return;
    if (rings.length === 0) return notice('The light leaves no face dark that is seen from here: turn it.');
    const { ppi } = session.page.size;
    const { color } = nibFor(session.page);
    const fill: AreaFill = {
      ...{ as: 'tone' as const, color, screen: 'dots' as const, period: ppi / LINES_PER_INCH, angle: Math.PI / 4 },
      ...{ at: { x: 0, y: 0 }, share: share / 100 },
    };
    const edits = toneEdits(session.page, camera, rings, { fill, newId, order: underBorders(session.page) });
    session.commit('Tone the dark faces', edits);
  } catch (error) {
    notice(error instanceof Error ? error.message : 'The tones could not be laid.');
  } finally {
    setSets({ pulling: undefined });
  }
}

const LINES_PER_INCH = 42;

/** Turns the light of the set in hand. */
export function setLight({ session }: Board, light: Partial<SetEntity['light']>): void {
  const before = setInHand(session.page);
  if (before)
    session.commit('Turn the light', [{ before, after: { ...before, light: { ...before.light, ...light } } }]);
}

/** Lays the selected lines on the faces under them. */
export function markFaces(board: Board): void {
  const { session } = board;
  const camera = cameraInHand(session.page);
  if (!camera) return;
  const touching = new Touching(standingOn(board, blocksOf(session.page, camera.setId)), camera);
  session.attempt((page) => layMarks(page, camera, board.of(selectionSlot).strokes, touching));
}
