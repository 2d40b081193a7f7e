import { changeColour, nameColour, type PageColour } from '@true-nib/core/tools';
import Palette from 'lucide-react-native/icons/palette';
import Trash from 'lucide-react-native/icons/trash';
import { useState } from 'react';
import { View } from 'react-native';
import { useBoard } from '../board';
import { ColourSheet, Faint, NameField } from '../look';
import { newId } from '../session';
import { ColourDot } from './ColourDot';
import { changeNib } from './rackStore';

/** Colours that are listed: those in use by the most come first. */
const MOST_ROWS = 24;
/** Characters of a name. */
const MOST_NAME = 40;

/** The colours that are in use on the page: named, and changed everywhere at once. */
export function PageColours({ colours }: { readonly colours: readonly PageColour[] }) {
  const { session } = useBoard();
  const [changing, setChanging] = useState<string>();
  return (
    <View role="list" aria-label="Colours of this page" className="gap-2">
      {colours.slice(0, MOST_ROWS).map(({ color, count, name }) => (
        <View key={color} role="listitem" className="flex-row items-end gap-1">
          <ColourDot colour={color} label={name ?? color} isChosen={false} onPress={() => changeNib({ color })} />
          <View className="shrink grow basis-0">
            <NameField
              label={count === 1 ? 'On one thing' : `On ${count} things`}
              name={name ?? color}
              most={MOST_NAME}
              onName={(wanted) => session.attempt((page) => nameColour(page, color, wanted, newId))}
            />
          </View>
          {count > 0 ? (
            <ColourDot
              colour={undefined}
              label={`Change ${name ?? color} everywhere`}
              icon={Palette}
              isChosen={false}
              onPress={() => setChanging(color)}
            />
          ) : (
            <ColourDot
              colour={undefined}
              label={`Forget ${name ?? color}`}
              icon={Trash}
              isChosen={false}
              onPress={() => session.attempt((page) => nameColour(page, color, '', newId))}
            />
          )}
        </View>
      ))}
      {changing !== undefined && (
        <ColourSheet
          colour={changing}
          onChange={(to) => session.attempt((page) => changeColour(page, changing, to))}
          onClose={() => setChanging(undefined)}
        />
      )}
      <Faint>The palette gives all that has a colour another one.</Faint>
    </View>
  );
}
