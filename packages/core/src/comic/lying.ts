import { holdOf, isDrawn, mapped, type DrawnEntity, type MapOptions } from '../drawn';
import type { EntityId } from '../kind';
import { boxMiddle, type Matrix3x3, type Point } from '../math';
import { find, isLaid, type Edit, type LaidEntity, type Page } from '../page';

/** All that was begun in some panels, in no order. */
export const lyingIn = (page: Page, panelIds: ReadonlySet<EntityId>): LaidEntity[] =>
  [...page.entities].filter(
    (entity): entity is LaidEntity => isLaid(entity) && entity.panelId !== undefined && panelIds.has(entity.panelId),
  );

/** Where something counts as begun: a line where its first node lies, anything else about its middle. */
export function begunAt(entity: DrawnEntity): Point {
  if (entity.kind !== 'stroke') return boxMiddle(holdOf(entity));
  const [x, y] = entity.spine.points;
  return { x, y };
}

/** Something that lies on a layer as begun in a panel, or in none. */
export function putIn<E extends LaidEntity>(entity: E, panelId: EntityId | undefined): E {
  const { panelId: _before, ...free } = entity;
  // All but the panel is as it was.
  return (panelId === undefined ? free : { ...free, panelId }) as E;
}

/** Edits that put things into a panel, or let them out of theirs; those that are there already are left out. */
export const putInEdits = (entities: Iterable<LaidEntity>, panelId: EntityId | undefined): Edit[] =>
  [...entities].flatMap((before) =>
    before.panelId === panelId || before.kind === 'panel' ? [] : [{ before, after: putIn(before, panelId) }],
  );

/** Panels of a page under a map, with all that lies in them, or without. Throws a PageError as `mapped` does. */
export function movePanels(
  page: Page,
  panelIds: readonly EntityId[],
  map: Matrix3x3,
  { alone = false, ...options }: MapOptions & { readonly alone?: boolean },
): Edit[] {
  const panels = panelIds.flatMap((id) => find(page, 'panel', id) ?? []);
  const inside = alone ? [] : lyingIn(page, new Set(panelIds)).filter(isDrawn);
  const before: DrawnEntity[] = [...panels, ...inside];
  return mapped(before, map, options).map((after, k) => ({ before: before[k], after }));
}
