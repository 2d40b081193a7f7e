import { framesOf } from '@true-nib/core/drawn';
import { begunAt, putInEdits } from '@true-nib/core/comic';
import { isLaid, type Edit } from '@true-nib/core/page';
import { useDesk, type Board, type Command, type HoldCommand } from '../../board';
import { say } from '../../look';
import { selectionSlot } from '../../select';

const turn = (): void => void useDesk.setState(({ overBorders }) => ({ overBorders: !overBorders }));

/** Changes in which panel what is selected lies: each by itself. */
function changeSelected(board: Board, label: string, edit: (chosen: Board['session']['page']) => Edit[]): void {
  const selection = board.of(selectionSlot);
  if (!selection.keep(true)) return;
  if (selection.entities.length === 0) return say('Select some lines first.');
  const edits = edit(board.session.page);
  if (edits.length === 0) return say('They are there already.');
  board.session.commit(label, edits);
}

const chosenIn = (board: Board) => board.of(selectionSlot).entities.filter(isLaid);

/** What is selected goes over the borders of panels. */
const letOut = (board: Board): void =>
  changeSelected(board, 'Let out of the panel', () => putInEdits(chosenIn(board), undefined));

/** What is selected stays in the panel that it begins in. */
const putIn = (board: Board): void =>
  changeSelected(board, 'Put into the panel', (page) => {
    const frames = framesOf(page);
    return chosenIn(board).flatMap((entity) => putInEdits([entity], frames.panelAt(begunAt(entity))?.id));
  });

/** Whether ink stays in its panel: for what is drawn next, and for what is selected. */
export const overBordersCommands: readonly Command[] = [
  { id: 'over-borders', label: 'Over the borders of panels, or not', room: 'Draw', run: turn },
  { id: 'let-out', label: 'Let what is selected out of its panel', room: 'Select', run: letOut },
  { id: 'put-in', label: 'Put what is selected into its panel', room: 'Select', run: putIn },
];

export const overBordersHold: HoldCommand = {
  id: 'this-over-borders',
  label: 'Just this line over borders',
  room: 'Draw',
  key: 'Shift+Backquote',
  hold: turn,
};
