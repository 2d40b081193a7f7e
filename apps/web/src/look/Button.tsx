import type { LucideIcon } from 'lucide-react-native';
import { memo } from 'react';
import { Pressable, Text } from 'react-native';
import { Icon } from './Icon';
import { useLatest } from './useLatest';
import { web } from './web';

interface ButtonProps {
  readonly label: string;
  readonly onPress: () => void;
  readonly icon?: LucideIcon;
  /** `seal` is the one thing to do here; `plain` everything else. */
  readonly tone?: 'seal' | 'plain';
  readonly disabled?: boolean;
}

export function Button({ onPress, ...face }: ButtonProps) {
  return <Face {...face} onPress={useLatest(onPress)} />;
}

const Face = memo(function Face({ label, onPress, icon, tone = 'plain', disabled = false }: ButtonProps) {
  const isSeal = tone === 'seal';
  return (
    <Pressable
      accessibilityRole="button"
      accessibilityState={{ disabled }}
      disabled={disabled}
      onPress={onPress}
      className={`min-h-[44px] flex-row items-center justify-center gap-2 rounded-xl px-4 ${isSeal ? 'bg-seal' : 'border border-edge bg-raised'} ${disabled ? 'opacity-50' : 'active:opacity-80'}`}
    >
      {icon && <Icon of={icon} size={18} tone={isSeal ? 'onseal' : 'ink'} />}
      <Text className={`font-bold text-14 ${isSeal ? 'text-onseal' : 'text-ink'}`}>{label}</Text>
    </Pressable>
  );
});

interface IconButtonProps {
  readonly label: string;
  readonly icon: LucideIcon;
  readonly onPress: () => void;
  readonly disabled?: boolean;
  /** Said on hover; the label when left out. */
  readonly tooltip?: string;
}

/** An icon alone, where the word would not fit: it carries its name as a label and a tooltip. */
export function IconButton({ onPress, ...face }: IconButtonProps) {
  return <IconFace {...face} onPress={useLatest(onPress)} />;
}

const IconFace = memo(function IconFace(props: IconButtonProps) {
  const { label, icon, onPress, disabled = false, tooltip = label } = props;
  return (
    <Pressable
      accessibilityRole="button"
      accessibilityLabel={label}
      accessibilityState={{ disabled }}
      disabled={disabled}
      onPress={onPress}
      {...web({ title: tooltip })}
      className={`h-11 w-11 items-center justify-center rounded-xl ${disabled ? 'opacity-40' : 'active:bg-raised'}`}
    >
      <Icon of={icon} />
    </Pressable>
  );
});
