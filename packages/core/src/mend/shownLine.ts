import { alongAt, courseOf, placeAlong } from '../curve';
import type { StrokeEntity } from '../stroke';

/** A line as it is kept, and as its layer shows it: the same course under another weight. */
export interface ShownLine {
  readonly kept: StrokeEntity;
  readonly shown: StrokeEntity;
}

/** What a line is shown as; the line itself where its layer leaves it as it was drawn. */
export type ShownAs = (stroke: StrokeEntity) => StrokeEntity;

export const asDrawn: ShownAs = (stroke) => stroke;

/** The place on a line as it is kept that lies where one on it as it is shown does: what tapers under a style has further nodes. */
export const keptPlace = ({ kept, shown }: ShownLine, place: number): number =>
  kept.spine.points.length === shown.spine.points.length
    ? place
    : placeAlong(courseOf(kept.spine), alongAt(courseOf(shown.spine), place));
