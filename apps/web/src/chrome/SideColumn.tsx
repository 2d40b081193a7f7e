import ChevronRight from 'lucide-react-native/icons/chevron-right';
import Layers from 'lucide-react-native/icons/layers';
import { Pressable, ScrollView, Text, View } from 'react-native';
import { IconButton, Icon, web, useIsLying } from '../look';
import { useDesk } from '../board';
import { GuideList } from '../stages/guides';
import { withKey } from '../keys';
import { StackPanel } from '../stack';

interface SideColumnProps {
  /** The room is kept while the page opens, so that it never moves on its own. */
  readonly isOpen: boolean;
}

/** Beside the page of a wide screen, on the drawing hand's side: the stack. Folded it is a narrow strip, at first on a phone. */
export function SideColumn({ isOpen }: SideColumnProps) {
  const isLying = useIsLying();
  const isFolded = useDesk((desk) => (isLying ? !desk.stackOpen : desk.sideFolded));
  const stage = useDesk((desk) => desk.stage);
  if (isFolded)
    return (
      <View role="complementary" aria-label="Stack" className="w-11 items-center border-l border-rule bg-tray pt-1">
        <Pressable
          role="button"
          aria-label="Open the stack"
          onPress={() => useDesk.setState(isLying ? { stackOpen: true } : { sideFolded: false })}
          className="h-11 w-11 items-center justify-center rounded-xl"
          {...web({ title: withKey('stack') })}
        >
          <Icon of={Layers} />
        </Pressable>
      </View>
    );
  return (
    <View role="complementary" aria-label="Stack" className="w-[252px] border-l border-rule bg-tray">
      <View className="flex-row items-center justify-between pl-3">
        <Text role="heading" className="font-bold text-14 text-ink">
          Stack
        </Text>
        <IconButton
          label="Fold the stack"
          tooltip={withKey('stack')}
          icon={ChevronRight}
          onPress={() => useDesk.setState(isLying ? { stackOpen: false } : { sideFolded: true })}
        />
      </View>
      <ScrollView className="flex-1" contentContainerClassName="gap-2 px-2 pb-4">
        {isOpen && stage === 'guides' && <Guides />}
        {isOpen && <StackPanel />}
        {isOpen && stage !== 'guides' && <Guides />}
      </ScrollView>
    </View>
  );
}

/** Under the stack; above it while guides are worked on. */
const Guides = () => (
  <View className="gap-1 pb-2 pt-1">
    <Text role="heading" className="font-bold text-14 text-ink">
      Guides on this page
    </Text>
    <GuideList />
  </View>
);
