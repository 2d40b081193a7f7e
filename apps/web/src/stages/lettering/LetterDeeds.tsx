import type { BalloonEntity } from '@true-nib/core/balloon';
import { balloonBorder, joinBalloons, partBalloon, removeLetters } from '@true-nib/core/comic';
import { draftChange, find, mmToPx, pxToMm } from '@true-nib/core/page';
import ArrowDownToLine from 'lucide-react-native/icons/arrow-down-to-line';
import ArrowUpToLine from 'lucide-react-native/icons/arrow-up-to-line';
import Copy from 'lucide-react-native/icons/copy';
import Combine from 'lucide-react-native/icons/combine';
import Split from 'lucide-react-native/icons/square-split-horizontal';
import Trash from 'lucide-react-native/icons/trash';
import { useState } from 'react';
import { TextInput, View } from 'react-native';
import { useBoard, useSlot, type Board } from '../../board';
import { Button, Line, ScrubNumber } from '../../look';
import { borderNibFor } from '../../nibs';
import { newId } from '../../session';
import { copyChosen, restackChosen, turnChosen, turnOf } from './chosenDeeds';
import { letterSlot } from './letterHand';
import { setLetters, useLetters } from './letterStore';
import { useText } from './useText';

const nothing = () => undefined;

/** What can be done with what is chosen. */
export function Deeds() {
  const board = useBoard();
  const chosen = useLetters((state) => state.chosen);
  const { page } = useText();
  if (chosen.length === 0) return null;
  const balloons = chosen.flatMap((id) => find(page, 'balloon', id) ?? []);
  const attempt = (draft: Parameters<Board['session']['attempt']>[0]) => {
    board.of(letterSlot).settle();
    board.session.attempt(draft);
  };
  return (
    <View className="gap-2">
      {balloons.length > 1 && (
        <Line>
          <Button label="Join" icon={Combine} onPress={() => attempt((now) => joinBalloons(now, chosen, false))} />
          <Button label="Join by a neck" onPress={() => attempt((now) => joinBalloons(now, chosen, true))} />
        </Line>
      )}
      {balloons.length === 1 && balloons[0].bodies.length > 1 && (
        <Button label="Part" icon={Split} onPress={() => attempt((now) => partBalloon(now, balloons[0].id, newId))} />
      )}
      {balloons.length > 0 && <BorderOfBalloons />}
      <Line>
        <TurnNumber />
        <Button label="Copy" icon={Copy} onPress={() => copyChosen(board)} />
      </Line>
      <Line>
        <Button label="Front" icon={ArrowUpToLine} onPress={() => restackChosen(board, 'front')} />
        <Button label="Back" icon={ArrowDownToLine} onPress={() => restackChosen(board, 'back')} />
        <Button
          label="Delete"
          icon={Trash}
          onPress={() => {
            attempt((now) => removeLetters(now, chosen));
            setLetters({ chosen: [], isNew: false, trouble: undefined });
          }}
        />
      </Line>
    </View>
  );
}

/** How far the first of what is chosen is turned. */
function TurnNumber() {
  const board = useBoard();
  const chosen = useLetters((state) => state.chosen);
  const { page } = useText();
  const turned = turnOf(page, chosen[0]);
  if (!turned) return null;
  return (
    <ScrubNumber
      label="Turn"
      value={Math.round((turned.angle * 1800) / Math.PI) / 10}
      onChange={nothing}
      onSettled={(degrees) => turnChosen(board, turned, (degrees * Math.PI) / 180)}
      {...{ least: -180, most: 180, step: 0.5, unit: '°' }}
    />
  );
}

/** The border of the chosen balloons. */
function BorderOfBalloons() {
  const board = useBoard();
  const chosen = useLetters((state) => state.chosen);
  const { page } = useText();
  const balloons = chosen.flatMap((id) => find(page, 'balloon', id) ?? []);
  const [first] = balloons;
  const { ppi } = page.size;
  const setBorder = (change: (balloon: BalloonEntity) => BalloonEntity) =>
    board.session.attempt(() =>
      draftChange(
        'Border of balloons',
        balloons.map((before) => ({ before, after: change(before) })),
      ),
    );
  return (
    <View className="gap-2">
      <Line>
        <ScrubNumber
          label="Border"
          value={first?.border ? Math.round(pxToMm(first.border.size, ppi) * 100) / 100 : 0}
          onChange={nothing}
          onSettled={(mm) =>
            setBorder(({ border = balloonBorder(ppi), ...rest }) =>
              mm > 0 ? { ...rest, border: { ...border, size: mmToPx(mm, ppi) } } : rest,
            )
          }
          {...{ least: 0, most: 5, step: 0.05, unit: ' mm' }}
        />
      </Line>
      <Button
        label="Border from the nib in hand"
        onPress={() => setBorder(({ border: _before, ...rest }) => ({ ...rest, border: borderNibFor(page) }))}
      />
    </View>
  );
}

/** A script is pasted, and becomes balloons. */
export function Script() {
  const hand = useSlot(letterSlot);
  const [script, setScript] = useState('');
  const [isOpen, setOpen] = useState(false);
  if (!isOpen) return <Button label="Paste a script" onPress={() => setOpen(true)} />;
  return (
    <View className="gap-2">
      <TextInput
        aria-label="Script"
        multiline
        numberOfLines={6}
        className="min-h-[120px] w-full rounded-xl border border-edge bg-raised px-3 py-2 font-sans text-14 text-ink"
        value={script}
        placeholder={'PANEL 1\nFERRYMAN: Last boat tonight.\nCAPTION: Low water.'}
        onChangeText={setScript}
      />
      <Button
        label="Make balloons"
        tone="seal"
        disabled={script.trim() === ''}
        onPress={() =>
          void hand.layScript(script).then((isLaid) => {
            if (!isLaid) return;
            setScript('');
            setOpen(false);
          })
        }
      />
    </View>
  );
}
