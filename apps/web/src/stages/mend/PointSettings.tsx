import { useState, useSyncExternalStore } from 'react';
import { Text, View } from 'react-native';
import { Button, ScrubNumber, Switch } from '../../look';
import { useSlot } from '../../board';
import { pointSlot, type PointsInHand } from './pointTool';

export function usePoints(): PointsInHand | undefined {
  const points = useSlot(pointSlot);
  return useSyncExternalStore(points.onChange, points.inHand);
}

/** What the point tool will do next, in words. */
export function PointsInWords() {
  const points = usePoints();
  const words = !points
    ? 'Touch a line to see its points.'
    : points.chosen === undefined
      ? `${points.count} points. Drag one, or touch the line to add one.`
      : points.picked > 1
        ? `${points.picked} of ${points.count} points.`
        : `Point ${points.chosen + 1} of ${points.count}, ${points.isSmooth ? 'smooth' : 'a corner'}.`;
  return <Text className="grow font-sans text-14 text-faint">{words}</Text>;
}

/** What can be done with the chosen point. */
export function PointSettings() {
  const hand = useSlot(pointSlot);
  const points = usePoints();
  const isIdle = points?.chosen === undefined;
  const [isMore, setMore] = useState(hand.isPickingMore);
  const pickMore = (next: boolean) => {
    setMore(next);
    hand.setPicksMore(next);
  };
  return (
    <View className="gap-2">
      <PointsInWords />
      <View className="flex-row gap-2">
        <ScrubNumber
          label="Width here"
          value={Number((points?.width ?? 0).toFixed(1))}
          onChange={(width) => hand.weigh(width, false)}
          onSettled={(width) => hand.weigh(width, true)}
          least={0}
          most={400}
          step={0.5}
          unit=" px"
          disabled={isIdle}
        />
      </View>
      <View className="flex-row flex-wrap gap-2">
        <Button label="Smooth" disabled={isIdle} onPress={() => hand.change('smooth')} />
        <Button label="Corner" disabled={isIdle} onPress={() => hand.change('corner')} />
        <Button label="Remove" disabled={isIdle} onPress={() => hand.change('remove')} />
        <Button label="Break" disabled={isIdle} onPress={() => hand.divide('break')} />
        <Button label="Cut at crossing" disabled={isIdle} onPress={() => hand.divide('cut')} />
        <Button label="Join" disabled={isIdle} onPress={() => hand.divide('join')} />
      </View>
      <Switch label="Several (Shift)" on={isMore} onChange={pickMore} />
      <View className="flex-row flex-wrap gap-2">
        <Button label="Level" disabled={isIdle} onPress={() => hand.change('level')} />
        <Button label="Upright" disabled={isIdle} onPress={() => hand.change('upright')} />
        <Button label="Spread evenly" disabled={isIdle} onPress={() => hand.change('distribute')} />
      </View>
    </View>
  );
}
