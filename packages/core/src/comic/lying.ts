import { anchorOf, shiftedShape, type GuideEntity } from '../guides';
import { hangingEdits } from '../tethers';
import { holdOf, isDrawn, mapped, type DrawnEntity, type MapOptions } from '../drawn';
import type { EntityId } from '../kind';
import { applyProjective, boxMiddle, type Matrix3x3, type Point } from '../math';
import { editedId, find, isLaid, mergeEdits, type Edit, type Entity, type LaidEntity, type Page } from '../page';

/** What can lie in a panel: all that is laid on layers, and guides. */
export type InPanel = LaidEntity | GuideEntity;

const canLieIn = (entity: Entity): entity is InPanel => isLaid(entity) || entity.kind === 'guide';

/** All that was begun in some panels, in no order. */
export const lyingIn = (page: Page, panels: ReadonlySet<EntityId>): InPanel[] =>
  [...page.entities].filter(
    (entity): entity is InPanel => canLieIn(entity) && entity.panelId !== undefined && panels.has(entity.panelId),
  );

const panelIds = (entities: readonly { readonly kind: string; readonly id: EntityId }[]): ReadonlySet<EntityId> =>
  new Set(entities.flatMap(({ kind, id }) => (kind === 'panel' ? [id] : [])));

/** Things of a page with all that is drawn in those of them that are panels. */
export function withInside(page: Page, entities: readonly DrawnEntity[]): readonly DrawnEntity[] {
  const panels = panelIds(entities);
  if (panels.size === 0) return entities;
  return [...new Set([...entities, ...lyingIn(page, panels).filter(isDrawn)])];
}

/** Edits that bring the guides of panels where a map takes them. */
export function guidesAlong(page: Page, entities: readonly DrawnEntity[], map: Matrix3x3): Edit[] {
  const panels = panelIds(entities);
  return panels.size === 0 ? [] : movedGuides(page, lyingIn(page, panels).filter(isGuide), map);
}

const isGuide = (one: InPanel): one is GuideEntity => one.kind === 'guide';

/** Where something counts as begun: a line where its first node lies, a guide at its anchor, anything else about its middle. */
export function begunAt(entity: DrawnEntity | GuideEntity): Point {
  if (entity.kind === 'guide') return anchorOf(entity.shape);
  if (entity.kind !== 'stroke') return boxMiddle(holdOf(entity));
  const [x, y] = entity.spine.points;
  return { x, y };
}

/** Something as begun in a panel, or in none. */
export function putIn<E extends InPanel>(entity: E, panelId: EntityId | undefined): E {
  const { panelId: _before, ...free } = entity;
  // All but the panel is as it was.
  return (panelId === undefined ? free : { ...free, panelId }) as E;
}

/** Edits that put things into a panel, or let them out of theirs; those that are there already are left out. */
export const putInEdits = (entities: Iterable<InPanel>, panelId: EntityId | undefined): Edit[] =>
  [...entities].flatMap((before) =>
    before.panelId === panelId || before.kind === 'panel' ? [] : [{ before, after: putIn(before, panelId) }],
  );

/**
 * Panels of a page under a map, with all that lies in them, or without. Guides go where their anchors go; they are neither turned nor
 * sized. Throws a PageError as `mapped` does.
 */
export function movePanels(
  page: Page,
  ids: readonly EntityId[],
  map: Matrix3x3,
  { alone = false, ...options }: MapOptions & { readonly alone?: boolean },
): Edit[] {
  const panels = ids.flatMap((id) => find(page, 'panel', id) ?? []);
  const before = alone ? panels : withInside(page, panels);
  return [
    ...mapped(before, map, options).map((after, k) => ({ before: before[k], after })),
    ...(alone ? [] : guidesAlong(page, panels, map)),
  ];
}

/** Edits that bring guides where a map takes their anchors, with those that hang on them. */
export function movedGuides(page: Page, guides: readonly GuideEntity[], map: Matrix3x3): Edit[] {
  const own = guides.map(({ id }) => id);
  const edits = guides.flatMap((guide): Edit[] => {
    const from = anchorOf(guide.shape);
    const to = applyProjective(map, from.x, from.y);
    const shape = shiftedShape(guide.shape, to.x - from.x, to.y - from.y);
    const hanging = hangingEdits(page, guide, shape, 'carried').filter((edit) => !own.includes(editedId(edit)));
    return [{ before: guide, after: { ...guide, shape } }, ...hanging];
  });
  return mergeEdits(edits);
}
