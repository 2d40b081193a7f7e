import { releasedEdits } from '@true-nib/core/tethers';
import { ofKind } from '@true-nib/core/page';
import { Text, View } from 'react-native';
import { Button, say } from '../look';
import { useBoard } from '../board';
import { useSelection } from './useSelection';
import { setGuides, useGuides, templateFromLines } from '../guiding';

/** What guides can do with selected lines: make a template of them, untie them, wake the set they belong to. */
export function SelectedLines() {
  const board = useBoard();
  const strokes = useSelection((selection) => selection.strokes);
  const awake = useGuides((state) => state.awakeSet);
  const { session } = board;
  if (strokes.length === 0) return awake === undefined ? null : <AwakeSet />;
  const tied = strokes.filter(({ guide }) => guide !== undefined);
  const set = strokes.find(({ copy }) => copy !== undefined)?.copy?.set;
  return (
    <View className="gap-2">
      <View className="flex-row flex-wrap gap-2">
        <Button label="Make a template" onPress={() => templateFromLines(strokes)} />
        {tied.length > 0 && (
          <Button
            label="Release from guide"
            onPress={() => {
              session.commit(`Release ${tied.length} lines`, releasedEdits(tied));
              say(
                tied.length === 1
                  ? '1 line stays where it is from now on.'
                  : `${tied.length} lines stay where they are from now on.`,
              );
            }}
          />
        )}
        {set !== undefined && awake !== set && (
          <Button label="Wake the set" onPress={() => setGuides({ awakeSet: set })} />
        )}
      </View>
      {awake !== undefined && <AwakeSet />}
    </View>
  );
}

/** While a set is awake, what is done to one of its lines is done to all. */
function AwakeSet() {
  const { session } = useBoard();
  const awake = useGuides((state) => state.awakeSet);
  const count = ofKind(session.page, 'stroke').filter(({ copy }) => copy?.set === awake).length;
  return (
    <View className="gap-2">
      <Text className="font-sans text-14 text-ink">{`A set of ${count} lines is awake: what you do to one is done to all.`}</Text>
      <View className="flex-row">
        <Button label="Release the set" onPress={() => setGuides({ awakeSet: undefined })} />
      </View>
    </View>
  );
}
