import { framesOf, markBox, type DrawnEntity } from '../drawn';
import { boxesMeet, boxMiddle } from '../math';
import { mmToPx, type Page } from '../page';
import type { Finding, PressSettings } from './finding';

/** The longest side, mm as printed, of what is a speck. */
const SPECK_MM = 0.25;

/** Marks so small that they were hardly meant. */
export function* specks(page: Page, drawn: readonly DrawnEntity[], { scale }: PressSettings): Generator<Finding> {
  const most = mmToPx(SPECK_MM, page.size.ppi) / scale;
  for (const entity of drawn) {
    if (entity.kind !== 'stroke' && entity.kind !== 'area') continue;
    const { minX, minY, maxX, maxY } = markBox(entity);
    if (Math.max(maxX - minX, maxY - minY) > most) continue;
    yield {
      ...{
        id: `speck:${entity.id}`,
        kind: 'speck',
        at: boxMiddle(markBox(entity)),
        mending: { as: 'drop', id: entity.id },
      },
      words: 'A mark is so small that it may be a slip of the pen.',
    };
  }
}

/** What lies where nobody sees it: beside the page, or out of the panel that it was begun in. */
export function* unseen(page: Page, drawn: readonly DrawnEntity[]): Generator<Finding> {
  const { width, height } = page.size;
  const whole = { minX: 0, minY: 0, maxX: width, maxY: height };
  const frames = framesOf(page);
  for (const entity of drawn) {
    if (entity.kind !== 'stroke' && entity.kind !== 'area' && entity.kind !== 'dots') continue;
    const box = markBox(entity);
    const isBeside = !boxesMeet(box, whole);
    if (!isBeside && frames.showsIn(entity, box)) continue;
    yield {
      ...{ id: `unseen:${entity.id}`, kind: 'unseen', at: boxMiddle(box) },
      words: isBeside ? 'Something lies beside the page.' : 'Something lies out of its panel, where it is not seen.',
      mending: { as: 'drop', id: entity.id },
    };
  }
}
