import { selectionSlot } from './selection';
import { reversed, weighed, withNib, type WeightDeed } from '@true-nib/core/mend';
import { find, replacedBy, type Edit } from '@true-nib/core/page';
import { colouring, leftEdits } from '@true-nib/core/tools';
import type { StrokeEntity } from '@true-nib/core/stroke';
import { say } from '../look';
import { newId } from '../session';
import type { Board } from '../board';
import { reachedLayers } from '../hand';
import { nibFor } from '../nibs';
import { HandSamples } from './handSamples';

/** The selected lines, when they may be changed; says why not otherwise. */
function selectedLines({ session, of }: Board): readonly StrokeEntity[] {
  const selection = of(selectionSlot);
  if (!selection.keep(true)) return [];
  const reached = reachedLayers(session.page, 'layer');
  if (typeof reached === 'string') {
    say(reached);
    return [];
  }
  const { strokes } = selection;
  if (strokes.length === 0) say('Select some lines first.');
  return strokes;
}

/** Changes all selected lines at once; one that becomes several keeps its id with the first of them. */
export function changeSelected(
  board: Board,
  label: string,
  change: (stroke: StrokeEntity) => readonly StrokeEntity[],
): void {
  const strokes = selectedLines(board);
  const edits = strokes.flatMap((before): Edit[] => {
    const after = change(before);
    return after.length === 1 && after[0] === before ? [] : replacedBy(before, after, newId);
  });
  board.session.commit(label, edits);
}

/** Shows the selected lines with another weight, until it is settled. */
export function showWeighed(board: Board, deed: WeightDeed): void {
  const { picture, session } = board;
  const selection = board.of(selectionSlot);
  picture.preview(
    selection.strokes.map((stroke) => {
      const kept = find(session.page, 'stroke', stroke.id) ?? stroke;
      return { before: find(picture.shownPage, 'stroke', stroke.id) ?? kept, after: weighed(kept, deed) };
    }),
  );
}

export const weighSelected = (board: Board, label: string, deed: WeightDeed): void =>
  changeSelected(board, label, (stroke) => [weighed(stroke, deed)]);

/** Gives the selected lines the nib in hand, from their samples where they have them; their colour stays. */
export function renibSelected(board: Board): void {
  const { session } = board;
  const nib = nibFor(session.page);
  const samples = new HandSamples(() => session.page);
  changeSelected(board, `Draw with ${nib.name}`, (stroke) => [
    withNib(stroke, { ...nib, color: stroke.nib.color }, samples.of(stroke)),
  ]);
}

/** Gives all that is selected the colour in hand. */
export function recolourSelected(board: Board): void {
  const selection = board.of(selectionSlot);
  if (!selection.keep(true)) return;
  const reached = reachedLayers(board.session.page, 'layer');
  if (typeof reached === 'string') return say(reached);
  const edits = colouring(selection.entities, nibFor(board.session.page).color);
  board.session.commit(edits.length === 1 ? 'Colour' : `Colour ${edits.length} things`, edits);
}

export const reverseSelected = (board: Board): void =>
  changeSelected(board, 'Reverse lines', (stroke) => [reversed(stroke)]);

/** Makes areas of the selected lines: their ink stays as it is. */
export function linesToAreas(board: Board): void {
  const { picture, session, of } = board;
  const ids = selectedLines(board).map(({ id }) => id);
  if (ids.length === 0) return;
  const work = async () => {
    const areas = await picture.inks.beside.inkAreas(ids);
    const edits = leftEdits(session.page, areas, newId);
    if (!session.commit('Lines to areas', edits)) return;
    const made = edits.flatMap(({ after }) => (after?.kind === 'area' ? [after] : []));
    if (made.length > 0) of(selectionSlot).choose(made, made[0].layerId, 'instead');
  };
  session.waitFor(work());
}
