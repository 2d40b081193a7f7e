import type { GuideKind } from '@true-nib/core/guides';
import type { Command } from '../../board/command';
import { useDesk } from '../../board/desk';
import { setGuides } from '../../guiding/guideStore';
import { GUIDE_NAMES, LAID_KINDS } from '../../guiding/layGuide';
import { layNext } from '../../guiding/layNext';

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
