import { Text, View } from 'react-native';
import { Button, Choice, Faint, Line, ScrubNumber, Switch } from '../../look';
import { useSlot } from '../../board';
import { ColourSetting } from '../../nibs';
import { setBlacks, useBlacks, type Bounds, type Recolours } from './blackStore';
import { pourSlot } from './pourHand';
import { useRegions } from './pourStore';

const BOUNDS: readonly { readonly value: Bounds; readonly label: string }[] = [
  { value: 'inks', label: 'All Ink' },
  { value: 'layer', label: 'Layer' },
  { value: 'chosen', label: 'Chosen' },
];

const RECOLOURS: readonly { readonly value: Recolours; readonly label: string }[] = [
  { value: 'region', label: 'It alone' },
  { value: 'colour', label: 'Its like' },
  { value: 'layer', label: 'All flats' },
];

/** The widest opening that is closed, page px. */
export function GapSetting() {
  const gap = useBlacks((state) => state.gap);
  return (
    <ScrubNumber
      label="Close gaps to"
      value={gap}
      onChange={(value) => setBlacks({ gap: value })}
      {...{ least: 0, most: 60, step: 1, unit: ' px' }}
    />
  );
}

/** All that can be set about pouring. */
export function PourSettings({ isWide }: { readonly isWide: boolean }) {
  const { boundedBy, recolours, under, least, oneColour } = useBlacks();
  const pour = useSlot(pourSlot);
  const isReady = useRegions(({ status }) => status === 'ready');
  return (
    <View className="gap-3">
      <RegionsInWords />
      {isWide && (
        <Line>
          <GapSetting />
        </Line>
      )}
      <ColourSetting />
      <Choice
        label="Bounded by"
        value={boundedBy}
        options={BOUNDS}
        onChange={(value) => setBlacks({ boundedBy: value })}
        perRow={3}
      />
      <Switch
        label="To the middle of the lines"
        on={under === 'middle'}
        onChange={(on) => setBlacks({ under: on ? 'middle' : 2 })}
      />
      {under !== 'middle' && (
        <Line>
          <ScrubNumber
            label="Under the lines"
            value={under}
            onChange={(value) => setBlacks({ under: value })}
            {...{ least: 0, most: 20, step: 1, unit: ' px' }}
          />
        </Line>
      )}
      <Choice
        label="A touch on a flat colours"
        value={recolours}
        options={RECOLOURS}
        onChange={(value) => setBlacks({ recolours: value })}
        perRow={3}
      />
      <Text className="font-sans text-14 text-ink">Every region at once</Text>
      <Line>
        <ScrubNumber
          label="Join those under"
          value={least}
          onChange={(value) => setBlacks({ least: value })}
          {...{ least: 0, most: 10_000, step: 50, unit: ' px²' }}
        />
      </Line>
      <Switch label="In the colour in hand" on={oneColour} onChange={(on) => setBlacks({ oneColour: on })} />
      <Button label="Flat the page" tone="seal" disabled={!isReady} onPress={() => void pour.flatPage()} />
      <Faint>
        What was poured by hand stays. Flat it again after mending: regions that are still there keep their colours.
      </Faint>
    </View>
  );
}

/** What is known of the regions. */
export function RegionsInWords() {
  const { status, share, reason } = useRegions();
  const words =
    reason ??
    (status === 'working'
      ? `Looking for regions: ${Math.round(100 * share)} %`
      : 'Touch a region, or drag through several.');
  return (
    <Text className="font-sans text-14 text-faint" aria-live="polite" testID="regions">
      {words}
    </Text>
  );
}
