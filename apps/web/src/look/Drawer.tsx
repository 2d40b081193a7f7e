import X from 'lucide-react-native/icons/x';
import type { ReactNode } from 'react';
import { ScrollView, Text, useWindowDimensions, View } from 'react-native';
import { IconButton } from './Button';

interface DrawerProps {
  readonly title: string;
  readonly onClose: () => void;
  readonly children: ReactNode;
}

/** Something pulled out over the foot of a phone: at most six tenths of it, so that the page stays in sight and answers. */
export function Drawer({ title, onClose, children }: DrawerProps) {
  const { height } = useWindowDimensions();
  return (
    <View
      role="region"
      aria-label={title}
      className="absolute bottom-0 left-0 right-0 rounded-t-2xl border-t border-rule bg-tray"
      style={{ maxHeight: height * 0.6 }}
    >
      <View className="flex-row items-center justify-between pl-4 pr-1">
        <Text role="heading" className="font-bold text-16 text-ink">
          {title}
        </Text>
        <IconButton label={`Close ${title.toLowerCase()}`} icon={X} onPress={onClose} />
      </View>
      <ScrollView className="px-3" contentContainerClassName="gap-2 pb-5">
        {children}
      </ScrollView>
    </View>
  );
}
