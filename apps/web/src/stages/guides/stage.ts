import { twinEdits } from '@true-nib/core/tethers';
import type { PageSlot, Stage, Tool } from '../../board';
import { setDepth, setGuides, useGuides } from '../../guiding';
import { newId } from '../../session';
import { GuideChips } from './GuideChips';
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

/** What lines obey is laid down: its own tools, and those that work in depth. */
export const guidesStage = <const T extends readonly Tool[]>(inDepth: T, keeps: NonNullable<Stage['keeps']>) =>
  ({
    id: 'guides',
    label: 'Guides',
    tools: [...guideTools, ...inDepth],
    holds: ['peek', 'move', 'scrub-zoom'],
    keeps: [twinsSlot, guideSlot, ...keeps],
    forget() {
      setGuides({ guideId: undefined, laying: undefined, awakeSet: undefined });
      setDepth({ edges: [], limit: 'all', picture: undefined, proportions: undefined });
    },
    Chips: GuideChips,
  }) as const satisfies Stage;
