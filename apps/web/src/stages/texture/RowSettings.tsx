import { View } from 'react-native';
import type { Board, SettingsProps } from '../../board';
import { Choice, Faint, Line, ScrubNumber } from '../../look';
import { ColourSetting } from '../../nibs';
import { COMB_WEIGHT } from './combHand';
import { featherSlot } from './featherHand';
import { LengthSetting, ShareSetting, UnderwayButton, UnderwayDeeds } from './parts';
import { spanSlot } from './spanHand';
import { setTexture, useTexture, type FeatherChoice, type SpanChoice } from './textureStore';
import { useUnderway } from './underwayStore';

const setSpan = (change: Partial<SpanChoice>) => setTexture('span', change);
const setFeather = (change: Partial<FeatherChoice>) => setTexture('feather', change);
const laySpan = (board: Board) => void board.of(spanSlot).settle();
const layFeather = (board: Board) => void board.of(featherSlot).settle();

const BY = [
  { value: 'count', label: 'How many' },
  { value: 'spacing', label: 'How far apart' },
] as const;

function SpanNumber() {
  const { by, count, spacing } = useTexture((state) => state.span);
  return by === 'count' ? (
    <ScrubNumber
      label="Rows"
      value={count}
      onChange={(value) => setSpan({ count: value })}
      {...{ least: 1, most: 1_000, step: 1, geometric: true }}
    />
  ) : (
    <LengthSetting
      label="Apart"
      value={spacing}
      onChange={(value) => setSpan({ spacing: value })}
      least={1}
      most={1_000}
      isShort
    />
  );
}

const Gather = () => (
  <ScrubNumber
    label="Gather"
    value={useTexture(({ span }) => span.gather)}
    onChange={(gather) => setSpan({ gather })}
    {...{ least: -100, most: 100, step: 1, unit: ' %' }}
  />
);

export const SpanLine = () => (
  <>
    <SpanNumber />
    <Gather />
    <UnderwayButton tool="span" lay={laySpan} />
  </>
);

export function SpanSettings({ isWide }: SettingsProps) {
  const by = useTexture(({ span }) => span.by);
  return (
    <View className="gap-3">
      <UnderwayDeeds tool="span" what="rows are under way." lay={laySpan} />
      <Choice
        label="Rows by"
        value={by}
        options={BY}
        onChange={(value) => setSpan({ by: value })}
        perRow={isWide ? 1 : 2}
      />
      <Line>
        <SpanNumber />
        <Gather />
      </Line>
      <Faint>
        Touch one line, then another, and more if you like. A touch on the paper is a point that rows run to; the same
        line twice means its two sides.
      </Faint>
      <ColourSetting />
    </View>
  );
}

export function SpanHint() {
  const isUnderway = useUnderway(({ tool }) => tool === 'span');
  return isUnderway ? 'Touch a further line, or lay the rows down' : 'Touch two lines: rows come between them';
}

const FeatherNumbers = () => {
  const { length, spacing } = useTexture((state) => state.feather);
  return (
    <>
      <LengthSetting
        label="Long"
        value={length}
        onChange={(value) => setFeather({ length: value })}
        least={2}
        most={2_000}
        step={1}
        isShort
      />
      <LengthSetting
        label="Apart"
        value={spacing}
        onChange={(value) => setFeather({ spacing: value })}
        least={1}
        most={500}
        isShort
      />
    </>
  );
};

export const FeatherLine = () => (
  <>
    <FeatherNumbers />
    <UnderwayButton tool="feather" lay={layFeather} />
  </>
);

export function FeatherSettings() {
  const { weight, slant, uneven } = useTexture((state) => state.feather);
  return (
    <View className="gap-3">
      <UnderwayDeeds tool="feather" what="rows are under way." lay={layFeather} />
      <Line>
        <FeatherNumbers />
      </Line>
      <Line>
        <ScrubNumber
          label="Slant"
          value={slant}
          onChange={(value) => setFeather({ slant: value })}
          {...{ least: -75, most: 75, step: 1, unit: '°' }}
        />
        <ShareSetting label="Uneven" value={uneven} onChange={(value) => setFeather({ uneven: value })} />
      </Line>
      <Line>
        <LengthSetting
          label="Weight"
          value={weight}
          onChange={(value) => setFeather({ weight: value })}
          {...COMB_WEIGHT}
        />
      </Line>
      <Faint>Draw along an edge of black. The harder the pen is pressed, the longer rows are.</Faint>
      <ColourSetting />
    </View>
  );
}
