import { INK_BLACK, PAPER_WHITE } from '@true-nib/core/nib';
import Palette from 'lucide-react-native/icons/palette';
import Pipette from 'lucide-react-native/icons/pipette';
import { useState } from 'react';
import { Text, View } from 'react-native';
import { ColourSheet, Fold } from '../look';
import { ColourDot } from './ColourDot';
import { usePageColours } from './colourCount';
import { PageColours } from './PageColours';
import { usePick } from './pickHand';
import { changeNib } from './rackStore';
import { useRackNib } from './useNib';

const DOTS = [
  { colour: INK_BLACK, label: 'Black ink' },
  { colour: PAPER_WHITE, label: 'Paper white' },
];
/** Colours of the page that stand beside the one in hand. */
const MOST_BESIDE = 10;

/** The colour of the nib in hand, and those of the page to take in its place. */
export function ColourSetting() {
  const { color } = useRackNib().nib;
  const [isChoosing, setChoosing] = useState(false);
  const isPicking = usePick(({ isOnce }) => isOnce);
  const isOwn = DOTS.every(({ colour }) => colour !== color);
  const colours = usePageColours();
  const others = colours.filter((one) => DOTS.every(({ colour }) => colour !== one.color));
  return (
    <View role="group" aria-label="Colour">
      <View className="flex-row flex-wrap items-center">
        <Text className="w-full font-sans text-12 text-faint">Colour</Text>
        {DOTS.map(({ colour, label }) => (
          <ColourDot
            key={colour}
            colour={colour}
            label={label}
            isChosen={color === colour}
            onPress={() => changeNib({ color: colour })}
          />
        ))}
        <ColourDot
          colour={isOwn ? color : undefined}
          label="Any colour"
          icon={Palette}
          isChosen={isOwn}
          onPress={() => setChoosing(true)}
        />
        <ColourDot
          colour={undefined}
          label="Pick a colour up from the page"
          icon={Pipette}
          isChosen={isPicking}
          onPress={() => usePick.setState({ isOnce: !isPicking })}
        />
      </View>
      <View className="flex-row flex-wrap">
        {others.slice(0, MOST_BESIDE).map(({ color: colour, name }) => (
          <ColourDot
            key={colour}
            colour={colour}
            label={`${name ?? colour}, of this page`}
            isChosen={color === colour}
            onPress={() => changeNib({ color: colour })}
          />
        ))}
      </View>
      {colours.length > 0 && (
        <Fold title="Colours of this page">
          <PageColours colours={colours} />
        </Fold>
      )}
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
