import type { EntityId, Kind } from '../kind';
import { checkGuide } from './check';
import type { GuideEntity, GuideShape } from './guide';

/** What a guide is. Layers that it reaches, and frames that it hangs on, may be gone. */
export const guideKind: Kind<GuideEntity> = {
  isMany: false,
  check: checkGuide,
  refs: ({ reach, shape }) => ({ knows: [...(reach === 'all' ? [] : reach), ...framesOf(shape)] }),
  remap: (guide, copyId, renamed) => ({
    ...guide,
    id: copyId,
    reach: guide.reach === 'all' ? 'all' : guide.reach.map(renamed),
    shape: renamedShape(guide.shape, renamed),
  }),
};

/** The frames that a shape lies in or aims at. */
function framesOf(shape: GuideShape): readonly EntityId[] {
  if ('frame' in shape) return [shape.frame];
  return 'aim' in shape && shape.aim?.frame !== undefined ? [shape.aim.frame] : [];
}

function renamedShape(shape: GuideShape, renamed: (id: EntityId) => EntityId): GuideShape {
  if ('frame' in shape) return { ...shape, frame: renamed(shape.frame) };
  if (!('aim' in shape) || shape.aim?.frame === undefined) return shape;
  return { ...shape, aim: { ...shape.aim, frame: renamed(shape.aim.frame) } };
}
