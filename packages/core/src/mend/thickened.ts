import { timesWide } from '../curve';
import type { Edit, EntityId, StrokeEntity } from '../page';

/**
 * Lines as wide as their layers show them, and edits of those turned back into edits of the lines as they are kept.
 * `factorOf` says for a layer by how much it shows its lines wider than they are.
 */
export class Thickened {
  readonly shown: readonly StrokeEntity[];
  private readonly kept = new Map<EntityId, StrokeEntity>();

  constructor(
    strokes: readonly StrokeEntity[],
    private readonly factorOf: (layerId: EntityId) => number,
  ) {
    this.shown = strokes.map((stroke) => {
      const factor = factorOf(stroke.layerId);
      if (factor === 1) return stroke;
      this.kept.set(stroke.id, stroke);
      return { ...stroke, spine: timesWide(stroke.spine, factor) };
    });
  }

  keptEdits(edits: readonly Edit[]): readonly Edit[] {
    if (this.kept.size === 0) return edits;
    return edits.map(({ before, after }) => ({
      before: (before && this.kept.get(before.id)) ?? before,
      after:
        after?.kind === 'stroke'
          ? { ...after, spine: timesWide(after.spine, 1 / this.factorOf(after.layerId)) }
          : after,
    }));
  }
}
