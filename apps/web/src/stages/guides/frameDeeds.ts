import { framePreset, turnFrame, type FramePreset, type FrameShape } from '@true-nib/core/guides';
import { PageError } from '@true-nib/core/gate';
import { framesOf } from '@true-nib/core/drawn';
import type { EntityId } from '@true-nib/core/kind';
import { inPanel, takeTool, type Board } from '../../board';
import { setGuides, newGuide, setDepth, useDepth, type FrameGuide } from '../../guiding';
import { sightedFrom } from './sighting';

/** Puts a frame on the page, takes it in hand and lets lines obey it. */
export function layFrame(
  { session }: Board,
  shape: FrameShape,
  label: string,
  name?: string,
  panelId?: EntityId,
): void {
  const guide = { ...newGuide(session.page, shape, name), ...inPanel(panelId) };
  session.commit(label, [{ before: null, after: guide }]);
  takeTool('depth');
  setDepth({ deed: 'frame' });
  setGuides({ guideId: guide.id, laying: undefined, guided: true });
}

export const layPreset = (board: Board, preset: FramePreset): void =>
  layFrame(board, framePreset(preset, board.session.page.size), `Make a frame: ${preset.name}`);

/** Makes a frame of the edges that were laid; where all of them lie in one panel, it goes along with that. */
export function keepSighted(board: Board): void {
  const { edges } = useDepth.getState();
  const { page } = board.session;
  const sighted = sightedFrom(edges, page);
  if (!('frame' in sighted)) return board.notice(sighted.missing);
  const panels = new Set(edges.flatMap(({ from, to }) => [from, to]).map((at) => framesOf(page).panelAt(at)?.id));
  const [panelId] = panels;
  layFrame(board, sighted.frame, 'Sight a frame', 'Sighted frame', panels.size === 1 ? panelId : undefined);
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
