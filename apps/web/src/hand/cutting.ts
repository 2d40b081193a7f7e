import type { AreaEntity } from '@true-nib/core/area';
import type { DotsEntity } from '@true-nib/core/dots';
import type { DrawnEntity } from '@true-nib/core/drawn';
import type { PenSample } from '@true-nib/core/hand';
import type { EntityId } from '@true-nib/core/kind';
import { boxOfPoints, growBox } from '@true-nib/core/math';
import { isKind, mergeEdits, type Edit } from '@true-nib/core/page';
import type { PanelEntity } from '@true-nib/core/panel';
import type { StrokeEntity } from '@true-nib/core/stroke';
import type { Shown } from '@true-nib/core/tools';
import type { Board, Gesture } from '../board';
import type { InkIndex } from '../render';

/** What a leg of the hand's course does to what was drawn near it. */
export type LegCut = (near: readonly DrawnEntity[], leg: readonly PenSample[], index: InkIndex) => Edit[];

export const linesOf = (near: readonly DrawnEntity[]): StrokeEntity[] =>
  near.filter((entity) => isKind(entity, 'stroke'));

export const areasOf = (near: readonly DrawnEntity[]): AreaEntity[] => near.filter((entity) => isKind(entity, 'area'));

export const dotsOf = (near: readonly DrawnEntity[]): DotsEntity[] => near.filter((entity) => isKind(entity, 'dots'));

export const styledBy =
  (index: InkIndex): Shown =>
  (stroke) =>
    index.styled(stroke);

export const panelsOf = (near: readonly DrawnEntity[]): PanelEntity[] =>
  near.filter((entity) => isKind(entity, 'panel'));

/** Page px beside the course that cut ends may reach. */
const CUT_EDGE = 4;

/** How a hand cuts: within `reach` page px of its course; `legwise` for what goes by straight legs. */
export interface Cutting {
  readonly reach: number;
  readonly cut: LegCut;
  readonly legwise?: boolean;
}

/** Changes the strokes along the hand's course, live. */
export function beginCutting(
  { picture, session }: Pick<Board, 'picture' | 'session'>,
  layerId: EntityId,
  label: string,
  { reach, cut, legwise = false }: Cutting,
): Gesture {
  let last: PenSample | undefined;
  let edits: Edit[] = [];
  return {
    move(samples) {
      const course = last ? [last, ...samples] : samples;
      if (course.length === 0) return;
      // Lifting goes leg by leg, or a curved drag would be taken for a straight one.
      const legs = !legwise || course.length === 1 ? [course] : course.slice(1).map((p, k) => [course[k], p]);
      for (const leg of legs) {
        const touched = growBox(boxOfPoints(leg), reach);
        const more = cut(picture.drawnOn(layerId, touched), leg, picture.inks.index);
        // What is cut looks the same beside the course.
        if (more.length > 0) picture.preview(more, legwise ? undefined : growBox(touched, CUT_EDGE));
        edits.push(...more);
      }
      last = course[course.length - 1];
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
