import { panelsOn } from '@true-nib/core/comic';
import InPanel from 'lucide-react-native/icons/square-dot';
import OverBorders from 'lucide-react-native/icons/square-arrow-out-up-right';
import { Pressable, Text } from 'react-native';
import { useBoard, useDesk, usePage, workbench } from '../board';
import { withKey } from '../keys';
import { Icon, web } from '../look';

/** Whether what is drawn stays in the panel that it is begun in; only pages with panels have it. */
export function PanelSwitch({ isRoomy }: { readonly isRoomy: boolean }) {
  const board = useBoard();
  const isOver = useDesk((desk) => desk.overBorders);
  const isAside = useDesk((desk) => workbench.stage(desk.stage)?.isAside === true);
  const hasPanels = panelsOn(usePage(board)).length > 0;
  // A phone has room for it only where lines are drawn.
  if (!hasPanels || (isAside && !isRoomy)) return null;
  return (
    <Pressable
      role="switch"
      aria-checked={!isOver}
      aria-label="In its panel"
      onPress={() => workbench.run('over-borders', board)}
      className={`h-11 min-w-[40px] flex-row items-center justify-center gap-1 rounded-xl border px-2 ${isOver ? 'border-transparent' : 'border-seal bg-raised'}`}
      {...web({ title: withKey('over-borders') })}
    >
      <Icon of={isOver ? OverBorders : InPanel} tone={isOver ? 'ink' : 'seal'} size={20} />
      {isRoomy && (
        <Text className={`text-12 text-ink ${isOver ? 'font-sans' : 'font-bold'}`} numberOfLines={1}>
          {isOver ? 'Over borders' : 'In its panel'}
        </Text>
      )}
    </Pressable>
  );
}
