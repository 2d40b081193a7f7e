import { contrastOf, leastContrast } from '@true-nib/core/lettering';
import { INK_BLACK, PAPER_WHITE } from '@true-nib/core/nib';
import { draftChange, pxToPt } from '@true-nib/core/page';
import Ban from 'lucide-react-native/icons/ban';
import Palette from 'lucide-react-native/icons/palette';
import { useState } from 'react';
import { Text, View } from 'react-native';
import { useBoard, useSlot } from '../../board';
import { ColourSheet, Faint } from '../../look';
import { ColourDot } from '../../nibs';
import { letterSlot } from './letterHand';
import { useText } from './useText';

/** Colours of the letters, of what stands round them, and of the ground that they stand on. */
export function LetterColours() {
  const board = useBoard();
  const hand = useSlot(letterSlot);
  const { text, balloon } = useText();
  if (!text) return null;
  const { style } = text;
  const { outline } = style;
  const setGround = (ground: string | undefined) => {
    if (!balloon) return;
    const { ground: _before, ...rest } = balloon;
    hand.settle();
    board.session.attempt(() =>
      draftChange('Ground of the balloon', [{ before: balloon, after: ground ? { ...rest, ground } : rest }]),
    );
  };
  return (
    <View className="gap-1">
      <ColourRow
        label="Letters"
        value={style.color}
        onChange={(color = INK_BLACK) =>
          void hand.change('Colour of letters', (one) => ({ style: { ...one.style, color } }))
        }
      />
      {outline && (
        <ColourRow
          label="Round them"
          value={outline.color}
          onChange={(color = PAPER_WHITE) =>
            void hand.change('Colour round letters', (one) => ({
              style: { ...one.style, outline: { ...outline, color } },
            }))
          }
        />
      )}
      {balloon && <ColourRow label="Ground" value={balloon.ground} canBeNone onChange={setGround} />}
      <Contrast ground={outline?.color ?? balloon?.ground} />
    </View>
  );
}

/** Says where letters stand out too little to be read well. */
function Contrast({ ground }: { readonly ground: string | undefined }) {
  const { page, text } = useText();
  if (!text || ground === undefined) return null;
  const contrast = contrastOf(text.style.color, ground);
  const isBold = text.runs.every(({ bold }) => bold === true);
  const least = leastContrast(pxToPt(text.style.size, page.size.ppi), isBold);
  if (contrast >= least) return null;
  return (
    <View role="status">
      <Faint>
        {`The letters stand out ${contrast.toFixed(1)} : 1 from what is behind them. From ${least} : 1 on they read well.`}
      </Faint>
    </View>
  );
}

interface ColourRowProps {
  readonly label: string;
  readonly value: string | undefined;
  readonly canBeNone?: boolean;
  readonly onChange: (colour: string | undefined) => void;
}

const DOTS = [
  { colour: INK_BLACK, label: 'black' },
  { colour: PAPER_WHITE, label: 'white' },
];

function ColourRow({ label, value, canBeNone = false, onChange }: ColourRowProps) {
  const [isChoosing, setChoosing] = useState(false);
  const isOwn = value !== undefined && DOTS.every(({ colour }) => colour !== value);
  return (
    <View role="group" aria-label={`Colour: ${label}`} className="flex-row flex-wrap items-center">
      <Text className="w-full font-sans text-12 text-faint">{label}</Text>
      {DOTS.map((dot) => (
        <ColourDot
          key={dot.colour}
          colour={dot.colour}
          label={`${label}: ${dot.label}`}
          isChosen={value === dot.colour}
          onPress={() => onChange(dot.colour)}
        />
      ))}
      <ColourDot
        colour={isOwn ? value : undefined}
        label={`${label}: any colour`}
        icon={Palette}
        isChosen={isOwn}
        onPress={() => setChoosing(true)}
      />
      {canBeNone && (
        <ColourDot
          colour={undefined}
          label={`${label}: none`}
          icon={Ban}
          isChosen={value === undefined}
          onPress={() => onChange(undefined)}
        />
      )}
      {isChoosing && (
        <ColourSheet colour={value ?? PAPER_WHITE} onChange={onChange} onClose={() => setChoosing(false)} />
      )}
    </View>
  );
}
