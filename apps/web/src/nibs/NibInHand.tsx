import { Pressable, Text, View } from 'react-native';
import { useDesk } from '../board';
import { LiveNib } from './LiveNib';
import { takeNextNib } from './rackStore';
import { useNib, useRackNib } from './useNib';

interface NibInHandProps {
  readonly width: number;
  readonly height: number;
  /** Whether its name stands under it. */
  readonly isNamed?: boolean;
}

/** The nib in hand as the line it draws; a tap takes the next one. */
export function NibInHand({ width, height, isNamed = false }: NibInHandProps) {
  const zoom = useDesk((desk) => desk.zoom);
  const nib = useNib();
  const { lays, calm } = useRackNib();
  return (
    <Pressable
      role="button"
      aria-label={`Next nib; ${nib.name} is in hand`}
      onPress={takeNextNib}
      className="overflow-hidden rounded-xl border border-edge bg-paper"
    >
      <LiveNib nib={nib} calm={calm} lays={lays} zoom={zoom} width={width} height={height} />
      {isNamed && (
        <View className="bg-tray px-3 py-1">
          <Text className="font-bold text-12 text-ink" numberOfLines={1}>
            {nib.name}
          </Text>
        </View>
      )}
    </Pressable>
  );
}
