import { selectionSlot } from './selection';
import type { WeightDeed } from '@true-nib/core/mend';
import type { NibProfile } from '@true-nib/core/nib';
import { useState } from 'react';
import { Text, View } from 'react-native';
import { Button, Choice, ScrubNumber, Line } from '../look';
import { useBoard } from '../board';
import { linesToAreas, recolourSelected, renibSelected, reverseSelected, showWeighed, weighSelected } from './changing';
import { useSelectedLines } from './useSelection';

type ProfileName = 'even' | Exclude<NibProfile, readonly unknown[]>;

/** Changes selected lines after the fact: their weight, nib, colour and way, or makes areas of them. */
export function ChangeSettings() {
  const board = useBoard();
  const size = useSelectedLines();
  if (size === 0) return null;
  return (
    <View className="gap-2" testID="change-lines">
      <Text role="heading" className="pt-2 font-bold text-12 text-faint">
        Weight and nib
      </Text>
      <Weights key={board.of(selectionSlot).strokes[0]?.id} />
      <View className="flex-row flex-wrap gap-2">
        <Button label="Nib in hand" onPress={() => renibSelected(board)} />
        <Button label="Its colour" onPress={() => recolourSelected(board)} />
        <Button label="Reverse" onPress={() => reverseSelected(board)} />
        <Button label="Lines to areas" onPress={() => linesToAreas(board)} />
      </View>
    </View>
  );
}

function Weights() {
  const board = useBoard();
  const first = board.of(selectionSlot).strokes[0];
  const [percent, setPercent] = useState(100);
  const [width, setWidth] = useState(first?.nib.size ?? 10);
  const [taper, setTaper] = useState(10);
  const [profile, setProfile] = useState<ProfileName>('even');
  const keep = (label: string, deed: WeightDeed) => weighSelected(board, label, deed);
  return (
    <>
      <Line>
        <ScrubNumber
          label="Width times"
          value={percent}
          onChange={(next) => {
            setPercent(next);
            showWeighed(board, { deed: 'times', factor: next / 100 });
          }}
          onSettled={(next) => {
            setPercent(100);
            keep('Weigh lines', { deed: 'times', factor: next / 100 });
          }}
          {...{ least: 5, most: 1000, step: 5, unit: ' %' }}
        />
        <ScrubNumber
          label="Width"
          value={Math.round(width * 10) / 10}
          onChange={(next) => {
            setWidth(next);
            showWeighed(board, { deed: 'width', width: next });
          }}
          onSettled={(next) => keep('Set widths', { deed: 'width', width: next })}
          {...{ least: 0.1, most: 400, step: 0.5, unit: ' px' }}
        />
      </Line>
      <Line>
        <Choice
          label="Profile"
          value={profile}
          onChange={(next) => {
            setProfile(next);
            keep('Profile lines', { deed: 'profile', profile: next === 'even' ? undefined : next, width });
          }}
          options={[
            { value: 'even', label: 'Even' },
            { value: 'in', label: 'In' },
            { value: 'out', label: 'Out' },
            { value: 'lens', label: 'Lens' },
          ]}
        />
      </Line>
      <Line>
        <ScrubNumber
          label="Taper"
          value={taper}
          onChange={setTaper}
          {...{ least: 1, most: 1000, step: 1, unit: ' px' }}
        />
      </Line>
      <Button label="Taper both ends" onPress={() => keep('Taper lines', { deed: 'taper', length: taper })} />
    </>
  );
}
