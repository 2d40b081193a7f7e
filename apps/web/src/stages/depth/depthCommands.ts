import type { FrameReach } from '@true-nib/core/guides';
import type { Command } from '../../board';
import { setDepth, useDepth, type DepthDeed, takeDepth } from '../../guiding';

/** Takes up one thing that is done in depth. */
const inDepth = (deed: DepthDeed, label: string): Command => ({
  ...{ id: `depth-${deed}`, label, room: 'Guides' },
  run: ({ session }) => takeDepth(session.page, deed),
});

/** Limits lines to some directions of their frame; done again it lets them go all ways. */
const limited = (limit: FrameReach, label: string): Command => ({
  ...{ id: `limit-${limit}`, label, room: 'Guides' },
  run: () => setDepth({ limit: useDepth.getState().limit === limit ? 'all' : limit }),
});

/** Commands about depth. None has a key from the start; any can be given one. */
export const depthCommands: readonly Command[] = [
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
];
