import type { ReactNode } from 'react';
import { ActivityIndicator, Text, View } from 'react-native';

interface EmptyProps {
  readonly title: string;
  readonly detail: string;
  readonly children?: ReactNode;
}

/** A screen without its content: what happened, what is safe, what to do. */
export function Empty({ title, detail, children }: EmptyProps) {
  return (
    <View className="flex-1 items-center justify-center gap-3 p-8">
      <Text role="heading" className="text-center font-bold text-20 text-ink">
        {title}
      </Text>
      <Text className="max-w-[420px] text-center font-sans text-16 text-faint">{detail}</Text>
      {children}
    </View>
  );
}

export function Loading({ what }: { readonly what: string }) {
  return (
    <View className="flex-1 items-center justify-center gap-3" aria-busy>
      <ActivityIndicator color="var(--seal)" />
      <Text className="font-sans text-14 text-faint">{what}</Text>
    </View>
  );
}
