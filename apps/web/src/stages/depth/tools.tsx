import Cuboid from 'lucide-react-native/icons/cuboid';
import type { Tool, Wing } from '../../board';
import { setDepth, takeDepth } from '../../guiding';
import { depthCommands } from './depthCommands';
import { DepthInWords, InDepth } from './DepthSettings';
import { depthSlot } from './depthTool';

const depth: Tool = {
  id: 'depth',
  label: 'Depth',
  icon: Cuboid,
  hint: 'Work in depth',
  command: { room: 'Guides', label: 'Perspective', run: ({ session }) => takeDepth(session.page, 'frame') },
  borrows: 'nib',
  // What is selected can march too: then it is seen.
  showsSelection: true,
  begin: (board, press) => board.of(depthSlot).begin(press.at, press.modifiers),
  Line: DepthInWords,
  Settings: ({ width, isWide }) => (
    <>
      {isWide && <DepthInWords />}
      <InDepth width={width} perRow={isWide ? 2 : 3} />
    </>
  ),
  commands: depthCommands,
};

/** The wing of the stage of guides that works in depth. */
export const DEPTH: Wing = {
  tools: [depth],
  keeps: [depthSlot],
  forget: () => setDepth({ edges: [], limit: 'all', picture: undefined, proportions: undefined }),
};
