import { useRef, useState } from 'react';
import { Text, TextInput, View, type GestureResponderEvent } from 'react-native';
import { asShare, fromShare, type ScrubRange } from './scrub';
import { web } from './web';

interface ScrubNumberProps extends ScrubRange {
  readonly label: string;
  readonly value: number;
  readonly onChange: (value: number) => void;
  /** Called once when a drag, a key or typing has ended. */
  readonly onSettled?: (value: number) => void;
  readonly unit?: string;
  /** What is shown instead of number and unit. */
  readonly shown?: string;
  readonly disabled?: boolean;
}

/** CSS px of a drag across the whole range. */
const TRAVEL = 260;
const SLOP = 4;

/** A setting that is scrubbed by dragging sideways on its number; a tap lets it be typed, arrows step it. */
export function ScrubNumber({
  label,
  value,
  onChange,
  onSettled,
  unit = '',
  shown,
  disabled = false,
  ...range
}: ScrubNumberProps) {
  const [isTyping, setTyping] = useState(false);
  const settle = (next: number) => {
    onChange(next);
    onSettled?.(next);
  };
  const { now, responder } = useScrub({ value, range, onChange, onSettled, onTap: () => setTyping(true) });
  const onKeyDown = (event: { key: string; shiftKey: boolean; preventDefault(): void }) => {
    const direction = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[event.key];
    if (event.key === 'Enter') setTyping(true);
    if (direction === undefined) return;
    event.preventDefault();
    settle(fromShare(asShare(value, range) + direction * (event.shiftKey ? 0.1 : 0.01), range, direction, value));
  };
  return (
    <View
      className={`min-h-[50px] min-w-0 flex-1 justify-center overflow-hidden rounded-xl border border-edge bg-raised px-2 py-1 ${disabled ? 'opacity-50' : ''}`}
      style={{ touchAction: 'none', cursor: 'ew-resize' } as object}
      onStartShouldSetResponder={() => !disabled && !isTyping}
      {...responder}
      role="spinbutton"
      aria-label={label}
      aria-valuemin={range.least}
      aria-valuemax={range.most}
      aria-valuenow={now}
      aria-valuetext={shown ?? `${now}${unit}`}
      aria-disabled={disabled}
      {...web({ onKeyDown: disabled || isTyping ? undefined : onKeyDown, tabIndex: 0 })}
    >
      <Text className="select-none font-sans text-12 text-faint" numberOfLines={2}>
        {label}
      </Text>
      {isTyping ? (
        <TypedNumber
          label={label}
          value={value}
          onTyped={(typed) => {
            setTyping(false);
            if (typed !== undefined) settle(Math.min(range.most, Math.max(range.least, typed)));
          }}
        />
      ) : (
        <Text
          className="select-none font-bold text-16 text-ink"
          style={{ fontVariant: ['tabular-nums'] }}
          numberOfLines={1}
        >
          {shown ?? now}
          {shown === undefined && <Text className="font-sans text-12 text-faint">{unit}</Text>}
        </Text>
      )}
      <View
        className="absolute bottom-0 left-0 h-[3px] rounded-r-full bg-seal"
        style={{ width: `${100 * asShare(now, range)}%` }}
      />
    </View>
  );
}

interface Scrubbing {
  readonly value: number;
  readonly range: ScrubRange;
  readonly onChange: (value: number) => void;
  readonly onSettled: ((value: number) => void) | undefined;
  readonly onTap: () => void;
}

/** A drag across the range: the value that it has come to, and what listens to it. */
function useScrub({ value, range, onChange, onSettled, onTap }: Scrubbing) {
  const drag = useRef<{ x: number; share: number; last: number; moved: boolean } | undefined>(undefined);
  /** What a drag has come to: many settings are only kept when it ends. */
  const [scrubbed, setScrubbed] = useState<number | undefined>();
  const end = () => {
    const held = drag.current;
    drag.current = undefined;
    setScrubbed(undefined);
    if (held?.moved) onSettled?.(held.last);
    else onTap();
  };
  const responder = {
    onResponderTerminationRequest: () => false,
    onResponderGrant: (event: GestureResponderEvent) => {
      drag.current = { x: event.nativeEvent.pageX, share: asShare(value, range), last: value, moved: false };
    },
    onResponderMove: (event: GestureResponderEvent) => {
      const held = drag.current;
      if (!held) return;
      const travelled = event.nativeEvent.pageX - held.x;
      if (Math.abs(travelled) > SLOP) held.moved = true;
      if (!held.moved) return;
      held.last = fromShare(held.share + travelled / TRAVEL, range);
      setScrubbed(held.last);
      onChange(held.last);
    },
    onResponderRelease: end,
    onResponderTerminate: () => (drag.current?.moved ? end() : (drag.current = undefined)),
  };
  return { now: scrubbed ?? value, responder };
}

interface TypedNumberProps {
  readonly label: string;
  readonly value: number;
  /** Called with the number that was typed; with nothing where none was. */
  readonly onTyped: (value: number | undefined) => void;
}

function TypedNumber({ label, value, onTyped }: TypedNumberProps) {
  const [typed, setTyped] = useState(String(value));
  const finish = () => {
    const next = Number(typed.replace(',', '.'));
    onTyped(typed.trim() && Number.isFinite(next) ? next : undefined);
  };
  return (
    <TextInput
      className="font-bold text-16 text-ink"
      style={{ outlineStyle: 'none', minWidth: 0 } as object}
      value={typed}
      onChangeText={setTyped}
      onBlur={finish}
      onSubmitEditing={finish}
      inputMode="decimal"
      autoFocus
      selectTextOnFocus
      aria-label={`${label}, typed`}
    />
  );
}
