import { Text, View } from 'react-native';
import { inThousands } from '../base/inThousands';
import { HOLD_COMMANDS, type HoldId } from './commands';
import { keyInWords } from '../keys/keyNames';
import { keyIn, useKeySet } from '../keys/keySet';
import { useDesk, type Desk, type Stage, type Tool } from '../board/desk';
import { useRackNib } from '../nibs/useNib';
import { useShallow } from 'zustand/react/shallow';

/** Under the page of a wide screen: what the tool in hand will do next, how the page lies, and the keys to hold. */
export function StatusLine() {
  const { zoom, turn } = useDesk(useShallow(({ zoom, turn }) => ({ zoom, turn })));
  const { nib } = useRackNib();
  const next = useDesk((desk) => nextInWords(desk, nib.name));
  const keys = useKeySet();
  const stage = useDesk((desk) => desk.stage);
  const holds = HOLD_COMMANDS.filter(({ id }) => HOLDS[stage].includes(id))
    .flatMap(({ id, label }) => {
      const key = keyIn(keys, id);
      return key === undefined ? [] : [`${keyInWords(key)}: ${label.toLowerCase()}`];
    })
    .join(' · ');
  return (
    <View
      style={{ maxWidth: 'calc(100% - 24px)' } as object}
      className="absolute bottom-3 left-3 rounded-lg border border-rule bg-tray px-3 py-1"
      pointerEvents="none"
    >
      <Text className="font-sans text-12 text-faint" numberOfLines={1}>
        <Text className="font-bold text-ink">{next}</Text>
        {` · ${inThousands(Math.round(zoom * 100))} % · ${Math.round((turn * 180) / Math.PI)}° · hold ${holds}`}
      </Text>
    </View>
  );
}

/** The keys to hold that matter in a stage. */
const HOLDS: Readonly<Record<Stage, readonly HoldId[]>> = {
  rough: ['move', 'scrub-zoom'],
  guides: ['move', 'scrub-zoom', 'peek'],
  ink: ['free', 'straight-on', 'peek'],
  mend: ['peek', 'move', 'borrow'],
  finish: ['move', 'scrub-zoom'],
};

const MENDS: Partial<Record<Tool, string>> = {
  snip: 'Touch a piece to snip it off',
  tug: 'Drag a line to pull it',
  retrace: 'Draw over a line',
  reweigh: 'Draw along a line to weigh it',
  swell: 'Brush over lines to swell or pare them',
  knife: 'Draw a loop to cut along',
  tidy: 'Touch a ring to leave that end alone',
  bridge: 'Touch a ring to leave that gap open',
  ease: 'Fewer points, the same lines',
  pool: 'Ink gathers where lines meet',
};

function nextInWords(desk: Desk, nibName: string): string {
  if (desk.stage === 'rough') return 'Drag the rough, its corners or its knob';
  if (desk.stage === 'finish') return 'The page, ready to deliver';
  if (desk.stage === 'guides') {
    if (desk.tool === 'rake') return 'Draw a loop to rake';
    return desk.tool === 'depth' ? 'Work in depth' : 'Lay guides down, or drag their grips';
  }
  if (desk.tool === 'rub') return 'Rub takes away what it touches';
  if (desk.tool === 'select')
    return { loop: 'Draw a loop to select', rect: 'Draw a box to select', touch: 'Touch to select' }[desk.selectBy];
  if (desk.tool === 'lift') return 'Lift takes whole lines';
  if (desk.tool === 'points') return 'Touch a line, then drag its points';
  if (desk.tool in MENDS) return MENDS[desk.tool] ?? '';
  if (desk.tool === 'path') return 'Touch for a corner, drag for a curve';
  if (desk.tool === 'shape') return desk.shape === 'poly-line' ? 'Touch to set corners' : 'Drag out a shape';
  return `${nibName} draws`;
}
