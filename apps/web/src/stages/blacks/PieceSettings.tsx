import { Text, View } from 'react-native';
import { useSlot } from '../../board';
import { Button, Faint, Line, ScrubNumber, PlaceList } from '../../look';
import { setBlacks, useBlacks } from './blackStore';
import { pieceSlot } from './pieceHand';
import { usePieces } from './pieceStore';

/** What is known of the pieces, in words. */
export function PiecesInWords() {
  const { pieces, specks, isLooking } = usePieces();
  const found =
    pieces.length > 0
      ? `${pieces.length} pieces. Touch one to take it off, or drag over several.`
      : specks
        ? specksInWords(specks.length)
        : 'Draw a loop round ink that overlaps.';
  return (
    <Text className="font-sans text-14 text-faint" aria-live="polite" testID="pieces">
      {isLooking ? 'Looking…' : found}
    </Text>
  );
}

const specksInWords = (count: number): string =>
  count === 0 ? 'No specks.' : count === 1 ? 'One speck.' : `${count} specks.`;

/** The size under which a piece is a crumb, and ink that touches no other a speck. */
export function CrumbSetting() {
  const crumb = useBlacks((state) => state.crumb);
  return (
    <ScrubNumber
      label="Small is under"
      value={crumb}
      onChange={(value) => setBlacks({ crumb: value })}
      {...{ least: 1, most: 5_000, step: 1, unit: ' px²', geometric: true }}
    />
  );
}

/** What can be done with all that is small. */
export function SmallDeeds() {
  const hand = useSlot(pieceSlot);
  const crumb = useBlacks((state) => state.crumb);
  const small = usePieces(({ pieces }) => pieces.filter(({ area }) => area < crumb).length);
  const specks = usePieces((state) => state.specks?.length ?? 0);
  return (
    <View className="flex-row flex-wrap gap-2">
      {small > 0 && <Button label={`Take ${small} small off`} tone="seal" onPress={() => hand.takeCrumbs()} />}
      <Button label="Find specks" onPress={() => void hand.findSpecks()} />
      {specks > 0 && (
        <Button
          label={specks === 1 ? 'Drop it' : `Drop all ${specks}`}
          tone="seal"
          onPress={() => void hand.dropSpecks()}
        />
      )}
    </View>
  );
}

/** All that can be set about pieces, and the specks of the layer in hand. */
export function PieceSettings({ isWide }: { readonly isWide: boolean }) {
  const hand = useSlot(pieceSlot);
  const { specks = [], inHand } = usePieces();
  return (
    <View className="gap-2">
      {isWide && (
        <>
          <PiecesInWords />
          <Line>
            <CrumbSetting />
          </Line>
          <SmallDeeds />
        </>
      )}
      <Faint>
        What is taken off is gone from this layer. A line that is cut across stays a line; one that loses a side becomes
        an area. A speck is ink that touches no other.
      </Faint>
      <PlaceList
        label="Specks"
        one="speck"
        places={specks}
        inHand={inHand}
        inWords={({ area }) => `${area.toFixed(area < 10 ? 1 : 0)} px²`}
        onGo={(k) => hand.goTo(k)}
      />
    </View>
  );
}
