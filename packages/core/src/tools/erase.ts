import type { Point } from '../math';
import { gapToStroke, rubStroke } from '../mend';
import type { Edit, EntityId, StrokeEntity } from '../page';

/** Rubs along `way`: one edit for each stroke that is touched, further ones for pieces beyond its first. */
export function rubbedEdits(
  strokes: Iterable<StrokeEntity>,
  way: readonly Point[],
  radius: number,
  newId: () => EntityId,
): Edit[] {
  const edits: Edit[] = [];
  for (const stroke of strokes) {
    const pieces = rubStroke(stroke, way, radius);
    if (!pieces) continue;
    edits.push({ before: stroke, after: pieces[0] ?? null });
    for (const piece of pieces.slice(1)) edits.push({ before: null, after: { ...piece, id: newId() } });
  }
  return edits;
}

/**
 * Lifts strokes whole. A drag takes all whose ink it touches; a tap that touches none takes the nearest one within
 * `reach` page px.
 */
export function liftedEdits(strokes: Iterable<StrokeEntity>, from: Point, to: Point, reach: number): Edit[] {
  const gaps = [...strokes].map((stroke) => ({ stroke, gap: gapToStroke(stroke, from, to, reach) }));
  const touched = gaps.filter(({ gap }) => gap <= 0);
  const isTap = from.x === to.x && from.y === to.y;
  const nearest = gaps.reduce<(typeof gaps)[number] | undefined>(
    (best, next) => (next.gap < (best?.gap ?? reach) ? next : best),
    undefined,
  );
  const taken = touched.length > 0 || !isTap ? touched : nearest ? [nearest] : [];
  return taken.map(({ stroke }) => ({ before: stroke, after: null }));
}
