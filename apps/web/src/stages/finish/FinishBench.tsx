import type { ReactNode } from 'react';
import { View } from 'react-native';
import type { SettingsProps } from '../../board';
import { useIsWide } from '../../look';
import { DeliverButton, DeliverSettings, FileKindSetting, ScaleChoice } from './DeliverSettings';

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

export const FinishAll = ({ isWide }: SettingsProps) => <DeliverSettings isWide={isWide} />;
