import type { ReactNode } from 'react';
import { Text, View } from 'react-native';

/** A key as it is printed on the keyboard. */
export const KeyCap = ({ children }: { readonly children: string }) => (
  <Text className="min-w-[44px] rounded-md border border-edge bg-raised px-2 py-[3px] text-center font-bold text-12 text-ink">
    {children}
  </Text>
);

/** A command in a list: its name, then what belongs to it. */
export const CommandRow = ({ label, children }: { readonly label: string; readonly children: ReactNode }) => (
  <View className="min-h-[44px] flex-row items-center gap-2">
    <Text className="min-w-0 flex-1 font-sans text-14 text-ink">{label}</Text>
    {children}
  </View>
);
