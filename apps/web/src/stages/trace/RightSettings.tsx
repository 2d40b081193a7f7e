import { Text, View } from 'react-native';
import type { Place } from '@true-nib/core/trace';
import { useSlot } from '../../board';
import { inThousands } from '../../base';
import { Button, Faint, Line, PictureChoice, PlaceList, ScrubNumber, Switch } from '../../look';
import { TOUCH_PICTURES } from './pictures';
import { rightSlot } from './rightHand';
import { openPlaces, setTrace, useTrace } from './traceStore';
import { tracingSlot } from './tracingDesk';
import { TraceDeed } from './TraceSettings';

const TOUCH = [
  { value: 'ways', label: 'Changes', picture: TOUCH_PICTURES.ways },
  { value: 'split', label: 'Splits', picture: TOUCH_PICTURES.split },
] as const;

const KINDS: Readonly<Record<Place['kind'], readonly [one: string, many: string]>> = {
  junction: ['junction', 'junctions'],
  black: ['black', 'blacks'],
  corner: ['corner', 'corners'],
  tip: ['tip', 'tips'],
  gap: ['gap', 'gaps'],
};

/** How a place stands, in words. */
export function placeInWords({ kind, choice, choices }: Place): string {
  switch (kind) {
    case 'junction':
      return `Junction: way ${choice + 1} of ${choices.length}`;
    case 'black':
      return choice === 0 ? 'Black: an area' : 'Black: a broad line';
    case 'corner':
      return choice === 0 ? 'Corner: sharp' : 'Corner: a bend';
    case 'tip':
      return choice === 0 ? 'Tip: a point' : 'Tip: blunt';
    case 'gap':
      return choice === 0 ? 'Gap: open' : 'Gap: bridged';
  }
}

/** What is still in doubt, summed up. */
export function doubtsInWords(open: readonly Place[]): string {
  if (open.length === 0) return 'No place is in doubt.';
  const counts = Object.entries(KINDS).flatMap(([kind, [one, many]]) => {
    const count = open.filter((place) => place.kind === kind).length;
    return count === 0 ? [] : [`${inThousands(count)} ${count === 1 ? one : many}`];
  });
  return `In doubt: ${counts.join(', ')}.`;
}

function Doubts() {
  const places = useTrace((state) => state.places);
  const seen = useTrace((state) => state.seen);
  const share = useTrace((state) => state.share);
  return (
    <Text className="font-sans text-14 text-faint" aria-live="polite" testID="doubts">
      {share === undefined ? doubtsInWords(openPlaces({ places, seen })) : 'Looking for places in doubt…'}
    </Text>
  );
}

/** From place to place, and the next way of the one in hand. */
function Steps() {
  const right = useSlot(rightSlot);
  const places = useTrace((state) => state.places);
  const inHand = useTrace((state) => state.inHand);
  const share = useTrace((state) => state.share);
  const place = inHand === undefined ? undefined : places[inHand];
  if (share !== undefined) return <TraceDeed />;
  return (
    <View className="min-w-0 flex-1 flex-row flex-wrap gap-2">
      <Button
        label="Next place"
        tone={place ? undefined : 'seal'}
        disabled={places.length === 0}
        onPress={() => right.step(1)}
      />
      <Button
        label="Another way"
        tone={place ? 'seal' : undefined}
        disabled={!place}
        onPress={() => void right.another()}
      />
    </View>
  );
}

export const RightLine = () => (
  <View className="min-w-0 flex-1 gap-1">
    <Doubts />
    <Steps />
  </View>
);

export function RightSettings({ isWide }: { readonly isWide: boolean }) {
  const right = useSlot(rightSlot);
  const desk = useSlot(tracingSlot);
  const { places, inHand, seen, touch, isComparing, compared, between, layerId } = useTrace();
  const open = openPlaces({ places, seen });
  const place = inHand === undefined ? undefined : places[inHand];
  if (layerId === undefined && places.length === 0)
    return <Faint>Nothing is traced that was not let go of: trace a scan first.</Faint>;
  return (
    <View className="gap-2">
      {isWide && <Doubts />}
      {isWide && <Steps />}
      {place && (
        <Text className="font-sans text-14 text-ink" aria-live="polite" testID="place">
          {placeInWords(place)}
        </Text>
      )}
      <PictureChoice
        label="What a touch does"
        value={touch}
        options={TOUCH}
        isLines
        onChange={(next) => setTrace({ touch: next })}
      />
      <Switch
        label="Show what differs"
        on={isComparing}
        onChange={(on) => setTrace({ isComparing: on, ...(!on && { compared: undefined }) })}
      />
      {compared && (
        <Text className="font-sans text-14 text-ink" aria-live="polite" testID="compared">
          {`Missing (blue): ${percent(compared.missing)}. Too much (orange): ${percent(compared.tooMuch)}.`}
        </Text>
      )}
      <Line>
        <ScrubNumber
          label="Paper to lines"
          value={between ?? 50}
          shown={between === undefined ? 'Both' : `${between} %`}
          onChange={(next) => setTrace({ between: next })}
          {...{ least: 0, most: 100, step: 1, unit: ' %' }}
        />
      </Line>
      {between !== undefined && (
        <Button label="Show both as they are" onPress={() => setTrace({ between: undefined })} />
      )}
      <Button label="Let it be ink" onPress={() => desk.letGoOf()} />
      <Faint>From then on the lines are ink like any other. Mend has the rest.</Faint>
      <PlaceList
        label="Places in doubt"
        one="place"
        places={open}
        inHand={place ? open.indexOf(place) : undefined}
        inWords={placeInWords}
        onGo={(k) => right.goTo(places.indexOf(open[k]))}
      />
    </View>
  );
}

const percent = (share: number): string => `${(100 * share).toFixed(1)} %`;
