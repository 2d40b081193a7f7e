import { find } from '@true-nib/core/page';
import { setsOn } from '@true-nib/core/staging';
import Eye from 'lucide-react-native/icons/eye';
import EyeOff from 'lucide-react-native/icons/eye-off';
import Lock from 'lucide-react-native/icons/lock';
import LockOpen from 'lucide-react-native/icons/lock-open';
import { Pressable, Text, View } from 'react-native';
import { useBoard } from '../../board';
import { Button, Choice, Fold, IconButton, NameField } from '../../look';
import { chooseBlocks, deleteSet, startSet } from './deeds';
import { useSetInHand } from './inHand';
import { setSets } from './setStore';

/** The sets of the page, and the blocks of the one in hand. */
export function SetList() {
  const board = useBoard();
  const { session } = board;
  const { page, set, blocks, chosen } = useSetInHand();
  const sets = setsOn(page);
  if (!set) return null;
  const toggle = (id: string, field: 'hidden' | 'locked', label: string) => {
    const before = find(session.page, 'block', id);
    if (before) session.commit(label, [{ before, after: { ...before, [field]: !before[field] } }]);
  };
  return (
    <View className="gap-2">
      {sets.length > 1 && (
        <Choice
          label="Set"
          value={set.id}
          options={sets.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={(setId) => setSets({ setId, chosen: [] })}
          perRow={2}
        />
      )}
      <NameField
        label="Name of the set"
        name={set.name}
        most={60}
        onName={(name) => session.commit('Name the set', [{ before: set, after: { ...set, name } }])}
      />
      <Fold title={`Blocks (${blocks.length})`}>
        {blocks.map((block) => {
          const isChosen = chosen.some(({ id }) => id === block.id);
          return (
            <View key={block.id} className="flex-row items-center">
              <Pressable
                role="button"
                aria-pressed={isChosen}
                onPress={() => chooseBlocks(page, [block.id])}
                className="min-h-[44px] flex-1 justify-center"
              >
                <Text
                  className={`text-14 ${isChosen ? 'font-bold text-seal' : 'font-sans text-ink'}`}
                  numberOfLines={1}
                >
                  {block.name}
                </Text>
              </Pressable>
              <IconButton
                label={block.hidden ? `Show ${block.name}` : `Hide ${block.name}`}
                icon={block.hidden ? EyeOff : Eye}
                onPress={() => toggle(block.id, 'hidden', block.hidden ? 'Show the block' : 'Hide the block')}
              />
              <IconButton
                label={block.locked ? `Unlock ${block.name}` : `Lock ${block.name}`}
                icon={block.locked ? Lock : LockOpen}
                onPress={() => toggle(block.id, 'locked', block.locked ? 'Unlock the block' : 'Lock the block')}
              />
            </View>
          );
        })}
      </Fold>
      <View className="flex-row flex-wrap gap-2">
        <Button label="Another set" onPress={() => startSet(board)} />
        <Button label={`Delete ${set.name}`} onPress={() => deleteSet(board)} />
      </View>
    </View>
  );
}
