import { Text, View } from 'react-native';
import { useShallow } from 'zustand/react/shallow';
import { inThousands } from '../base';
import { useDesk, workbench } from '../board';
import { keyInWords, keyIn, useKeySet } from '../keys';
import { useInHand } from './useInHand';

/** Under the page of a wide screen: what the tool in hand will do next, how the page lies, and the keys to hold. */
export function StatusLine() {
  const { zoom, turn } = useDesk(useShallow(({ zoom, turn }) => ({ zoom, turn })));
  const keys = useKeySet();
  const { stage } = useInHand();
  const holds = (stage?.holds ?? [])
    .flatMap((wanted) => workbench.holdCommands.filter(({ id }) => id === wanted))
    .flatMap(({ id, label }) => {
      const key = keyIn(keys, id);
      return key === undefined ? [] : [`${keyInWords(key)}: ${label.toLowerCase()}`];
    })
    .join(' · ');
  return (
    <View
      style={{ maxWidth: 'calc(100% - 24px)' } as object}
      className="absolute bottom-3 left-3 rounded-lg border border-rule bg-tray px-3 py-1"
      pointerEvents="none"
    >
      <Text className="font-sans text-12 text-faint" numberOfLines={1}>
        <Text className="font-bold text-ink">
          <Next />
        </Text>
        {` · ${inThousands(Math.round(zoom * 100))} % · ${Math.round((turn * 180) / Math.PI)}° · hold ${holds}`}
      </Text>
    </View>
  );
}

/** What the next touch does. */
function Next() {
  const { stage, tool } = useInHand();
  const hint = stage?.hint ?? tool?.hint ?? '';
  if (typeof hint === 'string') return hint;
  const Hint = hint;
  return <Hint />;
}
