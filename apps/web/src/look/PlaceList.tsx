import type { Point } from '@true-nib/core/math';
import { Pressable, Text, View } from 'react-native';

/** Rows that are listed; the others come as those are done with. */
const MOST_ROWS = 40;

interface PlaceListProps<T extends Point> {
  readonly label: string;
  /** What one of them is called. */
  readonly one: string;
  readonly places: readonly T[];
  /** The place that was gone to. */
  readonly inHand: number | undefined;
  readonly inWords: (place: T) => string;
  readonly onGo: (index: number) => void;
}

/** Places of the page, each to be gone to at a touch. */
export function PlaceList<T extends Point>({ label, one, places, inHand, inWords, onGo }: PlaceListProps<T>) {
  return (
    <View role="list" aria-label={label} className="gap-1">
      {places.slice(0, MOST_ROWS).map((place, k) => (
        <Pressable
          key={`${place.x} ${place.y}`}
          role="button"
          aria-label={`Show ${one} ${k + 1}`}
          onPress={() => onGo(k)}
          className={`min-h-[44px] flex-row items-center justify-between rounded-xl border px-2 ${k === inHand ? 'border-seal bg-raised' : 'border-rule'}`}
        >
          <Text className="font-sans text-14 text-ink">{inWords(place)}</Text>
          <Text className="font-sans text-12 text-faint">{`at ${Math.round(place.x)}, ${Math.round(place.y)}`}</Text>
        </Pressable>
      ))}
    </View>
  );
}
