import Eraser from 'lucide-react-native/icons/eraser';
import ImagePlus from 'lucide-react-native/icons/image-plus';
import Lasso from 'lucide-react-native/icons/lasso';
import Lock from 'lucide-react-native/icons/lock';
import LockOpen from 'lucide-react-native/icons/lock-open';
import Maximize from 'lucide-react-native/icons/maximize';
import PenTool from 'lucide-react-native/icons/pen-tool';
import ArrowUpFromLine from 'lucide-react-native/icons/arrow-up-from-line';
import { Chip } from '../look/Chip';
import { useBoard } from './boardContext';
import { withKey } from './keys/keySet';
import { takeTool, useDesk } from './desk';
import { useRough } from './RoughSettings';
import { chooseRough } from './takeRough';

/** The few tools of the stage one is in. */
export function StageTools() {
  const stage = useDesk((desk) => desk.stage);
  if (stage === 'rough') return <RoughTools />;
  if (stage === 'ink') return <InkTools />;
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
        onPress={() => chooseRough(session)}
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

function InkTools() {
  const tool = useDesk((desk) => desk.tool);
  return (
    <>
      <Chip
        label="Nib"
        icon={PenTool}
        isChosen={tool === 'nib'}
        tooltip={withKey('nib')}
        onPress={() => takeTool('nib')}
      />
      <Chip
        label="Rub"
        icon={Eraser}
        isChosen={tool === 'rub'}
        tooltip={withKey('rub')}
        onPress={() => takeTool('rub')}
      />
      <Chip
        label="Lift"
        icon={ArrowUpFromLine}
        isChosen={tool === 'lift'}
        tooltip={withKey('lift')}
        onPress={() => takeTool('lift')}
      />
      <Chip
        label="Select"
        icon={Lasso}
        isChosen={tool === 'select'}
        tooltip={withKey('select')}
        onPress={() => takeTool('select')}
      />
    </>
  );
}
