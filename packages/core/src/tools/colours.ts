import { coloured, colourOf, isDrawn, type DrawnEntity } from '../drawn';
import type { EntityId } from '../kind';
import { draftChange, ofKind, type Change, type ColourEntity, type Edit, type Entity, type Page } from '../page';

/** A colour of a page: how many things have it, and what it is called. */
export interface PageColour {
  readonly color: string;
  readonly count: number;
  readonly name?: string;
}

/** How many lines and areas have each colour. */
export type ColourCounts = Map<string, number>;

/** Counts something in, or by −1 out again. */
export function countColour(counts: ColourCounts, entity: Entity | null, by: 1 | -1): void {
  const color = isDrawn(entity) ? colourOf(entity) : undefined;
  if (color === undefined) return;
  const count = (counts.get(color) ?? 0) + by;
  if (count === 0) counts.delete(color);
  else counts.set(color, count);
}

/** The colours of a page, those that most have first, with those that were named and are in use no more. */
export function coloursOf(page: Page, counts: ColourCounts): PageColour[] {
  const names = new Map(ofKind(page, 'colour').map(({ color, name }) => [color, name]));
  const all = new Set([...counts.keys(), ...names.keys()]);
  return [...all]
    .map((color): PageColour => {
      const name = names.get(color);
      return { color, count: counts.get(color) ?? 0, ...(name !== undefined && { name }) };
    })
    .sort((one, other) => other.count - one.count || (one.color < other.color ? -1 : 1));
}

/** Edits that give things another colour; none for those that have it. */
export const colouring = (entities: Iterable<DrawnEntity>, color: string): Edit[] =>
  [...entities].flatMap((before): Edit[] => {
    const after = coloured(before, color);
    return after === before ? [] : [{ before, after }];
  });

/** Gives all of one colour on a page another; its name goes along, unless the other has one. */
export function changeColour(page: Page, from: string, to: string): Change {
  const all = [...page.entities].filter(isDrawn).filter((entity) => colourOf(entity) === from);
  const named = namedAs(page, from);
  const isTaken = namedAs(page, to) !== undefined;
  const renamed: Edit[] =
    named && from !== to ? [{ before: named, after: isTaken ? null : { ...named, color: to } }] : [];
  return draftChange('Change a colour everywhere', [...colouring(all, to), ...renamed]);
}

/** Calls a colour of a page something; an empty name takes its name away. */
export function nameColour(page: Page, color: string, name: string, newId: () => EntityId): Change {
  const before = namedAs(page, color) ?? null;
  const wanted = name.trim();
  const after: ColourEntity | null =
    wanted === '' ? null : { kind: 'colour', id: before?.id ?? newId(), color, name: wanted };
  return draftChange('Name a colour', before || after ? [{ before, after }] : []);
}

const namedAs = (page: Page, color: string): ColourEntity | undefined =>
  ofKind(page, 'colour').find((named) => named.color === color);
