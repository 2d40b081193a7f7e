import type { Stage, Tool } from '../../board';
import { setDepth, setGuides } from '../../guiding';
import { GuideChips } from './GuideChips';
import { guideSlot } from './guideTool';
import { guideTools } from './tools';

/** What lines obey is laid down: its own tools, and those that work in depth. */
export const guidesStage = <const T extends readonly Tool[]>(inDepth: T, keeps: NonNullable<Stage['keeps']>) =>
  ({
    id: 'guides',
    label: 'Guides',
    tools: [...guideTools, ...inDepth],
    holds: ['peek', 'move', 'scrub-zoom'],
    keeps: [guideSlot, ...keeps],
    forget() {
      setGuides({ guideId: undefined, laying: undefined, awakeSet: undefined });
      setDepth({ edges: [], limit: 'all', picture: undefined, proportions: undefined });
    },
    Chips: GuideChips,
  }) as const satisfies Stage;
