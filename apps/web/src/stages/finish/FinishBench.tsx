import { View } from 'react-native';
import { useDesk, type SettingsProps, type Tool } from '../../board';
import { ToolChips } from '../../hand';
import { useIsWide } from '../../look';
import { DeliverButton, DeliverSettings, FileKindSetting, ScaleChoice } from './DeliverSettings';

/** The tools that look at the page; on a phone beside the one thing that is done with the first of them. */
export function FinishChips({ tools }: { readonly tools: readonly Tool[] }) {
  const isWide = useIsWide();
  const isLooking = useDesk(({ tool }) => tool === tools[0]?.id);
  if (isWide || !isLooking) return <ToolChips tools={tools} />;
  return (
    <>
      <View className="w-[116px] flex-row">
        <ToolChips tools={tools} />
      </View>
      <View className="grow justify-center px-1">
        <DeliverButton />
      </View>
    </>
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
