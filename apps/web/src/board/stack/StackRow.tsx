import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { mediumInWords, type StackNode } from '@true-nib/core/page';
import Eye from 'lucide-react-native/icons/eye';
import EyeOff from 'lucide-react-native/icons/eye-off';
import Folder from 'lucide-react-native/icons/folder';
import GripVertical from 'lucide-react-native/icons/grip-vertical';
import Lock from 'lucide-react-native/icons/lock';
import LockOpen from 'lucide-react-native/icons/lock-open';
import type { LucideIcon } from 'lucide-react-native';
import { Pressable, Text, View } from 'react-native';
import { Icon } from '../../look/Icon';
import { web } from '../../look/web';
import { LayerThumb } from './LayerThumb';

interface StackRowProps {
  readonly node: StackNode;
  readonly isInHand: boolean;
  readonly isChosen: boolean;
  readonly isSolo: boolean;
  readonly onTake: (several: boolean) => void;
  readonly onHide: () => void;
  readonly onLock: () => void;
}

const INDENT = 16;

/** A layer in the stack: held by its grip to be moved, taken in hand by its name. */
export function StackRow({ node, isInHand, isChosen, isSolo, onTake, onHide, onLock }: StackRowProps) {
  const { layer, depth } = node;
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } = useSortable({
    id: layer.id,
  });
  const state = [isInHand && 'in hand', isChosen && 'chosen', isSolo && 'alone', node.isHidden && 'hidden'].filter(
    Boolean,
  );
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
          onPress={(event) => onTake(isWithModifier(event.nativeEvent))}
          className="min-h-[44px] min-w-0 flex-1 justify-center px-2"
        >
          <Text
            className={`text-14 ${isInHand ? 'font-bold' : 'font-sans'} ${node.isHidden ? 'text-faint' : 'text-ink'}`}
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
          onPress={onHide}
        />
        <RowSwitch
          label={`${layer.name} locked`}
          icon={layer.locked ? Lock : LockOpen}
          isOn={layer.locked}
          onPress={onLock}
        />
      </View>
    </div>
  );
}

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
