import { invert, then } from '../math';
import { mapStroke, type StrokeEntity } from '../stroke';
import { mapSpine } from '../curve';
import { ofKind, type Edit, type Page } from '../page';
import { laidWhere, type EntityId } from '../kind';

/**
 * What edits of lines of a symmetric set do to the other lines of it: those that still are images of what was edited change as
 * it did, under their own maps. `newId` names lines that come of pieces. Lines that are edited themselves are left to that.
 */
export function twinEdits(page: Page, set: EntityId, edits: readonly Edit[], newId: () => EntityId): Edit[] {
  const inSet = (entity: Edit['before']): entity is StrokeEntity =>
    entity?.kind === 'stroke' && entity.copy?.set === set;
  if (!edits.some(({ before, after }) => inSet(before) || inSet(after))) return [];
  const edited = new Set(edits.flatMap(({ before }) => (before ? [before.id] : [])));
  const twins = ofKind(page, 'stroke').filter((stroke) => inSet(stroke) && !edited.has(stroke.id));
  const maps = [...new Map(twins.map(({ copy }) => [String(copy?.matrix), copy?.matrix])).values()];
  return edits.flatMap(({ before, after }) => {
    if (inSet(before)) {
      return twins.flatMap((twin): Edit[] => {
        const map = between(before, twin);
        if (!map || !isMapped(before, twin, map)) return [];
        if (after === null) return [{ before: twin, after: null }];
        if (after.kind !== 'stroke') return [];
        const { copy } = twin;
        return [{ before: twin, after: { ...laidWhere(mapStroke(after, map), twin), ...(copy && { copy }) } }];
      });
    }
    if (before !== null || !inSet(after)) return [];
    return maps.flatMap((matrix): Edit[] => {
      if (!matrix || !after.copy || String(matrix) === String(after.copy.matrix)) return [];
      const map = then(invert(after.copy.matrix), matrix);
      return [{ before: null, after: { ...mapStroke(after, map), id: newId(), copy: { set, matrix } } }];
    });
  });
}

function between({ copy: from }: StrokeEntity, { copy: to }: StrokeEntity) {
  return from && to ? then(invert(from.matrix), to.matrix) : undefined;
}

/** Whether a line still is what a map makes of another. */
export function isMapped(drawn: StrokeEntity, twin: StrokeEntity, map: Parameters<typeof mapSpine>[1]): boolean {
  if (twin.spine.points.length !== drawn.spine.points.length) return false;
  const { points } = mapSpine(drawn.spine, map);
  return points.every((value, k) => Math.abs(value - twin.spine.points[k]) <= 1e-6 * (1 + Math.abs(value)));
}
