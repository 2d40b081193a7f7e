import { Text, View } from 'react-native';
import { ScrubNumber, Sheet } from '../look';
import { useDesk } from '../board';

/** Mm that the drawn ruler is long. */
const LENGTH = 70;

/** Measures the screen once with a real ruler, so that print size is print size. */
export function RulerSheet({ onClose }: { readonly onClose: () => void }) {
  const pxPerMm = useDesk((desk) => desk.pxPerMm);
  return (
    <Sheet title="Measure this screen" onClose={onClose}>
      <Text className="font-sans text-14 text-ink">
        {`Hold a ruler to the screen and drag the number until these marks are ${LENGTH} mm apart.`}
      </Text>
      <View className="h-16 justify-end border-b-2 border-ink" style={{ width: LENGTH * pxPerMm }} testID="ruler">
        {Array.from({ length: LENGTH / 10 + 1 }, (_, k) => (
          <View
            key={k}
            className="absolute bottom-0 w-px bg-ink"
            style={{ left: k * 10 * pxPerMm - (k === 0 ? 0 : 1), height: k % 5 === 0 ? 28 : 16 }}
          />
        ))}
      </View>
      <View className="flex-row">
        <ScrubNumber
          label="Screen px per 100 mm"
          value={Math.round(pxPerMm * 1000) / 10}
          onChange={(px) => useDesk.setState({ pxPerMm: px / 100 })}
          {...{ least: 120, most: 2_000, step: 0.5, geometric: true }}
        />
      </View>
    </Sheet>
  );
}
