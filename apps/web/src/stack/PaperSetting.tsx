import { layPaper, paperOf, WHITE_PAPER } from '@true-nib/core/page';
import { Text, View } from 'react-native';
import { Choice } from '../look';
import { useBoard, usePage } from '../board';

/** Warm paper that rests the eyes. */
const TINT = '#f5ecd8';

/** What the page lies on. Paper goes into what is delivered, unless there is none. */
export function PaperSetting() {
  const board = useBoard();
  const paper = paperOf(usePage(board));
  const kind = paper === null ? 'none' : paper === WHITE_PAPER ? 'white' : 'tint';
  return (
    <View className="gap-1">
      <Text className="font-sans text-12 text-faint">Paper</Text>
      <View className="flex-row">
        <Choice
          label="Paper"
          value={kind}
          options={[
            { value: 'white', label: 'White' },
            { value: 'tint', label: 'Tint' },
            { value: 'none', label: 'None' },
          ]}
          onChange={(next) =>
            board.session.make(layPaper(board.session.page, { white: WHITE_PAPER, tint: TINT, none: null }[next]))
          }
        />
      </View>
    </View>
  );
}
