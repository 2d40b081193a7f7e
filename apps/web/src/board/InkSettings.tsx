import { INK_BLACK, NIB_SIZES, PAPER_WHITE } from '@true-nib/core/ink';
import { pxToMm } from '@true-nib/core/page';
import Palette from 'lucide-react-native/icons/palette';
import { useState } from 'react';
import { Pressable, Text, useWindowDimensions, View } from 'react-native';
import { Choice } from '../look/Choice';
import { Icon } from '../look/Icon';
import { ScrubNumber } from '../look/ScrubNumber';
import { web } from '../look/web';
import { isWide } from '../look/wide';
import { useBoard } from './boardContext';
import { ColourSheet } from './ColourSheet';
import { changeNib, nibOf, rubLimits, setNibSize, setRubSize, takeNib, useDesk } from './desk';
import { LiveNib } from './LiveNib';
import { useShallow } from 'zustand/react/shallow';

/** The size of the tool in hand, in px and as printed. */
export function SizeSetting() {
  const isRub = useDesk((desk) => desk.tool === 'rub');
  const value = useDesk((desk) => (desk.tool === 'rub' ? desk.rubSize : nibOf(desk).size));
  const { ppi } = useBoard().session.card;
  const mm = pxToMm(value, ppi);
  const isRoomy = isWide(useWindowDimensions().width);
  const shown = isRoomy ? `${value} px · ${mm < 1 ? mm.toFixed(2) : mm.toFixed(1)} mm` : `${value} px`;
  if (isRub)
    return (
      <ScrubNumber label="Size" value={value} onChange={setRubSize} {...rubLimits} step={1} geometric shown={shown} />
    );
  return (
    <ScrubNumber
      label="Size"
      value={value}
      onChange={setNibSize}
      {...NIB_SIZES}
      step={value < 10 ? 0.1 : 0.5}
      geometric
      shown={shown}
    />
  );
}

export function CalmSetting() {
  const { calmWay, calmStrength } = useDesk(useShallow(({ calmWay, calmStrength }) => ({ calmWay, calmStrength })));
  const isRaw = calmWay === 'raw';
  return (
    <ScrubNumber
      label={isRaw ? 'Calm · Raw' : 'Calm · Even'}
      value={isRaw ? 0 : calmStrength}
      onChange={(strength) => useDesk.setState({ calmStrength: strength, calmWay: 'even' })}
      least={0}
      most={100}
      step={1}
      shown={isRaw ? 'off' : String(calmStrength)}
    />
  );
}

/** The nibs that lie ready, each as the line it draws. */
export function NibRack({ width, isRow = false }: { readonly width: number; readonly isRow?: boolean }) {
  const { nibs, nibInHand, tool, zoom } = useDesk(
    useShallow(({ nibs, nibInHand, tool, zoom }) => ({ nibs, nibInHand, tool, zoom })),
  );
  return (
    <View role="radiogroup" aria-label="Nib rack" className={isRow ? 'flex-row gap-2' : 'gap-2'}>
      {nibs.map((nib, k) => {
        const isInHand = tool === 'nib' && k === nibInHand;
        return (
          <Pressable
            key={nib.name}
            role="radio"
            aria-checked={isInHand}
            aria-label={nib.name}
            onPress={() => takeNib(k)}
            className={`overflow-hidden rounded-xl border bg-paper ${isInHand ? 'border-2 border-seal' : 'border-edge'}`}
          >
            <LiveNib nib={nib} zoom={zoom} width={width} height={44} />
            <View className={`bg-tray px-2 py-1 ${isRow ? '' : 'flex-row items-center justify-between'}`}>
              <Text className={`text-12 text-ink ${isInHand ? 'font-bold' : 'font-sans'}`} numberOfLines={1}>
                {nib.name}
              </Text>
              <Text className="font-sans text-12 text-faint">{`${nib.size} px`}</Text>
            </View>
          </Pressable>
        );
      })}
    </View>
  );
}

const DOTS = [
  { colour: INK_BLACK, label: 'Black ink' },
  { colour: PAPER_WHITE, label: 'Paper white' },
];

export function ColourSetting() {
  const color = useDesk((desk) => nibOf(desk).color);
  const [isChoosing, setChoosing] = useState(false);
  const isOwn = DOTS.every(({ colour }) => colour !== color);
  return (
    <View role="group" aria-label="Colour" className="flex-row items-center gap-1">
      <Text className="grow font-sans text-12 text-faint">Colour</Text>
      {DOTS.map(({ colour, label }) => (
        <Dot
          key={colour}
          colour={colour}
          label={label}
          isChosen={color === colour}
          onPress={() => changeNib({ color: colour })}
        />
      ))}
      <Dot colour={isOwn ? color : undefined} label="Any colour" isChosen={isOwn} onPress={() => setChoosing(true)} />
      {isChoosing && (
        <ColourSheet
          colour={color}
          onChange={(chosen) => changeNib({ color: chosen })}
          onClose={() => setChoosing(false)}
        />
      )}
    </View>
  );
}

interface DotProps {
  readonly colour: string | undefined;
  readonly label: string;
  readonly isChosen: boolean;
  readonly onPress: () => void;
}

function Dot({ colour, label, isChosen, onPress }: DotProps) {
  return (
    <Pressable
      role="button"
      aria-label={label}
      aria-pressed={isChosen}
      onPress={onPress}
      className="h-11 w-11 items-center justify-center"
      {...web({ title: label })}
    >
      <View
        className={`h-8 w-8 items-center justify-center rounded-full border ${isChosen ? 'border-2 border-seal' : 'border-edge'}`}
        style={{ backgroundColor: colour ?? 'transparent' }}
      >
        {colour === undefined && <Icon of={Palette} size={18} />}
      </View>
    </Pressable>
  );
}

export function CalmChoice() {
  const way = useDesk((desk) => desk.calmWay);
  return (
    <Choice
      label="Calm"
      value={way}
      onChange={(calmWay) => useDesk.setState({ calmWay })}
      options={[
        { value: 'raw', label: 'Raw' },
        { value: 'even', label: 'Even' },
      ]}
    />
  );
}

/** How much of the width is left without pressure, and how far the line swells in and runs out. */
export function ShapeSettings() {
  const { thinnest, taperIn, taperOut } = useDesk(nibOf);
  return (
    <>
      <ScrubNumber
        label="Thinnest"
        value={Math.round(thinnest * 100)}
        onChange={(share) => changeNib({ thinnest: share / 100 })}
        least={0}
        most={100}
        step={1}
        unit=" %"
      />
      <View className="flex-row gap-2">
        <ScrubNumber
          label="Taper in"
          value={taperIn}
          onChange={(sizes) => changeNib({ taperIn: sizes })}
          least={0}
          most={40}
          step={0.5}
          unit=" ×"
        />
        <ScrubNumber
          label="Taper out"
          value={taperOut}
          onChange={(sizes) => changeNib({ taperOut: sizes })}
          least={0}
          most={40}
          step={0.5}
          unit=" ×"
        />
      </View>
    </>
  );
}
