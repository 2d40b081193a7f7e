import type { GuideKind } from '@true-nib/core/guides';
import Combine from 'lucide-react-native/icons/combine';
import Cuboid from 'lucide-react-native/icons/cuboid';
import ListTree from 'lucide-react-native/icons/list-tree';
import Move from 'lucide-react-native/icons/move';
import Boxes from 'lucide-react-native/icons/boxes';
import Rows from 'lucide-react-native/icons/rows-4';
import Ruler from 'lucide-react-native/icons/ruler';
import Back from 'lucide-react-native/icons/chevron-left';
import AlignJustify from 'lucide-react-native/icons/text-align-justify';
import { useBoard, takeTool, useDesk, type Tool } from '../../board';
import { takeDepth, setGuides, useGuides, layNext } from '../../guiding';
import { Cells } from '../../hand';
import { withKey } from '../../keys';
import { Chip, useIsWide } from '../../look';

const EDGES: readonly GuideKind[] = ['straightedge', 'batten', 'template'];
const FIELDS: readonly GuideKind[] = ['rails', 'ripples', 'rays', 'echo'];
const SYMMETRIES: readonly GuideKind[] = ['mirror', 'wheel'];

const isOneOf = (kinds: readonly GuideKind[], kind: GuideKind | undefined): boolean =>
  kind !== undefined && kinds.includes(kind);

/** The first of some kinds, or the one after `kind`: a chip that is touched again goes on. */
const nextOf = (kinds: readonly GuideKind[], kind: GuideKind | undefined): GuideKind =>
  kinds[kind === undefined ? 0 : (kinds.indexOf(kind) + 1) % kinds.length];

/** The tools of a wing of their own, one chip each, and the way back to the guides. */
function WingChips({ tools }: { readonly tools: readonly Tool[] }) {
  const inHand = useDesk((desk) => desk.tool);
  return (
    <Cells>
      <Chip label="Guides" icon={Back} tooltip="Back to the guides" onPress={() => takeTool('guide')} />
      {tools.map(({ id, label, icon }) => (
        <Chip
          key={id}
          label={label}
          icon={icon}
          isChosen={inHand === id}
          tooltip={withKey(id)}
          onPress={() => takeTool(id)}
        />
      ))}
    </Cells>
  );
}

/** Guides: move them, lay one down, list them, rake along one; or the tools of sets, while one of those is in hand. */
export const guideChips = (set: readonly Tool[]) =>
  function Chips() {
    const isSet = useDesk((desk) => set.some(({ id }) => id === desk.tool));
    return isSet ? <WingChips tools={set} /> : <GuideChips />;
  };

function GuideChips() {
  const { session } = useBoard();
  const tool = useDesk((desk) => desk.tool);
  const laying = useGuides((state) => state.laying);
  const isRoomy = useIsWide();
  return (
    <Cells>
      <Chip
        label="Move"
        icon={Move}
        isChosen={tool === 'guide' && !laying}
        tooltip={withKey('guide')}
        onPress={() => layNext(undefined)}
      />
      <Chip
        label="Edge"
        icon={Ruler}
        isChosen={tool === 'guide' && isOneOf(EDGES, laying)}
        tooltip="Lay down a straightedge, a batten or a template"
        onPress={() => layNext(nextOf(EDGES, laying))}
      />
      <Chip
        label="Field"
        icon={AlignJustify}
        isChosen={tool === 'guide' && isOneOf(FIELDS, laying)}
        tooltip="Lay down rails, ripples, rays or an echo"
        onPress={() => layNext(nextOf(FIELDS, laying))}
      />
      <Chip
        label="Axes"
        icon={Combine}
        isChosen={tool === 'guide' && isOneOf(SYMMETRIES, laying)}
        tooltip="Lay down a mirror or a wheel"
        onPress={() => layNext(nextOf(SYMMETRIES, laying))}
      />
      <Chip
        label="Depth"
        icon={Cuboid}
        isChosen={tool === 'depth'}
        tooltip={withKey('depth')}
        onPress={() => takeDepth(session.page, 'frame')}
      />
      <Chip label="Set" icon={Boxes} tooltip={withKey('blocks')} onPress={() => takeTool('blocks')} />
      <Chip
        label="Rake"
        icon={Rows}
        isChosen={tool === 'rake'}
        tooltip={withKey('rake')}
        onPress={() => takeTool('rake')}
      />
      {!isRoomy && (
        <Chip
          label="List"
          icon={ListTree}
          tooltip={withKey('guide-list')}
          onPress={() => setGuides({ isListOpen: true })}
        />
      )}
    </Cells>
  );
}
