import { holdOf, isDrawn, mapped, type DrawnEntity } from '../drawn';
import { PageError } from '../gate';
import type { EntityId } from '../kind';
import { boxMiddle, boxOfFlat, projectiveOf, translation } from '../math';
import { STRIDE } from '../curve';
import type { GuideEntity } from '../guides';
import { find, ofKind, type Edit, type Page } from '../page';
import { begunAt, movedGuides } from './lying';
import { panelsOn } from './panels';

/**
 * Opens the room at a height of a page by page px, or closes it where that is below 0: panels that begin below move with all that lies in
 * them, and so does whatever lies in no panel and has its middle below, or its anchor where it is a guide. Throws a PageError where panels
 * would run into those above.
 */
export function stretchRoom(page: Page, height: number, by: number): Edit[] {
  const panels = panelsOn(page).map(({ id, ring }) => ({ id, box: boxOfFlat(ring.points, STRIDE) }));
  const below = new Set<EntityId>(panels.filter(({ box }) => box.minY >= height).map(({ id }) => id));
  const above = Math.max(...panels.filter(({ id }) => !below.has(id)).map(({ box }) => box.maxY), -Infinity);
  const top = Math.min(...panels.filter(({ id }) => below.has(id)).map(({ box }) => box.minY), Infinity);
  if (by < 0 && top + by < above && above <= top)
    throw new PageError('There is no more room to take away between these panels.');
  const before: DrawnEntity[] = [];
  for (const entity of page.entities)
    if (isDrawn(entity) && isBelow(page, entity, { height, below })) before.push(entity);
  if (before.length === 0) throw new PageError('Nothing lies below.');
  const map = projectiveOf(translation(0, by));
  const guides = ofKind(page, 'guide').filter((guide) => isBelow(page, guide, { height, below }));
  return [
    ...mapped(before, map, { scaleWidth: false }).map((after, k) => ({ before: before[k], after })),
    ...movedGuides(page, guides, map),
  ];
}

function isBelow(
  page: Page,
  entity: DrawnEntity | GuideEntity,
  { height, below }: { readonly height: number; readonly below: ReadonlySet<EntityId> },
): boolean {
  if (entity.kind === 'panel') return below.has(entity.id);
  const { panelId } = entity;
  if (panelId !== undefined && find(page, 'panel', panelId)) return below.has(panelId);
  return (entity.kind === 'guide' ? begunAt(entity) : boxMiddle(holdOf(entity))).y >= height;
}
