import { id, type Fields } from '../gate';
import type { LaidBase } from './kind';

/** Who something on a layer is, and where it lies. Throws a PageError that names the field, what it needs and what came. */
export const checkLaid = (fields: Fields): LaidBase => ({
  id: id(fields.id, 'id'),
  layerId: id(fields.layerId, 'layerId'),
  order: id(fields.order, 'order'),
});
