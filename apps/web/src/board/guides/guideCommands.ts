import type { GuideKind } from '@true-nib/core/page';
import type { Command } from '../commands';
import { takeTool, useDesk } from '../desk';
import { setGuides } from './guideStore';
import { GUIDE_NAMES } from './layGuide';

/** Takes the guide tool in hand to lay down a guide with the next drag. */
export function layNext(laying: GuideKind | undefined): void {
  takeTool('guide');
  setGuides({ laying, isAiming: false });
}

const laying = (kind: GuideKind) =>
  ({ id: `lay-${kind}`, label: `Lay down ${GUIDE_NAMES[kind]}`, room: 'Guides', run: () => layNext(kind) }) as const;

/** Commands about guides. None has a key from the start: one hand's keys are taken; any can be given one. */
export const guideCommands = [
  { id: 'guide', label: 'Move guides', room: 'Guides', run: () => layNext(undefined) },
  { id: 'rake', label: 'Rake', room: 'Guides', run: () => takeTool('rake') },
  laying('straightedge'),
  laying('batten'),
  laying('template'),
  laying('rails'),
  laying('ripples'),
  laying('rays'),
  laying('echo'),
  laying('mirror'),
  laying('wheel'),
  {
    id: 'guide-list',
    label: 'Guides on this page',
    room: 'Guides',
    run: () => {
      setGuides({ isListOpen: true });
      useDesk.setState({ sideFolded: false });
    },
  },
] as const satisfies readonly Command[];
