import { nodesOf, stackOf } from '@true-nib/core/page';
import { useState } from 'react';
import CopyPlus from 'lucide-react-native/icons/copy-plus';
import FolderPlus from 'lucide-react-native/icons/folder-plus';
import Scissors from 'lucide-react-native/icons/scissors';
import Layers2 from 'lucide-react-native/icons/layers-2';
import ImagePlus from 'lucide-react-native/icons/image-plus';
import PaintBucket from 'lucide-react-native/icons/paint-bucket';
import PenLine from 'lucide-react-native/icons/pen-line';
import Plus from 'lucide-react-native/icons/plus';
import SquareCheck from 'lucide-react-native/icons/square-check';
import Trash from 'lucide-react-native/icons/trash';
import { Text, View } from 'react-native';
import { Chip, Switch } from '../look';
import { useBoard, usePage, useDesk, type Board } from '../board';
import { withKey } from '../keys';
import { chooseRough } from './takeRough';
import { LayerSettings } from './LayerSettings';
import { PaperSetting } from './PaperSetting';
import {
  addLayer,
  deleteChosen,
  duplicateChosen,
  groupChosen,
  mergeChosen,
  mergeDown,
  mergeVisible,
} from './layerCommands';
import { mergeClean } from './mergeClean';
import { StackList } from './StackList';

/** The stack of layers with all that can be done to it. */
export function StackPanel() {
  const board = useBoard();
  const isEmpty = stackOf(usePage(board)).length === 0;
  const [isChoosing, setChoosing] = useState(false);
  const [menu, setMenu] = useState<'add' | 'merge' | undefined>();
  const toggle = (one: 'add' | 'merge') => () => setMenu(menu === one ? undefined : one);
  const close = () => setMenu(undefined);
  return (
    <View className="gap-2" testID="stack">
      <View className="flex-row">
        <Chip label="Add" icon={Plus} isChosen={menu === 'add'} tooltip="Add a layer" onPress={toggle('add')} />
        <Chip label="Group" icon={FolderPlus} tooltip={withKey('group-layers')} onPress={() => groupChosen(board)} />
        <Chip
          label="Copy"
          icon={CopyPlus}
          tooltip={withKey('duplicate-layers')}
          onPress={() => duplicateChosen(board)}
        />
        <Chip
          label="Merge"
          icon={Layers2}
          isChosen={menu === 'merge'}
          tooltip="Merge layers of one kind"
          onPress={toggle('merge')}
        />
        <Chip label="Delete" icon={Trash} tooltip={withKey('delete-layers')} onPress={() => deleteChosen(board)} />
      </View>
      {menu === 'add' && <AddMenu board={board} onTaken={close} />}
      {menu === 'merge' && <MergeMenu board={board} onTaken={close} />}
      {isEmpty ? (
        <Text className="py-2 font-sans text-14 text-faint">No layer yet. The first line makes one for itself.</Text>
      ) : (
        <Choosing isChoosing={isChoosing} onChange={setChoosing} />
      )}
      <StackList isChoosing={isChoosing} />
      <StandInsShown />
      <LayerSettings />
      <PaperSetting />
    </View>
  );
}

interface MenuProps {
  readonly board: Board;
  readonly onTaken: () => void;
}

/** The kinds of layers there are to add. */
function AddMenu({ board, onTaken }: MenuProps) {
  const add = (medium: 'ink' | 'wash') => () => {
    onTaken();
    addLayer(board, medium);
  };
  const rough = () => {
    onTaken();
    void chooseRough(board.session);
  };
  return (
    <View className="flex-row rounded-xl border border-rule bg-raised">
      <Chip label="Ink: lines" icon={PenLine} tooltip={withKey('add-layer')} onPress={add('ink')} />
      <Chip label="Wash: pixels" icon={PaintBucket} tooltip={withKey('add-wash')} onPress={add('wash')} />
      <Chip label="Rough: scan" icon={ImagePlus} tooltip="Bring in a picture from disk" onPress={rough} />
    </View>
  );
}

/** The ways to make one layer of several. */
function MergeMenu({ board, onTaken }: MenuProps) {
  const merge = (kind: (to: Board) => Promise<boolean>) => () => {
    onTaken();
    void kind(board);
  };
  return (
    <View className="flex-row rounded-xl border border-rule bg-raised">
      <Chip label="Down" icon={Layers2} tooltip={withKey('merge-down')} onPress={merge(mergeDown)} />
      <Chip label="Chosen" icon={Layers2} tooltip="Merge the chosen layers" onPress={merge(mergeChosen)} />
      <Chip label="All seen" icon={Layers2} tooltip="Merge all layers that are seen" onPress={merge(mergeVisible)} />
      <Chip label="Clean" icon={Scissors} tooltip={withKey('merge-clean')} onPress={merge(mergeClean)} />
    </View>
  );
}

interface ChoosingProps {
  readonly isChoosing: boolean;
  readonly onChange: (isChoosing: boolean) => void;
}

/** What a touch on a layer does, and the switch that lets it choose several. */
function Choosing({ isChoosing, onChange }: ChoosingProps) {
  const count = useDesk((desk) => desk.chosenLayers.length);
  return (
    <View className="flex-row items-center justify-between">
      <Text className="font-sans text-12 text-faint">
        {count > 0 ? `${count} more chosen` : isChoosing ? 'Touch layers to choose them' : 'Highest first'}
      </Text>
      <View className="w-[76px]">
        <Chip
          label="Several"
          icon={SquareCheck}
          isChosen={isChoosing}
          tooltip="Choose several layers at once; Shift does the same"
          onPress={() => {
            if (isChoosing) useDesk.setState({ chosenLayers: [] });
            onChange(!isChoosing);
          }}
        />
      </View>
    </View>
  );
}

/** Bright or real: one touch for all layers that have a stand-in colour. */
function StandInsShown() {
  const page = usePage(useBoard());
  const standIns = useDesk((desk) => desk.standIns);
  if (!nodesOf(stackOf(page)).some(({ layer }) => layer.standIn !== undefined)) return null;
  return <Switch label="Stand-in colours shown" on={standIns} onChange={(on) => useDesk.setState({ standIns: on })} />;
}
