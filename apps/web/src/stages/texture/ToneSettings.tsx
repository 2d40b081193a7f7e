import { View, Text } from 'react-native';
import { useBoard, useDesk, type SettingsProps } from '../../board';
import { Button, Choice, ColourSheet, Faint, Line, PictureChoice, ScrubNumber, Switch } from '../../look';
import { ColourDot, ColourSetting } from '../../nibs';
import { useState } from 'react';
import { FromSelected, ShareSetting } from './parts';
import { tonePicture } from './pictures';
import { setTexture, useTexture, type GradientChoice, type ToneChoice } from './textureStore';
import { showsDots, toneSlot } from './toneHand';
import { useToneInHand } from './toneInHand';

const SCREENS = [
  { value: 'dots', label: 'Dots', picture: tonePicture('dots', 0.35) },
  { value: 'lines', label: 'Lines', picture: tonePicture('lines', 0.35) },
  { value: 'crossed', label: 'Crossed', picture: tonePicture('crossed', 0.45) },
] as const;

const SHARES = [10, 20, 30, 40, 60].map((share) => ({
  value: String(share),
  label: `${share} %`,
  picture: tonePicture('dots', share / 100),
}));

const RAMPS = [
  { value: 'none', label: 'Even' },
  { value: 'straight', label: 'Straight' },
  { value: 'round', label: 'Round' },
] as const;

const DRAGS = [
  { value: 'move', label: 'Move' },
  { value: 'turn', label: 'Turn' },
  { value: 'ramp', label: 'Tone' },
] as const;

/** Dots of fewer px than this on a side lose their share. */
const LEAST_PX = 4;
/** Degrees from level or upright within which dots make a pattern beside ruled lines. */
const LEVEL = 5;

/** Changes the tone that is set, and the one in hand with it. */
function useSet() {
  const board = useBoard();
  return {
    show: (change: Partial<ToneChoice>) => setTexture('tone', change),
    keep: () => board.of(toneSlot).keep(),
    set: (change: Partial<ToneChoice>) => {
      setTexture('tone', change);
      board.of(toneSlot).keep();
    },
  };
}

function Share() {
  const share = useTexture(({ tone }) => tone.share);
  const { show, keep } = useSet();
  return (
    <ShareSetting
      label="Share"
      value={share}
      onChange={(value) => show({ share: value })}
      onSettled={keep}
      least={1}
      most={99}
    />
  );
}

function LinesPerInch() {
  const lpi = useTexture(({ tone }) => tone.lpi);
  const { ppi } = useBoard().session.card;
  const { show, keep } = useSet();
  return (
    <ScrubNumber
      label="Lines per inch"
      value={lpi}
      onChange={(value) => show({ lpi: value })}
      onSettled={keep}
      {...{ least: 5, most: Math.max(10, Math.floor(ppi / 2)), step: 0.5 }}
    />
  );
}

const DragInTone = () => {
  const drag = useTexture(({ tone }) => tone.drag);
  return (
    <Choice
      label="A drag in the tone"
      value={drag}
      options={DRAGS}
      onChange={(value) => setTexture('tone', { drag: value })}
    />
  );
};

/** The settings that matter now, for a phone. */
export function ToneLine() {
  const hasOne = useToneInHand(({ id }) => id !== undefined);
  return (
    <>
      <Share />
      {hasOne ? (
        <View className="grow">
          <DragInTone />
        </View>
      ) : (
        <LinesPerInch />
      )}
    </>
  );
}

export function ToneSettings({ isWide }: SettingsProps) {
  const tone = useTexture((state) => state.tone);
  const hasOne = useToneInHand(({ id }) => id !== undefined);
  const { show, keep, set } = useSet();
  return (
    <View className="gap-3">
      {hasOne && isWide && <DragInTone />}
      <PictureChoice label="Screen" value={tone.screen} options={SCREENS} onChange={(screen) => set({ screen })} />
      <PictureChoice
        label="Share of black"
        value={String(tone.share)}
        options={SHARES}
        onChange={(share) => set({ share: Number(share) })}
      />
      <Line>
        <Share />
        <ScrubNumber
          label="Angle"
          value={tone.angle}
          onChange={(angle) => show({ angle })}
          onSettled={keep}
          {...{ least: -180, most: 180, step: 1, unit: '°' }}
        />
      </Line>
      <Line>
        <LinesPerInch />
      </Line>
      <ToneInWords />
      <Choice label="The share goes" value={tone.ramp} options={RAMPS} onChange={(ramp) => set({ ramp })} perRow={3} />
      {tone.ramp !== 'none' && (
        <Line>
          <ShareSetting
            label="Share at the far end"
            value={tone.far}
            onChange={(far) => show({ far })}
            onSettled={keep}
            most={99}
          />
        </Line>
      )}
      <ColourSetting />
      <FromSelected label="Tone what is selected" take={(board) => board.of(toneSlot).toneSelected()} />
    </View>
  );
}

/** What is to be known of a tone: whether its dots are seen, and what print makes of them. */
function ToneInWords() {
  const tone = useTexture((state) => state.tone);
  const { ppi } = useBoard().session.card;
  const zoom = useDesk((desk) => desk.zoom);
  const isSeen = showsDots(tone, ppi, zoom * (window.devicePixelRatio || 1));
  const turned = Math.abs(tone.angle - 90 * Math.round(tone.angle / 90));
  const words = [
    !isSeen &&
      `Seen as the grey of its share: at ${Math.round(zoom * 100)} % its ${tone.screen === 'dots' ? 'dots' : 'lines'} are too small. Zoom in for them.`,
    ppi / tone.lpi < LEAST_PX &&
      `Its dots are only ${(ppi / tone.lpi).toFixed(1)} px wide at ${ppi} ppi: take ${Math.floor(ppi / LEAST_PX)} lines per inch at most.`,
    tone.screen === 'dots' &&
      turned < LEVEL &&
      'Level dots beside ruled lines make a pattern of their own; 45° is usual.',
    (tone.lpi < 55 || tone.lpi > 65) && 'Pages for print mostly have 55 to 65 lines per inch.',
  ].filter((one) => one !== false);
  return words.length > 0 ? <Faint>{words.join(' ')}</Faint> : null;
}

export function ToneHint() {
  const hasOne = useToneInHand(({ id }) => id !== undefined);
  return hasOne
    ? 'Drag in the tone; touch another area to tone that'
    : 'Touch a black or a region, or draw a loop: it is toned';
}

const setGradient = (change: Partial<GradientChoice>) => setTexture('gradient', change);
const SHAPES = [
  { value: 'straight', label: 'Straight' },
  { value: 'round', label: 'Round' },
] as const;
/** Colours after the first. */
const MOST_COLOURS = 5;

export const GradientLine = () => {
  const shape = useTexture(({ gradient }) => gradient.shape);
  return (
    <View className="grow">
      <Choice label="Gradient" value={shape} options={SHAPES} onChange={(value) => setGradient({ shape: value })} />
    </View>
  );
};

export function GradientSettings({ isWide }: SettingsProps) {
  const { to, isFading } = useTexture((state) => state.gradient);
  const [choosing, setChoosing] = useState<number>();
  return (
    <View className="gap-3">
      {isWide && <GradientLine />}
      <ColourSetting />
      <Text className="font-sans text-14 text-ink">and on to</Text>
      <View className="flex-row flex-wrap gap-2">
        {to.map((color, k) => (
          <ColourDot
            key={k}
            colour={color}
            label={`Colour ${k + 2} of the gradient`}
            isChosen={choosing === k}
            onPress={() => setChoosing(k)}
          />
        ))}
      </View>
      <Line>
        {to.length < MOST_COLOURS && (
          <Button label="One more" onPress={() => setGradient({ to: [...to, to[to.length - 1]] })} />
        )}
        {to.length > 1 && <Button label="One less" onPress={() => setGradient({ to: to.slice(0, -1) })} />}
      </Line>
      <Switch label="Fades to nothing" on={isFading} onChange={(on) => setGradient({ isFading: on })} />
      {choosing !== undefined && (
        <ColourSheet
          colour={to[choosing]}
          onChange={(color) => setGradient({ to: to.map((one, k) => (k === choosing ? color : one)) })}
          onClose={() => setChoosing(undefined)}
        />
      )}
    </View>
  );
}
