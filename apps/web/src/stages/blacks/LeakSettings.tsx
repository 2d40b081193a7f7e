import { Text, View } from 'react-native';
import { pxToMm } from '@true-nib/core/page';
import { useBoard, useSlot } from '../../board';
import { Button, Faint, Line, PlaceList } from '../../look';
import { leakSlot } from './leakHand';
import { useLeaks } from './leakStore';
import { GapSetting } from './PourSettings';
import { useRegions } from './pourStore';

/** How many leaks there are, in words. */
export function LeaksInWords() {
  const { status, share, reason } = useRegions();
  const count = useLeaks(({ leaks }) => leaks.length);
  const found = count === 0 ? 'No gap leaks.' : count === 1 ? 'One gap leaks.' : `${count} gaps leak.`;
  const words = reason ?? (status === 'working' ? `Looking: ${Math.round(100 * share)} %` : found);
  return (
    <Text className="font-sans text-14 text-faint" aria-live="polite" testID="leaks">
      {words}
    </Text>
  );
}

/** What can be done about the leak in hand. */
export function LeakDeeds() {
  const check = useSlot(leakSlot);
  const hasOne = useLeaks(({ inHand }) => inHand !== undefined);
  return (
    <View className="flex-row flex-wrap gap-2">
      <Button label="Bridge" tone="seal" disabled={!hasOne} onPress={() => check.bridge()} />
      <Button label="Stop" disabled={!hasOne} onPress={() => check.say('stop')} />
      <Button label="Meant" disabled={!hasOne} onPress={() => check.say('meant')} />
    </View>
  );
}

/** All that can be set about the check, and the leaks by what is at stake. */
export function LeakSettings({ isWide }: { readonly isWide: boolean }) {
  const { leaks, inHand } = useLeaks();
  const check = useSlot(leakSlot);
  const { ppi } = useBoard().session.page.size;
  return (
    <View className="gap-2">
      <LeaksInWords />
      {isWide && (
        <Line>
          <GapSetting />
        </Line>
      )}
      {isWide && <LeakDeeds />}
      <Faint>
        A bridge is a line like those beside it. A stop holds colour and is never inked. What is meant stays open.
      </Faint>
      <Button label="Forget all stops and meant gaps" onPress={() => check.forgetSaid()} />
      <PlaceList
        label="Leaks"
        one="leak"
        places={leaks}
        inHand={inHand}
        inWords={({ width }) => `${width.toFixed(1)} px · ${pxToMm(width, ppi).toFixed(2)} mm`}
        onGo={(k) => check.goTo(k)}
      />
    </View>
  );
}
