import { memo } from 'react';
import { Pressable, Text, View } from 'react-native';
import { useLatest } from './useLatest';

interface ChoiceProps<T extends string> {
  readonly label: string;
  readonly value: T;
  readonly options: readonly { readonly value: T; readonly label: string }[];
  readonly onChange: (value: T) => void;
  /** How many stand in one row; all of them when left out. */
  readonly perRow?: number;
}

/** One of a few, side by side. */
export function Choice<T extends string>({ label, value, options, onChange, perRow = options.length }: ChoiceProps<T>) {
  const rows = Array.from({ length: Math.ceil(options.length / perRow) }, (_, k) =>
    options.slice(k * perRow, (k + 1) * perRow),
  );
  const choose = useLatest(onChange);
  return (
    <View
      role="radiogroup"
      aria-label={label}
      className="flex-1 overflow-hidden rounded-xl border border-edge bg-raised"
      style={{ minHeight: 44 * rows.length + 2 }}
    >
      {rows.map((row, at) => (
        <View key={row[0].value} className={`min-h-[44px] flex-1 flex-row ${at > 0 ? 'border-t border-rule' : ''}`}>
          {row.map((option, k) => (
            <Option
              key={option.value}
              {...option}
              isChosen={option.value === value}
              isFirst={k === 0}
              onChoose={choose}
            />
          ))}
        </View>
      ))}
    </View>
  );
}

interface OptionProps<T extends string> {
  readonly value: T;
  readonly label: string;
  readonly isChosen: boolean;
  readonly isFirst: boolean;
  readonly onChoose: (value: T) => void;
}

function PlainOption<T extends string>({ value, label, isChosen, isFirst, onChoose }: OptionProps<T>) {
  return (
    <Pressable
      role="radio"
      aria-checked={isChosen}
      onPress={() => onChoose(value)}
      className={`min-h-[44px] flex-1 items-center justify-center px-0.5 ${isFirst ? '' : 'border-l border-rule'} ${isChosen ? 'bg-tray' : ''}`}
    >
      <Text
        className={`text-14 ${isChosen ? 'font-bold text-seal underline' : 'font-sans text-ink'}`}
        numberOfLines={1}
      >
        {label}
      </Text>
    </Pressable>
  );
}

// `memo` forgets that its component is generic.
const Option = memo(PlainOption) as typeof PlainOption;
