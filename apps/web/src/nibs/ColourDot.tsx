import { Pressable, View } from 'react-native';
import type { LucideIcon } from 'lucide-react-native';
import { Icon, web } from '../look';

interface ColourDotProps {
  /** None for one that is still to be chosen. */
  readonly colour: string | undefined;
  readonly label: string;
  readonly isChosen: boolean;
  readonly onPress: () => void;
  /** What is drawn on one without a colour. */
  readonly icon?: LucideIcon;
}

/** A colour to be taken in hand. */
export function ColourDot({ colour, label, isChosen, onPress, icon }: ColourDotProps) {
  return (
    <Pressable
      role="button"
      aria-label={label}
      aria-pressed={isChosen}
      onPress={onPress}
      className="h-11 w-11 items-center justify-center"
      {...web({ title: label })}
    >
      <View
        className={`h-8 w-8 items-center justify-center rounded-full border ${isChosen ? 'border-2 border-seal' : 'border-edge'}`}
        style={{ backgroundColor: colour ?? 'transparent' }}
      >
        {colour === undefined && icon && <Icon of={icon} size={18} />}
      </View>
    </Pressable>
  );
}
