import { Pressable, Text, View } from 'react-native';

interface ChoiceProps<T extends string> {
  readonly label: string;
  readonly value: T;
  readonly options: readonly { readonly value: T; readonly label: string }[];
  readonly onChange: (value: T) => void;
}

/** One of a few, side by side. */
export function Choice<T extends string>({ label, value, options, onChange }: ChoiceProps<T>) {
  return (
    <View
      role="radiogroup"
      aria-label={label}
      className="min-h-[44px] flex-1 flex-row overflow-hidden rounded-xl border border-edge bg-raised"
    >
      {options.map((option, k) => {
        const isChosen = option.value === value;
        return (
          <Pressable
            key={option.value}
            role="radio"
            aria-checked={isChosen}
            onPress={() => onChange(option.value)}
            className={`min-h-[44px] flex-1 items-center justify-center px-1 ${k > 0 ? 'border-l border-rule' : ''} ${isChosen ? 'bg-tray' : ''}`}
          >
            <Text
              className={`text-14 ${isChosen ? 'font-bold text-seal underline' : 'font-sans text-ink'}`}
              numberOfLines={1}
            >
              {option.label}
            </Text>
          </Pressable>
        );
      })}
    </View>
  );
}
