import { clamp } from '@true-nib/core/math';
import Undo2 from 'lucide-react-native/icons/undo-2';
import { useRef, useState } from 'react';
import { Text, View, type GestureResponderEvent } from 'react-native';
import { Icon, web } from '../look';
import { useBoard, useSessionState, workbench } from '../board';
import { withKey } from '../keys';

/** CSS px of a sideways drag for one step of the history. */
const STEP = 16;

interface Drag {
  readonly x: number;
  /** How far the history reaches from where the drag began, in steps. */
  readonly earliest: number;
  readonly latest: number;
  steps: number;
  moved: boolean;
}

/** Takes back the last step; dragged sideways it scrubs through the history, live: left is earlier, right is later. */
export function UndoButton() {
  const board = useBoard();
  const isEmpty = useSessionState(board, ({ history }) => history.done.length === 0);
  const drag = useRef<Drag | undefined>(undefined);
  const [scrubbed, setScrubbed] = useState<number | undefined>();

  const begin = ({ nativeEvent }: GestureResponderEvent) => {
    const { done, undone } = board.session.state.history;
    drag.current = { x: nativeEvent.pageX, steps: 0, earliest: -done.length, latest: undone.length, moved: false };
  };
  const move = ({ nativeEvent }: GestureResponderEvent) => {
    const held = drag.current;
    if (!held) return;
    const wanted = clamp(Math.round((nativeEvent.pageX - held.x) / STEP), held.earliest, held.latest);
    if (wanted === 0 && !held.moved) return;
    held.moved = true;
    for (; held.steps > wanted; held.steps--) workbench.run('undo', board);
    for (; held.steps < wanted; held.steps++) workbench.run('redo', board);
    setScrubbed(wanted);
  };
  const end = () => {
    if (drag.current && !drag.current.moved) workbench.run('undo', board);
    drag.current = undefined;
    setScrubbed(undefined);
  };
  return (
    <View
      role="button"
      aria-label="Undo"
      aria-disabled={isEmpty}
      className={`h-11 w-11 items-center justify-center rounded-xl ${isEmpty && scrubbed === undefined ? 'opacity-40' : ''} ${scrubbed === undefined ? '' : 'bg-raised'}`}
      style={{ touchAction: 'none', cursor: 'pointer' } as object}
      onStartShouldSetResponder={() => true}
      onResponderTerminationRequest={() => false}
      onResponderGrant={begin}
      onResponderMove={move}
      onResponderRelease={end}
      {...web({
        title: `${withKey('undo')}. Drag sideways to go through the history`,
        tabIndex: 0,
        onKeyDown: (event) => {
          if (event.key !== 'Enter' && event.key !== ' ') return;
          event.preventDefault();
          workbench.run('undo', board);
        },
      })}
    >
      <Icon of={Undo2} />
      {scrubbed !== undefined && (
        <View className="absolute top-12 w-max rounded-lg border border-edge bg-tray px-3 py-1" pointerEvents="none">
          <Text className="font-sans text-12 text-ink" numberOfLines={1}>
            {scrubbed < 0 ? `${-scrubbed} back` : scrubbed > 0 ? `${scrubbed} forth` : 'now'}
          </Text>
        </View>
      )}
    </View>
  );
}
