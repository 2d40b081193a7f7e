import { areaWithin } from '@true-nib/core/area';
import { mapSpine, STRIDE } from '@true-nib/core/curve';
import { boxOfFlat, chain, emptyBox, translation, uniteBoxes, type Point } from '@true-nib/core/math';
import { templateById, thingsWithCopies } from '../../guiding';
import { layDown } from '../../hand';
import { refuse, type Board, type Gesture, type Press } from '../../board';
import { filledLayer, FILLING_IN_WORDS, fillOf, type FillingTool } from './filling';
import { useBlacks } from './blackStore';

/** Page px that a dragged box has at least. */
const LEAST = 1;

/** Drags a template out into a box, filled; it keeps its proportions unless Shift is held. */
export function beginTemplate(board: Board, tool: FillingTool, press: Press): Gesture {
  const { picture, session, notice } = board;
  const target = filledLayer(board);
  if (typeof target === 'string') return refuse(notice, target);
  const template = templateById(useBlacks.getState().templateId);
  if (!template) return refuse(notice, 'Choose a template first.');
  const { layer } = target;
  const fill = fillOf(tool, board);
  const box = template.rings.reduce((all, { points }) => uniteBoxes(all, boxOfFlat(points, STRIDE)), emptyBox);
  let to: Point | undefined;
  const made = () => {
    if (!to) return undefined;
    const wide = (to.x - press.at.x) / (box.maxX - box.minX);
    const high = (to.y - press.at.y) / (box.maxY - box.minY);
    const even = Math.max(Math.abs(wide), Math.abs(high));
    const [sx, sy] = press.modifiers().shiftKey ? [wide, high] : [even * sign(wide), even * sign(high)];
    const size = Math.min(Math.abs(sx) * (box.maxX - box.minX), Math.abs(sy) * (box.maxY - box.minY));
    if (!(size > LEAST)) return undefined;
    const map = chain(translation(-box.minX, -box.minY), [sx, 0, 0, sy, 0, 0], translation(press.at.x, press.at.y));
    return areaWithin(
      template.rings.map((ring) => mapSpine(ring, map)),
      fill,
    );
  };
  return {
    move(samples) {
      to = samples.at(-1) ?? to;
      const area = made();
      picture.showThings(area ? thingsWithCopies(session.page, layer.id, [area]) : [], layer.id);
    },
    end() {
      const area = made();
      if (area) return layDown(board, target, FILLING_IN_WORDS[tool], [area]);
      picture.endLive();
      notice('Drag the template out.');
    },
    cancel: () => picture.endLive(),
  };
}

const sign = (value: number): number => (value < 0 ? -1 : 1);
