import { ChangeConflict, PageError, sameValue } from '../gate';
import type { EntityId } from '../kind';
import { limitOf, refsOf, type Entity, type KindLimit } from './kinds';
import type { Page } from './page';

export type ChangeId = string;

/** One entity before and after: null before is *added*, null after is *removed*. */
export interface Edit {
  readonly before: Entity | null;
  readonly after: Entity | null;
}

/** A step in the life of a page: what one gesture did, as a value that can be turned around. */
export interface Change {
  readonly id: ChangeId;
  /** Who did it; undo goes back through one's own changes. */
  readonly by: string;
  /** What it did, in words for the history: "Stroke", "Move the rough". */
  readonly label: string;
  /** When, in ms since 1970 by the clock of the one who did it. */
  readonly at: number;
  /** Entities that must exist when it is done, though it does not edit them. */
  readonly needs: readonly EntityId[];
  /** The change that this one takes back. */
  readonly undoes?: ChangeId;
  readonly edits: readonly Edit[];
}

/** A change that nobody has signed yet: whoever makes it says under which id, by whom and when. */
export const draftChange = (label: string, edits: readonly Edit[], needs: readonly EntityId[] = []): Change => ({
  id: 'draft',
  by: '',
  at: 0,
  label,
  needs,
  edits,
});

/** The id of the entity that an edit is about. Throws a PageError for an edit of nothing. */
export function editedId({ before, after }: Edit): EntityId {
  const id = after?.id ?? before?.id;
  if (id === undefined) throw new PageError('An edit needs an entity before it, after it, or both.');
  if (before && after && (before.id !== after.id || before.kind !== after.kind))
    throw new PageError('An edit cannot turn one entity into another.');
  return id;
}

/**
 * The page after the change. Throws a ChangeConflict, and leaves the page as it is, when an entity that the change adds is
 * there already, when one that it replaces or removes is not there or not the same, or when one that it needs is gone.
 */
export function applyChange(page: Page, change: Change): Page {
  const known = (id: EntityId) => page.entities.get(id) !== undefined || change.edits.some((e) => e.after?.id === id);
  for (const id of change.needs)
    if (!known(id)) throw new ChangeConflict(`"${change.label}" needs something that is no longer on the page.`, id);
  return { ...page, entities: applyEdits(page.entities, change.edits, change.label) };
}

function applyEdits(entities: Page['entities'], edits: readonly Edit[], label: string): Page['entities'] {
  const result = entities.edited(
    edits.map((edit) => [editedId(edit), edit.after] as const),
    (present, k) => checkEdit(present, edits[k], label),
  );
  for (const { kind, count, inWords } of limitedKinds(edits))
    if (result.countOf(kind) > Math.max(entities.countOf(kind), count)) throw new PageError(inWords);
  return result;
}

/** The kinds that edits add to of which a page may hold only so many. */
export function limitedKinds(edits: readonly Edit[]): readonly KindLimit[] {
  const added = new Set(edits.flatMap(({ before, after }) => (!before && after ? [after.kind] : [])));
  return [...added].flatMap((kind) => limitOf(kind) ?? []);
}

/**
 * What must be on a page for edits to be done there, or taken back, though they do not edit it: whatever their entities, before
 * and after, cannot lie there without.
 */
export function needsOf(edits: readonly Edit[]): EntityId[] {
  const needs = new Set<EntityId>();
  for (const { before, after } of edits)
    for (const entity of [before, after]) if (entity) for (const id of refsOf(entity).needs ?? []) needs.add(id);
  for (const edit of edits) needs.delete(editedId(edit));
  return [...needs];
}

/** Throws a ChangeConflict when an edit does not begin with what is there. */
function checkEdit(present: Entity | undefined, edit: Edit, label: string): void {
  const { before } = edit;
  if (!before && present)
    throw new ChangeConflict(`"${label}" adds something that is on the page already.`, present.id);
  if (before && !present)
    throw new ChangeConflict(`"${label}" changes something that is no longer on the page.`, before.id);
  if (before && present && !sameValue(before, present))
    throw new ChangeConflict(`"${label}" changes something that was changed since.`, before.id);
}

/** What the inverse needs of its own: who takes it back, when, and under which id. */
export type Signature = Pick<Change, 'id' | 'by' | 'at'>;

/** The change that takes `change` back: its edits turned around, last first. */
export function invertChange(change: Change, signature: Partial<Signature> = {}): Change {
  return {
    id: signature.id ?? `undo:${change.id}`,
    by: signature.by ?? change.by,
    at: signature.at ?? change.at,
    label: change.label,
    needs: change.needs,
    undoes: change.id,
    edits: change.edits.map(({ before, after }) => ({ before: after, after: before })).reverse(),
  };
}

/** Several edits of the same entities as one edit each; those that end where they began are left out. */
export function mergeEdits(edits: readonly Edit[]): Edit[] {
  const merged = new Map<EntityId, Edit>();
  for (const edit of edits) {
    const id = editedId(edit);
    const earlier = merged.get(id);
    merged.set(id, earlier ? { before: earlier.before, after: edit.after } : edit);
  }
  return [...merged.values()].filter(({ before, after }) => before !== after);
}

/** The edits that put pieces in the place of an entity: the first keeps its id, further ones get their own. */
export const replacedBy = <E extends Entity>(before: E, pieces: readonly E[], newId: () => EntityId): Edit[] => [
  { before, after: pieces[0] ?? null },
  ...pieces.slice(1).map((piece): Edit => ({ before: null, after: { ...piece, id: newId() } })),
];
