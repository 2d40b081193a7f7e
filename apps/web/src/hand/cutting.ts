import type { DrawnEntity } from '@true-nib/core/drawn';
import type { PenSample } from '@true-nib/core/hand';
import type { EntityId } from '@true-nib/core/kind';
import { boxOfPoints, growBox } from '@true-nib/core/math';
import { isKind, mergeEdits, type Edit } from '@true-nib/core/page';
import type { StrokeEntity } from '@true-nib/core/stroke';
import type { Shown } from '@true-nib/core/tools';
import type { Board, Gesture } from '../board';
import type { InkIndex } from '../render';

/** What a leg of the hand's way does to what was drawn near it. */
export type Cut = (near: readonly DrawnEntity[], leg: readonly PenSample[], index: InkIndex) => Edit[];

export const linesOf = (near: readonly DrawnEntity[]): StrokeEntity[] =>
  near.filter((entity) => isKind(entity, 'stroke'));

export const styledBy =
  (index: InkIndex): Shown =>
  (stroke) =>
    index.styled(stroke);

/** Page px beside the way that cut ends may reach. */
const CUT_EDGE = 4;

/** Changes the strokes along the hand's way, live; `legwise` for what goes by straight legs. */
export function beginCutting(
  { picture, session }: Pick<Board, 'picture' | 'session'>,
  layerId: EntityId,
  label: string,
  reach: number,
  cut: Cut,
  legwise = false,
): Gesture {
  let last: PenSample | undefined;
  let edits: Edit[] = [];
  return {
    move(samples) {
      const way = last ? [last, ...samples] : samples;
      if (way.length === 0) return;
      // Lifting goes leg by leg, or a curved drag would be taken for a straight one.
      const legs = !legwise || way.length === 1 ? [way] : way.slice(1).map((p, k) => [way[k], p]);
      for (const leg of legs) {
        const touched = growBox(boxOfPoints(leg), reach);
        const more = cut(picture.drawnOn(layerId, touched), leg, picture.inks.index);
        // What is cut looks the same beside the way.
        if (more.length > 0) picture.preview(more, legwise ? undefined : growBox(touched, CUT_EDGE));
        edits.push(...more);
      }
      last = way[way.length - 1];
    },
    end() {
      edits = mergeEdits(edits);
      if (edits.length > 0 && !session.commit(label, edits)) picture.letBe(edits);
    },
    cancel() {
      picture.letBe(edits);
    },
  };
}
