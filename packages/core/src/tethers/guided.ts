import { identity } from '../math';
import { mapStroke, type StrokeEntity } from '../stroke';
import { ofKind, type Edit, type Page } from '../page';
import { laidWhere, type EntityId } from '../kind';
import { isMapped } from './twins';

// The lines of a page that were drawn on guides, and what their symmetric copies do when they are moved.

export interface StrokeEdit {
  readonly before: StrokeEntity;
  readonly after: StrokeEntity;
}

/** The lines of a page that know a guide: looked for once, since a drag asks at every event. */
const guided = new WeakMap<Page['entities'], readonly StrokeEntity[]>();

export function guidedStrokes(page: Page): readonly StrokeEntity[] {
  const known = guided.get(page.entities);
  if (known) return known;
  const found = ofKind(page, 'stroke').filter(({ guide }) => guide !== undefined);
  guided.set(page.entities, found);
  return found;
}

/** Copies of a symmetric set do not obey the guide themselves: they follow the one that does. */
export const isHandDrawn = ({ copy }: StrokeEntity): boolean =>
  !copy || copy.matrix.every((value, k) => value === identity[k]);

function twins(strokes: readonly StrokeEntity[], before: StrokeEntity, after: StrokeEntity): Edit[] {
  const { copy } = before;
  if (!copy) return [];
  return strokes.flatMap((twin) => {
    if (twin === before || twin.copy?.set !== copy.set || !isImage(twin, before)) return [];
    const { copy: own } = twin;
    return [{ before: twin, after: { ...laidWhere(mapStroke(after, own.matrix), twin), copy: own } }];
  });
}

/** Whether a line of a set still is what its map makes of the one that was drawn. */
export function isImage(twin: StrokeEntity, drawn: StrokeEntity): boolean {
  return twin.copy !== undefined && isMapped(drawn, twin, twin.copy.matrix);
}

/** Edits of lines, with those of the copies that still are their images. */
export const withTwins = (page: Page, edits: readonly StrokeEdit[]): Edit[] =>
  edits.flatMap(({ before, after }) =>
    before === after ? [] : [{ before, after }, ...twins(guidedStrokes(page), before, after)],
  );

/** How many lines were drawn on a guide, or on the plane shapes of a frame. */
export function tetheredCount(page: Page, id: EntityId): number {
  const own = new Set([
    id,
    ...ofKind(page, 'guide').flatMap(({ id: other, shape }) =>
      shape.kind === 'plane' && shape.frame === id ? [other] : [],
    ),
  ]);
  return guidedStrokes(page).filter(({ guide }) => guide && own.has(guide.id)).length;
}
