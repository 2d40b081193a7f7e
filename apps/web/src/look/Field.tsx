import { Text, TextInput, View } from 'react-native';

interface FieldProps {
  readonly label: string;
  readonly value: string;
  readonly onChange: (value: string) => void;
  readonly onSubmit?: () => void;
  readonly onBlur?: () => void;
  readonly numeric?: boolean;
  readonly autoFocus?: boolean;
}

export function Field({ label, value, onChange, onSubmit, onBlur, numeric = false, autoFocus = false }: FieldProps) {
  return (
    <View className="flex-1 gap-1">
      <Text className="font-sans text-12 text-faint">{label}</Text>
      <TextInput
        aria-label={label}
        className="min-h-[44px] rounded-xl border border-edge bg-raised px-3 font-sans text-16 text-ink"
        style={{ minWidth: 0 }}
        value={value}
        onChangeText={onChange}
        onSubmitEditing={onSubmit}
        onBlur={onBlur}
        inputMode={numeric ? 'decimal' : 'text'}
        autoFocus={autoFocus}
        maxLength={120}
      />
    </View>
  );
}
