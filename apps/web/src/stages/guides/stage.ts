import { twinEdits } from '@true-nib/core/tethers';
import type { PageSlot, Stage, Wing } from '../../board';
import { setGuides, useGuides } from '../../guiding';
import { newId } from '../../session';
import { guideChips } from './GuideChips';
import { guideSlot } from './guideTool';
import { guideTools } from './tools';

/** While a set is awake, what is done to one of its lines is done to the others. */
const twinsSlot: PageSlot<{ dispose(): void }> = {
  open: ({ session }) => ({
    dispose: session.accompany((page, edits) => {
      const { awakeSet } = useGuides.getState();
      return awakeSet === undefined ? [] : twinEdits(page, awakeSet, edits, newId);
    }),
  }),
};

/** What lines obey is laid down: with its own tools, and with those of wings that work in depth, and that build sets. */
export const guidesStage = (depth: Wing, set: Wing) =>
  ({
    id: 'guides',
    label: 'Guides',
    tools: [...guideTools, ...depth.tools, ...set.tools],
    holds: ['peek', 'move', 'scrub-zoom'],
    keeps: [twinsSlot, guideSlot, ...(depth.keeps ?? []), ...(set.keeps ?? [])],
    forget() {
      setGuides({ guideId: undefined, laying: undefined, awakeSet: undefined, isAiming: false });
      depth.forget?.();
      set.forget?.();
    },
    Chips: guideChips(set.tools),
  }) satisfies Stage;
