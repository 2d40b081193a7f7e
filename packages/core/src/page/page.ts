import { generateKeyBetween, generateNKeysBetween } from 'fractional-indexing';
import type { EntityId } from '../kind';
import { isKind, type EntityKind, type EntityOf } from './kinds';
import { EntityMap } from './entityMap';
import { checkSize, sizeOf, type PageFormat, type PageSize } from './format';

/** A page as a value: its size and everything on it. Coordinates are page px, y down. */
export interface Page {
  readonly size: PageSize;
  readonly entities: EntityMap;
}

/** An empty page of a format on offer, or of any size in px. Throws a PageError for a size no page can have. */
export const newPage = (format: PageFormat | PageSize): Page => ({
  size: 'unit' in format ? sizeOf(format) : checkSize(format),
  entities: EntityMap.empty,
});

/** The entity of that id and kind, or nothing. */
export function find<K extends EntityKind>(page: Page, kind: K, id: EntityId): EntityOf<K> | undefined {
  const entity = page.entities.get(id);
  return entity && isKind(entity, kind) ? entity : undefined;
}

/** All entities of a kind, in no order. */
export const ofKind = <K extends EntityKind>(page: Page, kind: K): EntityOf<K>[] => page.entities.ofKind(kind);

interface Ordered {
  readonly id: EntityId;
  readonly order: string;
}

/** Lower comes first; equal keys are tied by id. Keys are compared as bytes, not by the words of a language. */
export function byOrder(a: Ordered, b: Ordered): number {
  if (a.order !== b.order) return a.order < b.order ? -1 : 1;
  return a.id < b.id ? -1 : a.id > b.id ? 1 : 0;
}

/** The key of something that goes above the key `below` (or to the very bottom) and below `above` (or to the top). */
export const orderBetween = (below: string | undefined, above: string | undefined): string =>
  generateKeyBetween(below ?? null, above ?? null);

/** `count` keys in rising order, above the key `below` and below `above`. */
export const ordersBetween = (below: string | undefined, above: string | undefined, count: number): string[] =>
  generateNKeysBetween(below ?? null, above ?? null, count);
