import X from 'lucide-react-native/icons/x';
import type { ReactNode } from 'react';
import { Modal, Pressable, ScrollView, Text, useWindowDimensions, View } from 'react-native';
import { IconButton } from './Button';
import { useIsWide } from './useIsWide';

interface SheetProps {
  readonly title: string;
  readonly onClose: () => void;
  readonly children: ReactNode;
  /** What stays in sight below, however long the rest is. */
  readonly footer?: ReactNode;
}

/** Something to fill in or choose from: from the bottom on a phone, in the middle on a wide screen. Esc closes it. */
export function Sheet({ title, onClose, children, footer }: SheetProps) {
  const { height } = useWindowDimensions();
  const wide = useIsWide();
  return (
    <Modal aria-label={title} transparent animationType="none" visible onRequestClose={onClose}>
      <View className={`flex-1 ${wide ? 'items-center justify-center' : 'justify-end'}`}>
        <Pressable aria-hidden focusable={false} className="absolute inset-0 bg-[#14161a]/35" onPress={onClose} />
        <View
          className={`bg-tray ${wide ? 'w-[520px] rounded-2xl border border-rule' : 'rounded-t-2xl border-t border-rule'}`}
          style={{ maxHeight: height * (wide ? 0.86 : 0.78) }}
        >
          <View className="flex-row items-center justify-between pl-5 pr-2 pt-2">
            <Text role="heading" className="font-bold text-20 text-ink">
              {title}
            </Text>
            <IconButton label="Close" icon={X} onPress={onClose} />
          </View>
          <ScrollView className="px-5" contentContainerClassName="gap-3 pb-6 pt-1">
            {children}
          </ScrollView>
          {footer !== undefined && <View className="gap-2 border-t border-rule px-5 pb-5 pt-3">{footer}</View>}
        </View>
      </View>
    </Modal>
  );
}
