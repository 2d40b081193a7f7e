import type { ReactNode } from 'react';
import { Text, View } from 'react-native';
import { useIsWide } from '../../look';
import type { SettingsProps } from '../../board';
import {
  DeliverButton,
  DeliveryInWords,
  FileKindSetting,
  OneBitSwitch,
  ScaleChoice,
  WithRoughSwitch,
} from './FinishSettings';

/** The tool that looks at the page; on a phone in its place the one thing that is done with it. */
export function FinishChips({ chip }: { readonly chip: ReactNode }) {
  return useIsWide() ? (
    chip
  ) : (
    <View className="grow px-1">
      <DeliverButton />
    </View>
  );
}

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
