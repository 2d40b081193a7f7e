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

/** On a phone both stand in two rows, wide enough for a thumb. */
export const FinishLine = () => (
  <>
    <View className="flex-[2] flex-row">
      <FileKindSetting />
    </View>
    <ScaleChoice perRow={2} />
  </>
);

export const FinishAll = ({ isWide }: SettingsProps) => <DeliverSettings isWide={isWide} />;
