import { pxToMm } from '@true-nib/core/page';
import { Text, View } from 'react-native';
import { useBoard, type Board } from '../../board';
import { Button, Choice, ScrubNumber, useIsWide } from '../../look';
import { useSelection } from '../../select';
import { setDrag, useTexture, type CombDrag } from './textureStore';
import { useUnderway } from './underwayStore';

/** A length in px, and in mm of the page as it is printed. */
export function useLengthInWords(): (px: number) => string {
  const { ppi } = useBoard().session.card;
  return (px) => {
    const mm = pxToMm(px, ppi);
    return `${Math.round(px * 10) / 10} px · ${mm < 1 ? mm.toFixed(2) : mm.toFixed(1)} mm`;
  };
}

interface NumberProps {
  readonly label: string;
  readonly value: number;
  readonly onChange: (value: number) => void;
  readonly onSettled?: () => void;
}

/** A length on the page. */
export function LengthSetting({
  least,
  most,
  step = 0.5,
  isShort = false,
  ...props
}: NumberProps & {
  readonly least: number;
  readonly most: number;
  readonly step?: number;
  readonly isShort?: boolean;
}) {
  const words = useLengthInWords();
  const shown = words(props.value);
  return <ScrubNumber {...props} {...{ least, most, step }} geometric shown={isShort ? shown.split(' ·')[0] : shown} />;
}

/** A share, in percent. */
export const ShareSetting = ({
  least = 0,
  most = 100,
  ...props
}: NumberProps & { readonly least?: number; readonly most?: number }) => (
  <ScrubNumber {...props} {...{ least, most, step: 1, unit: ' %' }} />
);

/** What is under way in words, and what can be done with it; nothing for another tool. */
export function UnderwayDeeds({
  tool,
  what,
  lay,
}: {
  readonly tool: string;
  readonly what: string;
  readonly lay: (board: Board) => void;
}) {
  const board = useBoard();
  const underway = useUnderway();
  const isWide = useIsWide();
  if (underway.tool !== tool) return null;
  const { count, reason } = underway;
  return (
    <View className="gap-2">
      <Text className="font-sans text-14 text-ink" aria-live="polite" testID="underway">
        {reason ?? `${count.toLocaleString('en-GB')} ${what}`}
      </Text>
      {!reason && isWide && <Button label="Lay them down" tone="seal" onPress={() => lay(board)} />}
    </View>
  );
}

/** The same, small, for the line of a phone. */
export function UnderwayButton({ tool, lay }: { readonly tool: string; readonly lay: (board: Board) => void }) {
  const board = useBoard();
  const underway = useUnderway();
  if (underway.tool !== tool) return null;
  return <Button label="Lay" tone="seal" disabled={underway.reason !== undefined} onPress={() => lay(board)} />;
}

const DRAGS: Readonly<Record<CombDrag, string>> = { way: 'Way', gap: 'Gap', tone: 'Tone', move: 'Move' };

/** What the next drag within what is under way sets. */
export function DragChoice({ drags }: { readonly drags: readonly CombDrag[] }) {
  const drag = useTexture((state) => state.drag);
  return (
    <Choice
      label="A drag in it sets"
      value={drag}
      options={drags.map((value) => ({ value, label: DRAGS[value] }))}
      onChange={setDrag}
    />
  );
}

/** Takes the outline of what is selected, where anything is. */
export function FromSelected({ label, take }: { readonly label: string; readonly take: (board: Board) => void }) {
  const board = useBoard();
  const selected = useSelection(({ size, isPixels }) => (isPixels ? 0 : size));
  return selected > 0 ? <Button label={label} onPress={() => take(board)} /> : null;
}
