import type { LucideIcon } from 'lucide-react-native';
import { memo } from 'react';
import { Pressable, Text } from 'react-native';
import { Icon } from './Icon';
import { useLatest } from './useLatest';
import { web } from './web';

interface ChipProps {
  readonly label: string;
  readonly icon: LucideIcon;
  readonly onPress: () => void;
  /** The tool in hand; left out for what is done at once. */
  readonly isChosen?: boolean;
  readonly disabled?: boolean;
  /** Name and key, shown on hover. */
  readonly tooltip?: string;
}

/** A tool: its picture and its word. */
export function Chip({ onPress, ...face }: ChipProps) {
  return <Face {...face} onPress={useLatest(onPress)} />;
}

const Face = memo(function Face({ label, icon, onPress, isChosen, disabled = false, tooltip }: ChipProps) {
  return (
    <Pressable
      role="button"
      aria-label={label}
      aria-pressed={isChosen}
      aria-disabled={disabled}
      disabled={disabled}
      onPress={onPress}
      className={`h-[58px] min-w-[44px] flex-1 items-center justify-center gap-1 rounded-xl border ${isChosen ? 'border-seal bg-raised' : 'border-transparent active:bg-raised'} ${disabled ? 'opacity-40' : ''}`}
      {...web({ title: tooltip })}
    >
      <Icon of={icon} tone={isChosen ? 'seal' : 'ink'} size={22} />
      <Text className={`text-12 text-ink ${isChosen ? 'font-bold tracking-tight' : 'font-sans'}`} numberOfLines={1}>
        {label}
      </Text>
    </Pressable>
  );
});
