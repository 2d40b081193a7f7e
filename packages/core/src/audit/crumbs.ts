import type { Frames } from '../drawn';
import { boxesMeet, boxMiddle } from '../math';
import { mmToPx, type Page } from '../page';
import type { Look, PressSettings } from './finding';

/** The longest side, mm as printed, of what is a speck. */
const SPECK_MM = 0.25;

/** A mark so small that it was hardly meant. */
export function speck(page: Page, { scale }: PressSettings): Look {
  const most = mmToPx(SPECK_MM, page.size.ppi) / scale;
  return ({ entity: { id, kind }, box }) => {
    if ((kind !== 'stroke' && kind !== 'area') || Math.max(box.maxX - box.minX, box.maxY - box.minY) > most)
      return undefined;
    return {
      ...{ id: `speck:${id}`, kind: 'speck', at: boxMiddle(box), mending: { as: 'drop', id } },
      words: 'A mark is so small that it may be a slip of the pen.',
    };
  };
}

/** What lies where nobody sees it: beside the page, or out of the panel that it was begun in. */
export function unseen(page: Page, frames: Frames): Look {
  const { width, height } = page.size;
  const whole = { minX: 0, minY: 0, maxX: width, maxY: height };
  return ({ entity, box }) => {
    const { id, kind } = entity;
    if (kind !== 'stroke' && kind !== 'area' && kind !== 'dots') return undefined;
    const isBeside = !boxesMeet(box, whole);
    if (!isBeside && frames.showsIn(entity, box)) return undefined;
    return {
      ...{ id: `unseen:${id}`, kind: 'unseen', at: boxMiddle(box), mending: { as: 'drop', id } },
      words: isBeside ? 'Something lies beside the page.' : 'Something lies out of its panel, where it is not seen.',
    };
  };
}
