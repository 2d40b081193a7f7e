import ChevronDown from 'lucide-react-native/icons/chevron-down';
import ChevronUp from 'lucide-react-native/icons/chevron-up';
import { useState } from 'react';
import { ScrollView, useWindowDimensions, View } from 'react-native';
import { useKeySet } from '../keys';
import { IconButton } from '../look';
import { BENCH_HEIGHT } from './benchHeight';
import { StageTools } from './StageTools';
import { Thread } from './Thread';
import { useFolded } from './useFolded';
import { useInHand } from './useInHand';

/** The bench of a phone, under the thumb: what matters now, the tools of the stage, the stages. Pulled up it shows all. */
export function Bench() {
  const { height, width } = useWindowDimensions();
  const [isUp, setUp] = useState(false);
  const { stage, tool } = useInHand();
  const Line = stage?.Line ?? tool?.Line;
  const Settings = stage?.Settings ?? tool?.Settings;
  const isFolded = useFolded();
  const isLeft = useKeySet((set) => set.hand === 'left');
  return (
    <View
      className="absolute bottom-0 left-0 right-0 border-t border-rule bg-tray"
      style={
        {
          transform: [{ translateY: isFolded ? FOLD : 0 }],
          transitionProperty: 'transform',
          transitionDuration: '160ms',
        } as object
      }
      pointerEvents={isFolded ? 'none' : 'auto'}
      aria-hidden={isFolded}
      testID="bench"
    >
      {isUp && (
        <ScrollView
          style={{ maxHeight: Math.max(120, height * 0.6 - BENCH_HEIGHT) }}
          className="border-b border-rule"
          contentContainerClassName="gap-3 p-3"
        >
          {Settings && <Settings width={width - 26} isWide={false} />}
        </ScrollView>
      )}
      <View className={`min-h-[58px] ${isLeft ? 'flex-row-reverse' : 'flex-row'} items-center gap-2 pl-3 pr-1 pt-1`}>
        {Line && <Line />}
        <IconButton
          label={isUp ? 'Fewer settings' : 'All settings'}
          icon={isUp ? ChevronDown : ChevronUp}
          onPress={() => setUp(!isUp)}
        />
      </View>
      <View className={`min-h-[60px] ${isLeft ? 'flex-row-reverse' : 'flex-row'} items-center gap-1 px-2`}>
        <StageTools isWide={false} />
      </View>
      <Thread isUpright={false} />
    </View>
  );
}

/** CSS px by which the bench sinks while a line is drawn: a sliver stays. */
const FOLD = BENCH_HEIGHT - 14;
