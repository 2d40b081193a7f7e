import { actsOn, isField, type FieldShape, type GuideEntity } from '@true-nib/core/guides';
import { nodeInHand, type Board } from '../board';
import { guideInHand } from './guideStore';
import { guidesOf } from './layGuide';

/** A guide that is a field. */
export type FieldGuide = GuideEntity & { readonly shape: FieldShape };

const isFieldGuide = (guide: GuideEntity): guide is FieldGuide => isField(guide.shape);

/** The field that rows run along: the one in hand, or the first that acts on the layer in hand. */
export function fieldInHand(board: Board): FieldGuide | undefined {
  const inHand = guideInHand(board.session.page);
  if (inHand && isFieldGuide(inHand)) return inHand;
  const layerId = nodeInHand(board)?.layer.id;
  return guidesOf(board.session.page)
    .filter(isFieldGuide)
    .find((guide) => actsOn(guide, layerId));
}
