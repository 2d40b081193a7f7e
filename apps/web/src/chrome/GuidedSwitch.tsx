import FollowsCurve from 'lucide-react-native/icons/spline-pointer';
import { Pressable, Text } from 'react-native';
import { useShallow } from 'zustand/react/shallow';
import { Icon, web } from '../look';
import { useBoard, workbench } from '../board';
import { withKey } from '../keys';
import { useGuides } from '../guiding';

/** The one switch for all guides: lines follow them, or are free. What bears the line under way is said here too. */
export function GuidedSwitch({ isRoomy }: { readonly isRoomy: boolean }) {
  const board = useBoard();
  const { guided, isFree, bearer } = useGuides(
    useShallow(({ guided, isFree, bearer }) => ({ guided, isFree, bearer })),
  );
  const isOn = guided && !isFree;
  return (
    <Pressable
      role="switch"
      aria-checked={guided}
      aria-label="Guided"
      onPress={() => workbench.run('guided', board)}
      className={`h-11 flex-row items-center gap-1 rounded-xl border px-2 ${isOn ? 'border-seal bg-raised' : 'border-transparent'}`}
      {...web({ title: withKey('guided') })}
    >
      {isRoomy && <Icon of={FollowsCurve} tone={isOn ? 'seal' : 'ink'} size={20} />}
      <Text className={`text-12 text-ink ${isOn ? 'font-bold' : 'font-sans'}`} numberOfLines={1}>
        {isOn ? (isRoomy && bearer ? `On ${bearer}` : 'Guided') : 'Free'}
      </Text>
    </Pressable>
  );
}
