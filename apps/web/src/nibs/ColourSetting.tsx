import { INK_BLACK, PAPER_WHITE } from '@true-nib/core/nib';
import Palette from 'lucide-react-native/icons/palette';
import { useState } from 'react';
import { Pressable, Text, View } from 'react-native';
import { Icon, web, ColourSheet } from '../look';
import { changeNib } from './rackStore';
import { useRackNib } from './useNib';

const DOTS = [
  { colour: INK_BLACK, label: 'Black ink' },
  { colour: PAPER_WHITE, label: 'Paper white' },
];

/** The colour of the nib in hand. */
export function ColourSetting() {
  const { color } = useRackNib().nib;
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
