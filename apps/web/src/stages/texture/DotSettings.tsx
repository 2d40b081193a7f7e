import { mostShare } from '@true-nib/core/texture';
import { View } from 'react-native';

import type { Board } from '../../board';
import { Choice, Faint, Line, PictureChoice, Switch, useIsWide } from '../../look';
import { ColourSetting } from '../../nibs';
import { DragChoice, FromSelected, LengthSetting, ShareSetting, UnderwayButton, UnderwayDeeds } from './parts';
import { dotPicture } from './pictures';
import { shakerSlot } from './shakerHand';
import { setTexture, useTexture, type CombDrag, type ShakerChoice } from './textureStore';
import { useUnderway } from './underwayStore';

const set = (change: Partial<ShakerChoice>) => setTexture('shaker', change);
const lay = (board: Board) => void board.of(shakerSlot).settle();
const DRAGS: readonly CombDrag[] = ['tone', 'move'];

const BY = [
  { value: 'pen', label: 'Under the pen' },
  { value: 'loop', label: 'In a loop' },
] as const;
const ACROSS = { from: { x: 1, y: 15 }, to: { x: 43, y: 15 } };
const TONES = [
  { value: 'even', label: 'Even', picture: dotPicture({ share: 0.25 }) },
  {
    value: 'straight',
    label: 'Straight',
    picture: dotPicture({ share: 0.02, ramp: { shape: 'straight', ...ACROSS, share: 0.38 } }),
  },
  {
    value: 'round',
    label: 'Round',
    picture: dotPicture({
      share: 0.38,
      ramp: { shape: 'round', from: { x: 22, y: 15 }, to: { x: 42, y: 15 }, share: 0.02 },
    }),
  },
  { value: 'inward', label: 'From edge', picture: dotPicture({ share: 0.38, inward: { share: 0.02, over: 12 } }) },
] as const satisfies { value: ShakerChoice['tone']; label: string; picture: string }[];
const FILLS = [
  { value: 'ink', label: 'Ink' },
  { value: 'paper', label: 'White' },
  { value: 'nick', label: 'Nicks' },
] as const;

/** The settings that matter now, for a phone. */
export function ShakerLine() {
  const { size, dark } = useTexture((state) => state.shaker);
  const isUnderway = useUnderway(({ tool }) => tool === 'shaker');
  if (isUnderway)
    return (
      <>
        <View className="grow">
          <DragChoice drags={DRAGS} />
        </View>
        <UnderwayButton tool="shaker" lay={lay} />
      </>
    );
  return (
    <>
      <LengthSetting label="Dots" value={size} onChange={(value) => set({ size: value })} {...SIZE} isShort />
      <ShareSetting label="Dark" value={dark} onChange={(value) => set({ dark: value })} least={1} most={40} />
    </>
  );
}

const SIZE = { least: 0.5, most: 200, step: 0.5 } as const;

export function ShakerSettings() {
  const shaker = useTexture((state) => state.shaker);
  const isWide = useIsWide();
  const isUnderway = useUnderway(({ tool }) => tool === 'shaker');
  const { by, tone, fill, size, uneven, light, dark, radius, asLines } = shaker;
  const most = Math.floor(100 * mostShare({ size, uneven: uneven / 100 }));
  return (
    <View className="gap-3">
      {isUnderway && isWide && <DragChoice drags={DRAGS} />}
      <UnderwayDeeds tool="shaker" what="dots are under way." lay={lay} />
      <Choice
        label="Dots fall"
        value={by}
        options={BY}
        onChange={(value) => set({ by: value })}
        perRow={isWide ? 1 : 2}
      />
      {by === 'loop' && (
        <PictureChoice label="Tone" value={tone} options={TONES} onChange={(value) => set({ tone: value })} />
      )}
      <Line>
        <LengthSetting
          label="Dots"
          value={size}
          onChange={(value) => set({ size: value })}
          {...SIZE}
          isShort={isWide}
        />
        <ShareSetting label="Uneven" value={uneven} onChange={(value) => set({ uneven: value })} />
      </Line>
      <Line>
        {by === 'loop' && tone !== 'even' && (
          <ShareSetting label="Light" value={light} onChange={(value) => set({ light: value })} most={40} />
        )}
        <ShareSetting label="Dark" value={dark} onChange={(value) => set({ dark: value })} least={1} most={40} />
        {by === 'pen' && (
          <LengthSetting
            label="Reach"
            value={radius}
            onChange={(value) => set({ radius: value })}
            least={2}
            most={1_000}
            step={1}
            isShort
          />
        )}
      </Line>
      {dark > most && (
        <Faint>{`Dots like these would touch beyond ${most} %. Strew white dots on black for more.`}</Faint>
      )}
      <Choice label="Dots of" value={fill} options={FILLS} onChange={(value) => set({ fill: value })} />
      {fill === 'ink' && <ColourSetting />}
      <Switch label="Every dot a line" on={asLines} onChange={(on) => set({ asLines: on })} />
      <FromSelected label="Strew in what is selected" take={(board) => board.of(shakerSlot).fillSelected()} />
    </View>
  );
}

export function ShakerHint() {
  const by = useTexture(({ shaker }) => shaker.by);
  const isUnderway = useUnderway(({ tool }) => tool === 'shaker');
  if (isUnderway) return 'Drag over it from light to dark; touch beside it to lay the dots down';
  return by === 'pen'
    ? 'Press harder for more dots'
    : 'Draw a loop, or touch a black or a region: dots are strewn in it';
}
