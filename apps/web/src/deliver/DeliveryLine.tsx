import { Text, View } from 'react-native';
import { Button } from '../look';
import { stopDelivery, useDeliveries } from './deliveries';

/** How far the file is that is being made, and a way to stop it; seen wherever one is. Nothing while none is being made. */
export function DeliveryLine() {
  const underway = useDeliveries((state) => state.underway);
  if (!underway) return null;
  const percent = Math.round(underway.share * 100);
  return (
    <View pointerEvents="box-none" className="absolute top-[112px] left-0 right-0 items-center px-4">
      <View className="flex-row items-center gap-3 rounded-xl border border-edge bg-tray py-1 pl-4 pr-1 shadow-lg">
        <Text className="max-w-[160px] font-sans text-14 text-ink" numberOfLines={1}>
          {underway.title}
        </Text>
        <View
          role="progressbar"
          aria-label="Delivering"
          aria-valuenow={percent}
          className="h-2 w-[96px] overflow-hidden rounded-full bg-rule"
        >
          <View className="h-2 bg-seal" style={{ width: `${percent}%` }} />
        </View>
        <Text className="w-11 text-right font-sans text-14 text-ink">{`${percent} %`}</Text>
        <Button label="Cancel" onPress={stopDelivery} />
      </View>
    </View>
  );
}
