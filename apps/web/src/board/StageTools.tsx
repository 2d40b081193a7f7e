import Eraser from 'lucide-react-native/icons/eraser';
import ImagePlus from 'lucide-react-native/icons/image-plus';
import Lasso from 'lucide-react-native/icons/lasso';
import Lock from 'lucide-react-native/icons/lock';
import LockOpen from 'lucide-react-native/icons/lock-open';
import Maximize from 'lucide-react-native/icons/maximize';
import PenTool from 'lucide-react-native/icons/pen-tool';
import Shapes from 'lucide-react-native/icons/shapes';
import Spline from 'lucide-react-native/icons/spline';
import Waypoints from 'lucide-react-native/icons/waypoints';
import type { LucideIcon } from 'lucide-react-native';
import ArrowUpFromLine from 'lucide-react-native/icons/arrow-up-from-line';
import { Chip } from '../look/Chip';
import { useBoard } from './boardContext';
import { withKey } from './keys/keySet';
import { takeTool, useDesk, type Tool } from './desk';
import { useRough } from './RoughSettings';
import { chooseRough } from './takeRough';

/** The few tools of the stage one is in. */
export function StageTools() {
  const stage = useDesk((desk) => desk.stage);
  if (stage === 'rough') return <RoughTools />;
  if (stage === 'ink') return <Tools of={INK_TOOLS} />;
  if (stage === 'mend') return <Tools of={MEND_TOOLS} />;
  return null;
}

function RoughTools() {
  const { session } = useBoard();
  const actions = useRough();
  return (
    <>
      <Chip
        label="Bring in"
        icon={ImagePlus}
        tooltip="Bring in a picture from disk"
        onPress={() => void chooseRough(session)}
      />
      {actions && (
        <>
          <Chip
            label="Fit"
            icon={Maximize}
            disabled={actions.layer.locked}
            tooltip="Fit the rough to the page"
            onPress={actions.fit}
          />
          <Chip
            label={actions.layer.locked ? 'Unlock' : 'Lock'}
            icon={actions.layer.locked ? Lock : LockOpen}
            tooltip="A locked rough cannot be moved"
            onPress={() => actions.lock(!actions.layer.locked)}
          />
        </>
      )}
    </>
  );
}

interface ToolChip {
  readonly tool: Tool;
  readonly label: string;
  readonly icon: LucideIcon;
}

const INK_TOOLS: readonly ToolChip[] = [
  { tool: 'nib', label: 'Nib', icon: PenTool },
  { tool: 'rub', label: 'Rub', icon: Eraser },
  { tool: 'shape', label: 'Shapes', icon: Shapes },
  { tool: 'path', label: 'Bézier', icon: Spline },
  { tool: 'select', label: 'Select', icon: Lasso },
];

const MEND_TOOLS: readonly ToolChip[] = [
  { tool: 'points', label: 'Points', icon: Waypoints },
  { tool: 'lift', label: 'Lift', icon: ArrowUpFromLine },
];

function Tools({ of }: { readonly of: readonly ToolChip[] }) {
  const inHand = useDesk((desk) => desk.tool);
  return of.map(({ tool, label, icon }) => (
    <Chip
      key={tool}
      label={label}
      icon={icon}
      isChosen={inHand === tool}
      tooltip={withKey(tool)}
      onPress={() => takeTool(tool)}
    />
  ));
}
