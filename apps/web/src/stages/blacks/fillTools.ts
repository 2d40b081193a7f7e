import { areaWithin } from '@true-nib/core/area';
import { isInHand, toolInHand, type Board, type Gesture, type PageSlot, type Press } from '../../board';
import { beginShape, type Built, PathTool, useShapeChoice } from '../ink';
import { useBlacks } from './blackStore';
import { FILLING_IN_WORDS, fillOf, filledLayer, type FillingTool } from './filling';
import { beginContour, beginLoop } from './loopHand';
import { beginTemplate } from './templateHand';

const fillingInHand = (board: Board): FillingTool => (toolInHand(board.desk()) === 'nick' ? 'nick' : 'blot');

const isByPath = (): boolean => {
  const { by } = useBlacks.getState();
  return by === 'path' || (by === 'shape' && useShapeChoice.getState().shape === 'poly-line');
};

/** Outlines of blots and nicks, built node by node. */
const OUTLINES: Built = {
  isInHand: (desk) => (isInHand(desk, 'blot') || isInHand(desk, 'nick')) && isByPath(),
  isPoly: () => useBlacks.getState().by === 'shape',
  make: (board, course) => areaWithin([course], fillOf(fillingInHand(board), board)),
  label: (board) => FILLING_IN_WORDS[fillingInHand(board)],
};

/** The outline that is being built on the open page. */
export const outlineSlot: PageSlot<PathTool> = { open: (board) => new PathTool(board, OUTLINES) };

/** Begins a blot or a nick, by the outline that is chosen. */
export function beginFilling(board: Board, tool: FillingTool, press: Press): Gesture {
  const { by, hasContour } = useBlacks.getState();
  switch (by) {
    case 'loop':
      return tool === 'blot' && hasContour ? beginContour(board) : beginLoop(board, tool, press);
    case 'path':
      return board.of(outlineSlot).begin(press.at, press.modifiers);
    case 'template':
      return beginTemplate(board, tool, press);
    case 'shape': {
      const { shape } = useShapeChoice.getState();
      if (shape === 'poly-line') return board.of(outlineSlot).begin(press.at, press.modifiers);
      const fill = fillOf(tool, board);
      const made = {
        label: FILLING_IN_WORDS[tool],
        make: (course: Parameters<Built['make']>[1]) => areaWithin([course], fill),
      };
      // What its layer says is asked before anything is dragged.
      return typeof filledLayer(board) === 'string'
        ? beginLoop(board, tool, press)
        : beginShape(board, shape, press, { made });
    }
  }
}
