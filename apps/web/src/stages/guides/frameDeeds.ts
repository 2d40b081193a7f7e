import { framePreset, turnFrame, type FramePreset, type FrameShape } from '@true-nib/core/guides';
import { PageError } from '@true-nib/core/gate';
import { takeTool, type Board } from '../../board';
import { setGuides, newGuide, setDepth, useDepth, type FrameGuide } from '../../guiding';
import { sightedFrom } from './sighting';

/** Puts a frame on the page, takes it in hand and lets lines obey it. */
export function layFrame({ session }: Board, shape: FrameShape, label: string, name?: string): void {
  const guide = newGuide(session.page, shape, name);
  session.commit(label, [{ before: null, after: guide }]);
  takeTool('depth');
  setDepth({ deed: 'frame' });
  setGuides({ guideId: guide.id, laying: undefined, guided: true });
}

export const layPreset = (board: Board, preset: FramePreset): void =>
  layFrame(board, framePreset(preset, board.session.page.size), `Make a frame: ${preset.name}`);

/** Makes a frame of the edges that were laid. */
export function keepSighted(board: Board): void {
  const sighted = sightedFrom(useDepth.getState().edges, board.session.page);
  if (!('frame' in sighted)) return board.notice(sighted.missing);
  layFrame(board, sighted.frame, 'Sight a frame', 'Sighted frame');
  setDepth({ edges: [] });
}

/** A second box turned on the same horizon, seen by the same camera: a frame of its own. */
export function sameCamera(board: Board, { shape, name }: FrameGuide, degrees: number): void {
  try {
    layFrame(
      board,
      turnFrame(shape, (degrees * Math.PI) / 180, board.session.page.size),
      'Turn a second box',
      `${name}, turned`,
    );
  } catch (error) {
    if (!(error instanceof PageError)) throw error;
    board.notice(error.message);
  }
}
