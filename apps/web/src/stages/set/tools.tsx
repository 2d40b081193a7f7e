import Boxes from 'lucide-react-native/icons/boxes';
import Camera from 'lucide-react-native/icons/video';
import Library from 'lucide-react-native/icons/library';
import PenLine from 'lucide-react-native/icons/pen-line';
import { View } from 'react-native';
import type { Tool, Wing } from '../../board';
import { BlockHint, BlockLine, BlockSettings } from './BlockSettings';
import { CameraLine, CameraSettings } from './CameraSettings';
import { LibraryLine, LibrarySettings } from './LibrarySettings';
import { setSlot } from './setHand';
import { setSets } from './setStore';
import { PullLine, PullSettings } from './PullSettings';

const blocks: Tool = {
  id: 'blocks',
  label: 'Blocks',
  icon: Boxes,
  hint: 'Choose a block and touch where it stands; touch one that stands to drag it, or a side of it',
  command: { room: 'Guides', label: 'Build a set of blocks' },
  borrows: 'camera',
  begin: (board, press) => board.of(setSlot).begin(press),
  Line: BlockLine,
  // What is selected can become a block: then it is seen.
  showsSelection: true,
  Settings: ({ width, isWide }) => (
    <View className="gap-3">
      {isWide && <BlockHint />}
      <BlockSettings width={width} />
    </View>
  ),
};

const camera: Tool = {
  id: 'camera',
  label: 'Camera',
  icon: Camera,
  hint: 'Drag to turn the camera of the set',
  command: { room: 'Guides', label: 'Camera of the set' },
  borrows: 'blocks',
  begin: (board, press) => board.of(setSlot).beginCamera(press),
  Line: CameraLine,
  Settings: CameraSettings,
};

const library: Tool = {
  id: 'set-library',
  label: 'Library',
  icon: Library,
  hint: 'Sets that are kept, for any page; drag to turn the camera',
  command: { room: 'Guides', label: 'Library of sets' },
  borrows: 'blocks',
  begin: (board, press) => board.of(setSlot).beginCamera(press),
  Line: LibraryLine,
  Settings: LibrarySettings,
};

const pull: Tool = {
  id: 'pull-lines',
  label: 'Pull',
  icon: PenLine,
  hint: 'Take the lines of the set that are seen as strokes; drag to turn the camera',
  command: { room: 'Guides', label: 'Pull lines off the set' },
  borrows: 'camera',
  begin: (board, press) => board.of(setSlot).beginCamera(press),
  Line: PullLine,
  Settings: PullSettings,
};

/** The wing of the stage of guides that builds sets and takes their lines. */
export const SET: Wing = {
  tools: [blocks, camera, pull, library],
  keeps: [setSlot],
  forget: () => setSets({ laying: undefined, made: undefined, setId: undefined, cameraId: undefined, chosen: [] }),
};
