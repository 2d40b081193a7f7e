import type { FrameReach, GuideKind } from '@true-nib/core/guides';
import type { Command } from '../../chrome/commands';
import { takeTool, useDesk } from '../../board/desk';
import { setDepth, useDepth, type DepthDeed } from '../../guiding/depthStore';
import { takeDepth } from '../../guiding/frames';
import type { OpenBoard } from '../../board/boardContext';
import { setGuides } from '../../guiding/guideStore';
import { GUIDE_NAMES } from '../../guiding/layGuide';

/** Takes the guide tool in hand to lay down a guide with the next drag. */
export function layNext(laying: GuideKind | undefined): void {
  takeTool('guide');
  setGuides({ laying, isAiming: false });
}

const laying = (kind: GuideKind) =>
  ({ id: `lay-${kind}`, label: `Lay down ${GUIDE_NAMES[kind]}`, room: 'Guides', run: () => layNext(kind) }) as const;

/** Takes up one thing that is done in depth. */
const inDepth = (deed: DepthDeed, label: string) =>
  ({
    id: `depth-${deed}`,
    label,
    room: 'Guides',
    run: ({ session }: OpenBoard) => takeDepth(session.page, deed),
  }) as const;

/** Limits lines to some directions of their frame; done again it lets them go all ways. */
const limited = (limit: FrameReach, label: string) =>
  ({
    id: `limit-${limit}`,
    label,
    room: 'Guides',
    run: () => setDepth({ limit: useDepth.getState().limit === limit ? 'all' : limit }),
  }) as const;

/** Commands about guides. None has a key from the start: one hand's keys are taken; any can be given one. */
export const guideCommands = [
  { id: 'guide', label: 'Move guides', room: 'Guides', run: () => layNext(undefined) },
  { id: 'rake', label: 'Rake', room: 'Guides', run: () => takeTool('rake') },
  { id: 'depth', label: 'Perspective', room: 'Guides', run: ({ session }) => takeDepth(session.page, 'frame') },
  inDepth('sight', 'Sight a frame'),
  inDepth('shape', 'Plane shape'),
  inDepth('box', 'Box on the floor'),
  inDepth('march', 'March'),
  inDepth('bays', 'Divide into bays'),
  inDepth('stairs', 'Stairs'),
  inDepth('lines', 'Ink grid lines'),
  inDepth('fold', 'Mirror in depth'),
  limited('all', 'Lines go all ways'),
  limited('plane:left', 'Lines stay on the left wall'),
  limited('plane:right', 'Lines stay on the right wall'),
  limited('plane:floor', 'Lines stay on the floor'),
  limited('way:right', 'Lines go right only'),
  limited('way:left', 'Lines go left only'),
  limited('way:height', 'Lines go upright only'),
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
