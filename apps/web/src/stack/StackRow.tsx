import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { mediumInWords, type LayerEntity, type StackNode } from '@true-nib/core/page';
import Eye from 'lucide-react-native/icons/eye';
import EyeOff from 'lucide-react-native/icons/eye-off';
import Folder from 'lucide-react-native/icons/folder';
import GripVertical from 'lucide-react-native/icons/grip-vertical';
import Lock from 'lucide-react-native/icons/lock';
import LockOpen from 'lucide-react-native/icons/lock-open';
import type { LucideIcon } from 'lucide-react-native';
import { memo } from 'react';
import { Pressable, Text, View } from 'react-native';
import { Icon, web } from '../look';
import { LayerThumb } from './LayerThumb';

/** What the rows of the stack do; the same object from one drawing of the stack to the next. */
export interface RowActions {
  readonly take: (layer: LayerEntity, several: boolean) => void;
  readonly hide: (layer: LayerEntity) => void;
  readonly lock: (layer: LayerEntity) => void;
}

interface RowState {
  readonly isInHand: boolean;
  readonly isChosen: boolean;
  readonly isSolo: boolean;
  readonly actions: RowActions;
}

interface StackRowProps extends RowState {
  readonly node: StackNode;
}

const INDENT = 16;

/** A layer in the stack: held by its grip to be moved, taken in hand by its name. */
export function StackRow({ node, ...state }: StackRowProps) {
  const { layer, depth } = node;
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } = useSortable({
    id: layer.id,
  });
  const { isInHand, isChosen } = state;
  return (
    <div
      ref={setNodeRef}
      role="listitem"
      aria-current={isInHand}
      data-layer-row={layer.name}
      style={{
        transform: CSS.Translate.toString(transform),
        transition,
        paddingLeft: depth * INDENT,
        opacity: isDragging ? 0.6 : 1,
        position: 'relative',
        zIndex: isDragging ? 1 : 0,
      }}
    >
      <View
        className={`min-h-[46px] flex-row items-center rounded-xl border ${isInHand ? 'border-seal bg-raised' : isChosen ? 'border-edge bg-raised' : 'border-transparent'}`}
      >
        <div
          ref={setActivatorNodeRef}
          {...attributes}
          {...listeners}
          aria-label={`Move ${layer.name}`}
          title={`Drag to move ${layer.name}; with the keyboard: Space, arrows, Space`}
          style={{ touchAction: 'none', cursor: 'grab', padding: '10px 2px', borderRadius: 8 }}
        >
          <Icon of={GripVertical} size={18} tone="faint" />
        </div>
        <RowFace layer={layer} isHidden={node.isHidden} {...state} />
      </View>
    </div>
  );
}

interface RowFaceProps extends RowState {
  readonly layer: LayerEntity;
  /** Hidden itself or by a group around it. */
  readonly isHidden: boolean;
}

/** What a row shows. Drawn anew only when its own layer changes: a stack may have hundreds, and the one at work changes often. */
const RowFace = memo(function RowFace({ layer, isHidden, isInHand, isChosen, isSolo, actions }: RowFaceProps) {
  const state = [isInHand && 'in hand', isChosen && 'chosen', isSolo && 'alone', isHidden && 'hidden'].filter(Boolean);
  return (
    <>
      <View className="mr-1 h-9 w-[5px] rounded-full" style={{ backgroundColor: layer.mark ?? 'transparent' }} />
      {layer.medium === 'group' ? (
        <View className="h-9 w-9 items-center justify-center">
          <Icon of={Folder} size={22} />
        </View>
      ) : (
        <LayerThumb layerId={layer.id} />
      )}
      <Pressable
        role="button"
        aria-label={[layer.name, mediumInWords(layer.medium), ...state].join(', ')}
        aria-pressed={isInHand || isChosen}
        onPress={(event) => actions.take(layer, isWithModifier(event.nativeEvent))}
        className="min-h-[44px] min-w-0 flex-1 justify-center px-2"
      >
        <Text
          className={`text-14 ${isInHand ? 'font-bold' : 'font-sans'} ${isHidden ? 'text-faint' : 'text-ink'}`}
          numberOfLines={1}
        >
          {layer.name}
        </Text>
        <Text className="font-sans text-12 text-faint" numberOfLines={1}>
          {[
            mediumInWords(layer.medium),
            layer.opacity < 1 && `${Math.round(layer.opacity * 100)} %`,
            isSolo && 'alone',
            layer.holdsShape && 'shape held',
          ]
            .filter(Boolean)
            .join(' · ')}
        </Text>
      </Pressable>
      <RowSwitch
        label={`${layer.name} seen`}
        icon={layer.hidden ? EyeOff : Eye}
        isOn={!layer.hidden}
        onPress={() => actions.hide(layer)}
      />
      <RowSwitch
        label={`${layer.name} locked`}
        icon={layer.locked ? Lock : LockOpen}
        isOn={layer.locked}
        onPress={() => actions.lock(layer)}
      />
    </>
  );
});

interface RowSwitchProps {
  readonly label: string;
  readonly icon: LucideIcon;
  readonly isOn: boolean;
  readonly onPress: () => void;
}

const RowSwitch = ({ label, icon, isOn, onPress }: RowSwitchProps) => (
  <Pressable
    role="switch"
    aria-checked={isOn}
    aria-label={label}
    onPress={onPress}
    className="h-11 w-9 items-center justify-center rounded-lg active:bg-tray"
    {...web({ title: label })}
  >
    <Icon of={icon} size={18} tone={isOn ? 'ink' : 'faint'} />
  </Pressable>
);

/** Shift, Ctrl or Cmd add to what is chosen. */
function isWithModifier(event: object): boolean {
  return (['shiftKey', 'ctrlKey', 'metaKey'] as const).some((key) => key in event && Reflect.get(event, key) === true);
}
