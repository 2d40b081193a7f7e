import { ofKind, paperOf, pxToMm, WHITE_PAPER } from '@true-nib/core/page';
import Download from 'lucide-react-native/icons/download';
import { Text, View } from 'react-native';
import { Button, Choice, Switch } from '../../look';
import { useDelivery } from './delivery';
import { useBoard, usePage } from '../../board';
import { useDeliverChoice } from './deliverChoice';
import { useShallow } from 'zustand/react/shallow';

const SCALES = [
  { value: '1', label: '100 %' },
  { value: '0.5', label: '50 %' },
  { value: '0.25', label: '25 %' },
] as const;

export function DeliverButton() {
  const { delivery, progress } = useDelivery();
  const deliverAs = useDeliverChoice((choice) => choice.deliverAs);
  if (progress === undefined)
    return (
      <Button
        label={`Deliver ${deliverAs.toUpperCase()}`}
        icon={Download}
        tone="seal"
        onPress={() => void delivery.start()}
      />
    );
  const percent = Math.round(progress * 100);
  return (
    <View className="flex-row items-center gap-3">
      <View
        role="progressbar"
        aria-label="Delivering"
        aria-valuenow={percent}
        className="h-2 min-w-[80px] grow overflow-hidden rounded-full bg-rule"
      >
        <View className="h-2 bg-seal" style={{ width: `${percent}%` }} />
      </View>
      <Text className="font-sans text-14 text-ink">{`${percent} %`}</Text>
      <Button label="Cancel" onPress={() => delivery.stop()} />
    </View>
  );
}

export function FileKindSetting() {
  const kind = useDeliverChoice((choice) => choice.deliverAs);
  return (
    <Choice
      label="File"
      value={kind}
      onChange={(deliverAs) => useDeliverChoice.setState({ deliverAs })}
      options={[
        { value: 'png', label: 'PNG' },
        { value: 'svg', label: 'SVG' },
      ]}
    />
  );
}

export function ScaleChoice() {
  const { deliverAs, deliverScale } = useDeliverChoice(
    useShallow(({ deliverAs, deliverScale }) => ({ deliverAs, deliverScale })),
  );
  if (deliverAs === 'svg') return null;
  const value = SCALES.find((scale) => Number(scale.value) === deliverScale)?.value ?? '1';
  return (
    <Choice
      label="Size of the picture"
      value={value}
      options={SCALES}
      onChange={(scale) => useDeliverChoice.setState({ deliverScale: Number(scale) })}
    />
  );
}

/** Whether a PNG has black and white alone, as print takes line art. */
export function OneBitSwitch() {
  const { deliverAs, isOneBit } = useDeliverChoice(useShallow(({ deliverAs, isOneBit }) => ({ deliverAs, isOneBit })));
  if (deliverAs === 'svg') return null;
  return (
    <Switch
      label="Black and white only, 1-bit"
      on={isOneBit}
      onChange={(on) => useDeliverChoice.setState({ isOneBit: on })}
    />
  );
}

export function WithRoughSwitch() {
  const isOn = useDeliverChoice((choice) => choice.deliverRough);
  const hasRough = ofKind(usePage(useBoard()), 'picture').length > 0;
  if (!hasRough) return null;
  return (
    <Switch label="With the rough" on={isOn} onChange={(deliverRough) => useDeliverChoice.setState({ deliverRough })} />
  );
}

const paperInWords = (paper: string | null): string =>
  paper === null ? 'transparent where nothing is drawn' : paper === WHITE_PAPER ? 'on white paper' : 'on tinted paper';

/** What the file will be, in words. */
export function DeliveryInWords() {
  const { deliverAs, deliverScale, isOneBit } = useDeliverChoice(
    useShallow(({ deliverAs, deliverScale, isOneBit }) => ({ deliverAs, deliverScale, isOneBit })),
  );
  const page = usePage(useBoard());
  const { width, height, ppi } = page.size;
  const px = (length: number) => Math.max(1, Math.round(length * deliverScale));
  const mm = (length: number) => pxToMm(length, ppi).toFixed(1);
  return (
    <Text className="font-sans text-14 text-faint">
      {deliverAs === 'svg'
        ? `Vectors, ${mm(width)} × ${mm(height)} mm, one path a stroke, a group for each layer.`
        : `${px(width)} × ${px(height)} px at ${Math.round(ppi * deliverScale)} ppi, ${isOneBit ? 'without one grey px' : paperInWords(paperOf(page))}.`}
    </Text>
  );
}
