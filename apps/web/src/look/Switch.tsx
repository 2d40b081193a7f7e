import { memo } from 'react';
import { Pressable, Text, View } from 'react-native';
import { useLatest } from './useLatest';

interface SwitchProps {
  readonly label: string;
  /** What it is called where no label is shown beside it. */
  readonly name?: string;
  readonly on: boolean;
  readonly onChange: (on: boolean) => void;
}

/** Something that is so or not, in words and by the knob's side. */
export function Switch({ onChange, ...face }: SwitchProps) {
  return <Face {...face} onChange={useLatest(onChange)} />;
}

const Face = memo(function Face({ label, name = label, on, onChange }: SwitchProps) {
  return (
    <Pressable
      role="switch"
      aria-checked={on}
      aria-label={name}
      onPress={() => onChange(!on)}
      className="min-h-[44px] flex-row items-center justify-between gap-3"
    >
      <Text className="shrink font-sans text-14 text-ink">{label}</Text>
      <View
        className={`h-7 w-12 justify-center rounded-full border px-[3px] ${on ? 'items-end border-seal bg-seal' : 'items-start border-edge bg-raised'}`}
      >
        <View className={`h-5 w-5 rounded-full ${on ? 'bg-onseal' : 'bg-edge'}`} />
      </View>
    </Pressable>
  );
});
