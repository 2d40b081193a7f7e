import { EntityMap, type Change, type ChangeHeader, type Page } from '@true-nib/core/page';
import type { PageCard } from '../api';
import type { PartsListener, Transport } from './transport';

/** A page and its journal as of one revision. */
export interface Loaded {
  readonly card: PageCard;
  readonly page: Page;
  readonly headers: readonly ChangeHeader[];
}

/** Loads a page and its journal as of the same revision, though they are asked for side by side. */
export async function loadWhole(transport: Transport, pageId: string, onParts?: PartsListener): Promise<Loaded> {
  const [{ card, entities }, early] = await Promise.all([transport.load(pageId, onParts), transport.headers(pageId)]);
  const { revision, width, height, ppi } = card;
  // Each change is one revision. What was saved between the two answers is news like any other.
  const headers = early.length < revision ? await transport.headers(pageId) : early;
  const page = { size: { width, height, ppi }, entities: EntityMap.of(entities) };
  return { card, page, headers: headers.slice(0, revision) };
}

export const headerOf = ({ id, by, label, undoes }: Change): ChangeHeader =>
  undoes === undefined ? { id, by, label } : { id, by, label, undoes };
