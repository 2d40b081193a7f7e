import { Text, View } from 'react-native';
import type { SettingsProps } from '../../board';
import {
  DeliverButton,
  DeliveryInWords,
  FileKindSetting,
  OneBitSwitch,
  ScaleChoice,
  WithRoughSwitch,
} from './FinishSettings';

/** In place of tools, on a phone: the one thing that is done here. */
export const FinishChips = () => (
  <View className="grow px-1">
    <DeliverButton />
  </View>
);

export const FinishLine = () => (
  <>
    <FileKindSetting />
    <ScaleChoice />
  </>
);

export function FinishAll({ isWide }: SettingsProps) {
  if (!isWide)
    return (
      <>
        <OneBitSwitch />
        <WithRoughSwitch />
        <DeliveryInWords />
      </>
    );
  return (
    <>
      <Text className="pt-2 font-sans text-12 text-faint">Deliver</Text>
      <FileKindSetting />
      <ScaleChoice />
      <OneBitSwitch />
      <WithRoughSwitch />
      <DeliveryInWords />
      <DeliverButton />
    </>
  );
}
