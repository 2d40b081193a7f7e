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
export const lyingIn = (page: Page, panelIds: ReadonlySet<EntityId>): InPanel[] =>
  [...page.entities].filter(
    (entity): entity is InPanel => canLieIn(entity) && entity.panelId !== undefined && panelIds.has(entity.panelId),
  );

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
  panelIds: readonly EntityId[],
  map: Matrix3x3,
  { alone = false, ...options }: MapOptions & { readonly alone?: boolean },
): Edit[] {
  const panels = panelIds.flatMap((id) => find(page, 'panel', id) ?? []);
  const inside = alone ? [] : lyingIn(page, new Set(panelIds));
  const before: DrawnEntity[] = [...panels, ...inside.filter(isDrawn)];
  const guides = inside.filter((one): one is GuideEntity => one.kind === 'guide');
  return [
    ...mapped(before, map, options).map((after, k) => ({ before: before[k], after })),
    ...movedGuides(page, guides, map),
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
