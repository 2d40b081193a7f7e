import { clamp, monotoneAt, type CurvePoint } from '@true-nib/core/math';
import { useRef } from 'react';
import { Text, View, type GestureResponderEvent } from 'react-native';
import { later, web } from '../look';
import type { BendChartProps } from './BendChart';

interface BendGraphProps {
  readonly label: string;
  readonly points: readonly CurvePoint[];
  readonly onChange: (points: CurvePoint[]) => void;
  readonly width: number;
  /** What lies under the curve: how often each value came, 0..1 from left to right. */
  readonly under?: readonly number[];
  readonly underInWords?: string;
  readonly across: string;
  readonly up: string;
}

const HEIGHT = 112;
const STEPS = 40;
/** Room between two points, and a finger's width to take hold of one. */
const APART = 0.04;
const GRIP = 28;
const STEP = 0.02;

// Charts come with libraries that a full page should not wait for.
const BendChart = later<BendChartProps>(async () => (await import('./BendChart')).BendChart);

/** A curve over 0..1 that is bent by its points: they are dragged, or moved by the arrow keys. */
export function BendGraph({ label, points, onChange, width, under, underInWords, across, up }: BendGraphProps) {
  const move = (k: number, x: number, y: number) => {
    const isEnd = k === 0 || k === points.length - 1;
    const low = isEnd ? points[k][0] : points[k - 1][0] + APART;
    const high = isEnd ? points[k][0] : points[k + 1][0] - APART;
    onChange(points.map((point, j) => (j === k ? [clamp(x, low, high), clamp(y, 0, 1)] : point)));
  };
  const curve = Array.from({ length: STEPS + 1 }, (_, k) => clamp(monotoneAt(points, k / STEPS), 0, 1));
  return (
    <View role="group" aria-label={label} className="gap-1">
      <View
        className="overflow-hidden rounded-lg border border-edge bg-raised"
        style={{ width, height: HEIGHT, touchAction: 'none' } as object}
      >
        <View pointerEvents="none" className="absolute bottom-0 left-0">
          <BendChart curve={curve} under={under} width={width} height={HEIGHT} />
        </View>
        {points.map((point, k) => (
          <Grip
            key={k}
            label={`${label}, point ${k + 1}`}
            point={point}
            width={width}
            onMove={(x, y) => move(k, x, y)}
          />
        ))}
      </View>
      <View className="flex-row justify-between">
        <Text className="font-sans text-12 text-faint">{`${across} →`}</Text>
        <Text className="font-sans text-12 text-faint">{underInWords ?? `↑ ${up}`}</Text>
      </View>
    </View>
  );
}

interface GripProps {
  readonly label: string;
  readonly point: CurvePoint;
  /** CSS px of the graph. */
  readonly width: number;
  readonly onMove: (x: number, y: number) => void;
}

/** A point of the curve that is dragged, or stepped by the arrow keys. */
function Grip({ label, point: [x, y], width, onMove }: GripProps) {
  const held = useRef<{ x: number; y: number; pageX: number; pageY: number } | undefined>(undefined);
  const take = ({ nativeEvent: { pageX, pageY } }: GestureResponderEvent) => {
    held.current = { x, y, pageX, pageY };
  };
  const drag = ({ nativeEvent: { pageX, pageY } }: GestureResponderEvent) => {
    const from = held.current;
    if (from) onMove(from.x + (pageX - from.pageX) / width, from.y - (pageY - from.pageY) / HEIGHT);
  };
  const nudge = (event: { key: string; preventDefault(): void }) => {
    const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
    if (!step) return;
    event.preventDefault();
    onMove(x + step[0] * STEP, y + step[1] * STEP);
  };
  const place = { left: x * width - GRIP / 2, top: (1 - y) * HEIGHT - GRIP / 2 };
  return (
    <View
      role="slider"
      aria-label={label}
      aria-valuetext={`${Math.round(x * 100)} % across, ${Math.round(y * 100)} % up`}
      aria-valuenow={Math.round(y * 100)}
      className="absolute items-center justify-center"
      style={{ width: GRIP, height: GRIP, ...place, cursor: 'grab' } as object}
      onStartShouldSetResponder={() => true}
      onResponderTerminationRequest={() => false}
      onResponderGrant={take}
      onResponderMove={drag}
      {...web({ tabIndex: 0, onKeyDown: nudge })}
    >
      <View className="h-3 w-3 rounded-full border-2 border-seal bg-raised" />
    </View>
  );
}
