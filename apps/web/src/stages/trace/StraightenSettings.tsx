import RotateCcw from 'lucide-react-native/icons/rotate-ccw';
import RotateCw from 'lucide-react-native/icons/rotate-cw';
import { View } from 'react-native';
import type { Hue } from '@true-nib/core/page';
import { usePage, useBoard, useDesk, useSlot } from '../../board';
import { Button, Chip, Faint, Hint, LineHint, Switch } from '../../look';
import { roughOf } from './roughOf';
import { straightenSlot } from './straightenHand';
import { useTrace } from './traceStore';

/** The rough in hand, and what straightens it. */
function useSheet() {
  const page = usePage(useBoard());
  const rough = roughOf(
    page,
    useDesk((desk) => desk.roughId),
  );
  return { rough, straighten: useSlot(straightenSlot) };
}

const HUES: readonly { readonly hue: Hue; readonly label: string }[] = [
  { hue: 'blue', label: 'Drop blue pencil' },
  { hue: 'red', label: 'Drop red' },
  { hue: 'green', label: 'Drop green' },
];

/** Makes the sheet flat, or shows it as it was taken. */
function FlatDeeds() {
  const { rough, straighten } = useSheet();
  const corners = useTrace((state) => state.corners);
  const isFinding = useTrace((state) => state.isFinding);
  if (!rough) return null;
  if (corners || isFinding)
    return (
      <View className="flex-row flex-wrap gap-2">
        <Button
          label={isFinding ? 'Looking for the sheet…' : 'Make flat'}
          tone="seal"
          disabled={isFinding}
          onPress={() => void straighten.flatten()}
        />
        <Button label="Leave it" onPress={() => straighten.letGo()} />
      </View>
    );
  return (
    <View className="flex-row flex-wrap gap-2">
      <Button
        label={rough.scan?.corners ? 'Move the corners' : 'Find the sheet'}
        onPress={() => void straighten.findSheet()}
      />
      {rough.scan?.corners && <Button label="As it was taken" onPress={() => void straighten.asTaken()} />}
    </View>
  );
}

function TurnChips() {
  const { straighten } = useSheet();
  return (
    <View className="flex-row gap-1">
      <Chip
        label="Left"
        icon={RotateCcw}
        tooltip="Turn the sheet to the left"
        onPress={() => void straighten.turn(-1)}
      />
      <Chip
        label="Right"
        icon={RotateCw}
        tooltip="Turn the sheet to the right"
        onPress={() => void straighten.turn(1)}
      />
    </View>
  );
}

export function StraightenLine() {
  const { rough } = useSheet();
  if (!rough) return <LineHint>Bring in a scan or a photo of paper first.</LineHint>;
  return <FlatDeeds />;
}

export function StraightenSettings({ isWide }: { readonly isWide: boolean }) {
  const { rough, straighten } = useSheet();
  if (!rough) return isWide ? <Hint>Bring in a scan or a photo of paper first.</Hint> : null;
  const { evened = false, drop = [] } = rough.scan ?? {};
  return (
    <View className="gap-2">
      {isWide && <FlatDeeds />}
      <TurnChips />
      <Switch label="Even light" on={evened} onChange={(on) => void straighten.even(on)} />
      {HUES.map(({ hue, label }) => (
        <Switch key={hue} label={label} on={drop.includes(hue)} onChange={(on) => void straighten.drop(hue, on)} />
      ))}
      <Faint>The picture itself is never changed: all of this can be undone.</Faint>
    </View>
  );
}
