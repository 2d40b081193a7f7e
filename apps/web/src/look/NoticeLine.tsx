import { Pressable, Text, View } from 'react-native';
import { hush, useNotice } from './notices';

/** The one line that speaks; read out by screen readers as it changes. */
export function NoticeLine() {
  const notice = useNotice((state) => state.notice);
  return (
    <View
      aria-live="polite"
      role="status"
      pointerEvents="box-none"
      className="absolute left-0 right-0 top-14 items-center px-4"
    >
      {notice && (
        <View className="max-w-[560px] flex-row items-center gap-2 rounded-xl border border-edge bg-tray py-1 pl-4 pr-1 shadow-lg">
          <Text className="shrink py-2 font-sans text-14 text-ink">{notice.message}</Text>
          <Pressable
            role="button"
            className="min-h-[44px] min-w-[44px] items-center justify-center rounded-lg px-3 active:bg-raised"
            onPress={() => {
              hush();
              notice.action?.run();
            }}
          >
            <Text className="font-bold text-14 text-seal">{notice.action?.label ?? 'Close'}</Text>
          </Pressable>
        </View>
      )}
    </View>
  );
}
