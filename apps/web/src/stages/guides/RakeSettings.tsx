import { View, Text } from 'react-native';
import { ScrubNumber, Faint, Line } from '../../look';
import { useBoard, usePage } from '../../board';
import { useSelectedLines, useSelection } from '../../select';
import { fieldInHand, setGuides, useGuides } from '../../guiding';

/** How a loop is raked, and along what. */
export function RakeSettings() {
  const board = useBoard();
  usePage(board);
  const rake = useGuides((state) => state.rake);
  useGuides((state) => state.guideId);
  const field = fieldInHand(board);
  const set = (change: Partial<typeof rake>) => setGuides({ rake: { ...rake, ...change } });
  const isFocus = field?.shape.kind === 'rays';
  const isAny = useSelection(({ size }) => size > 0);
  const isLines = useSelectedLines() > 0;
  return (
    <View className="gap-2">
      <Faint>
        {field
          ? `Along ${field.name}, with the nib in hand.`
          : 'There is no field to rake along: lay down Rails, Ripples, Rays or an Echo.'}
      </Faint>
      <Line>
        <ScrubNumber
          label="Apart"
          value={rake.spacing}
          onChange={(spacing) => set({ spacing })}
          {...{ least: 1, most: 1000, step: 1, unit: ' px' }}
        />
        <ScrubNumber
          label="Stray"
          value={rake.jitter}
          onChange={(jitter) => set({ jitter })}
          {...{ least: 0, most: 100, step: 1, unit: ' %' }}
        />
      </Line>
      <Line>
        <ScrubNumber
          label="Ragged"
          value={rake.ragged}
          onChange={(ragged) => set({ ragged })}
          {...{ least: 0, most: 95, step: 1, unit: ' %' }}
        />
        {isFocus && !isAny && (
          <ScrubNumber
            label="Calm middle"
            value={rake.calm}
            onChange={(calm) => set({ calm })}
            {...{ least: 0, most: 95, step: 1, unit: ' %' }}
          />
        )}
      </Line>
      {isFocus && (
        <Faint>
          {isLines
            ? 'What the selected line encloses stays calm.'
            : 'Select a line round what is to stay calm, or leave the middle of the loop free.'}
        </Faint>
      )}
    </View>
  );
}

/** What the rake will do next. */
export const RakeInWords = () => (
  <Text className="shrink grow font-sans text-14 text-ink">Draw a loop: it is filled along the field.</Text>
);
