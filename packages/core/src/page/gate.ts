import { ENTITY_LIMITS, id, list, number, PageError, record, text } from '../gate';
import { editedId, type Change, type Edit } from './change';
import { checkEntity } from './kinds';

/** The change in `value`, checked like its entities. */
export function checkChange(value: unknown): Change {
  const fields = record(value, 'A change');
  const edits = list(fields.edits, 'edits', ENTITY_LIMITS.edits).map(checkEdit);
  if (edits.length === 0) throw new PageError('A change needs at least one edit.');
  const at = number(fields.at, 'at', 0, 1e15);
  const needs = list(fields.needs ?? [], 'needs', ENTITY_LIMITS.needs).map((need) => id(need, 'needs'));
  const change = {
    id: id(fields.id, 'id'),
    by: id(fields.by, 'by'),
    label: text(fields.label, 'label'),
    at,
    needs,
    edits,
  };
  return fields.undoes === undefined ? change : { ...change, undoes: id(fields.undoes, 'undoes') };
}

function checkEdit(value: unknown): Edit {
  const fields = record(value, 'An edit');
  const side = (entity: unknown) => (entity === null || entity === undefined ? null : checkEntity(entity));
  const edit: Edit = { before: side(fields.before), after: side(fields.after) };
  editedId(edit);
  return edit;
}
