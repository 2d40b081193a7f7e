import { seedNow } from '../base';
import {
  outlines,
  type GuideEntity,
  type GuideShape,
  type PlaneShape,
  type TemplateShape,
} from '@true-nib/core/guides';
import { releasedEdits } from '@true-nib/core/tethers';
import { inked, type Stroke } from '@true-nib/core/stroke';
import { ofKind } from '@true-nib/core/page';
import type { EntityId } from '@true-nib/core/kind';
import type { Nib } from '@true-nib/core/nib';
import { type Board, targetInHand } from '../board';
import { withCopies } from '../guiding';
import { nibFor } from '../nibs';
import { layDown } from './layDown';

/** The outlines of a template or of a plane shape, inked. */
export const outlineStrokes = (id: EntityId, shape: TemplateShape | PlaneShape, nib: Nib): Stroke[] =>
  outlines(shape).map((course) => ({
    ...inked(course, nib, seedNow()),
    guide: { id, path: { kind: 'curve', course } },
  }));

/** Inks all outlines of a template with the nib in hand. */
export function strokeAllRound(board: Board, { shape, id }: GuideEntity): void {
  const { session, picture, notice } = board;
  if (shape.kind !== 'template' && shape.kind !== 'plane') return;
  const target = targetInHand(board);
  if (typeof target === 'string') return notice(target);
  const strokes = outlineStrokes(id, shape, nibFor(session.page));
  picture.showThings(withCopies(session.page, target.layer.id, strokes), target.layer.id);
  layDown(board, target, 'Stroke all round', strokes);
}

export const flippedTemplate = (shape: Extract<GuideShape, { kind: 'template' | 'plane' }>): GuideShape => ({
  ...shape,
  place: { ...shape.place, scaleX: -shape.place.scaleX },
});

/** Unties every line from a guide: none of them moves with it any more. */
export function releaseAll({ session, notice }: Board, guide: GuideEntity): void {
  const tied = ofKind(session.page, 'stroke').filter((stroke) => stroke.guide?.id === guide.id);
  if (tied.length === 0) return notice(`No line is tethered to ${guide.name}.`);
  session.commit(`Release ${tied.length} lines`, releasedEdits(tied));
  notice(`${tied.length} lines stay where they are from now on.`);
}
