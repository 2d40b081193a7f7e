import type { GuideKind } from '@true-nib/core/guides';
import { type Command, useDesk } from '../../board';
import { setGuides, GUIDE_NAMES, LAID_KINDS, layNext } from '../../guiding';

const laying = (kind: GuideKind): Command => ({
  ...{ id: `lay-${kind}`, label: `Lay down ${GUIDE_NAMES[kind]}`, room: 'Guides' },
  run: () => layNext(kind),
});

/** Commands about guides. None has a key from the start: one hand's keys are taken; any can be given one. */
export const guideCommands: readonly Command[] = [
  ...LAID_KINDS.map(laying),
  {
    id: 'guide-list',
    label: 'Guides on this page',
    room: 'Guides',
    run: () => {
      setGuides({ isListOpen: true });
      useDesk.setState({ sideFolded: false });
    },
  },
];
