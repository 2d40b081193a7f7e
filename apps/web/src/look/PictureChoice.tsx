import { Pressable, Text, View } from 'react-native';
import Svg, { Path } from 'react-native-svg';
import { useIsWide } from './useIsWide';

interface PictureChoiceProps<T extends string> {
  readonly label: string;
  readonly value: T | undefined;
  /** `picture`: path data that is filled, 44 by 30. */
  readonly options: readonly { readonly value: T; readonly label: string; readonly picture: string }[];
  readonly onChange: (value: T) => void;
  /** The paths are lines, not outlines. */
  readonly isLines?: boolean;
}

/** One of a few that show themselves as small drawings, their words below. */
export function PictureChoice<T extends string>({
  label,
  value,
  options,
  onChange,
  isLines = false,
}: PictureChoiceProps<T>) {
  const isWide = useIsWide();
  return (
    <View role="radiogroup" aria-label={label} className="flex-row flex-wrap gap-1">
      {options.map((option) => {
        const isChosen = option.value === value;
        return (
          <Pressable
            key={option.value}
            role="radio"
            aria-checked={isChosen}
            aria-label={option.label}
            onPress={() => onChange(option.value)}
            className={`min-h-[56px] ${isWide ? 'w-[57px]' : 'min-w-[64px] flex-1'} items-center justify-center rounded-xl border ${isChosen ? 'border-seal bg-raised' : 'border-rule'}`}
          >
            <Svg width={44} height={30} viewBox="0 0 44 30" aria-hidden>
              <Path
                d={option.picture}
                {...(isLines
                  ? { fill: 'none', stroke: 'var(--ink)', strokeWidth: 1.2, strokeLinecap: 'round' }
                  : { fill: 'var(--ink)' })}
              />
            </Svg>
            <Text className={`text-12 ${isChosen ? 'font-bold text-seal' : 'font-sans text-ink'}`} numberOfLines={1}>
              {option.label}
            </Text>
          </Pressable>
        );
      })}
    </View>
  );
}
