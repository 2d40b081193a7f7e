import type { EntityId } from '../kind';
import { byOrder, draftChange, ordersBetween, type Change, type LaidEntity, type Page } from '../page';
import { balloonsOn, letteringIn, letteringOn } from './balloons';
import { panelsOn } from './panels';

/** Where things go among those of their sort. */
export type StackEnd = 'front' | 'back';

const WORDS = { front: 'to the front', back: 'to the back' } as const;

/** Puts some of things over all the others, or under them; among themselves they lie as they did. */
function restacked(what: string, all: readonly LaidEntity[], ids: ReadonlySet<EntityId>, end: StackEnd): Change {
  const sorted = [...all].sort(byOrder);
  const moved = sorted.filter(({ id }) => ids.has(id));
  const others = sorted.filter(({ id }) => !ids.has(id));
  const [below, above] = end === 'front' ? [others.at(-1)?.order, undefined] : [undefined, others.at(0)?.order];
  const orders = ordersBetween(below, above, moved.length);
  return draftChange(
    `${what} ${WORDS[end]}`,
    moved.map((before, k) => ({ before, after: { ...before, order: orders[k] } })),
  );
}

export const restackPanels = (page: Page, ids: readonly EntityId[], end: StackEnd): Change =>
  restacked(ids.length === 1 ? 'Panel' : 'Panels', panelsOn(page), new Set(ids), end);

/** Balloons go with their texts. */
export const restackLetters = (page: Page, ids: readonly EntityId[], end: StackEnd): Change =>
  restacked(
    'Lettering',
    [...balloonsOn(page), ...letteringOn(page)],
    new Set(ids.flatMap((id) => [id, ...letteringIn(page, id).map((text) => text.id)])),
    end,
  );
