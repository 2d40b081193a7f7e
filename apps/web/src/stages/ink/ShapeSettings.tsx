import type { ShapeKind, ShapeSettings as Settings } from '@true-nib/core/shapes';
import { useSyncExternalStore } from 'react';
import { Text, View } from 'react-native';
import { Button, Choice, ScrubNumber, Switch } from '../../look';
import { type PageSlot, useSlot, useDesk } from '../../board';
import { pathSlot, type PathTool } from './pathTool';
import { useShapeChoice } from './shapeChoice';
import { keyInWords, keyIn, useKeySet } from '../../keys';

const KINDS: readonly { readonly value: ShapeKind; readonly label: string }[] = [
  { value: 'line', label: 'Line' },
  { value: 'poly-line', label: 'Poly-line' },
  { value: 'arc', label: 'Arc' },
  { value: 'rectangle', label: 'Rectangle' },
  { value: 'ellipse', label: 'Ellipse' },
  { value: 'polygon', label: 'Polygon' },
  { value: 'star', label: 'Star' },
];

export function ShapeChoice({ perRow }: { readonly perRow: number }) {
  const shape = useShapeChoice((choice) => choice.shape);
  const path = useSlot(pathSlot);
  const take = (value: ShapeKind) => {
    path.finish();
    useShapeChoice.setState({ shape: value });
  };
  return <Choice label="Shape" value={shape} options={KINDS} onChange={take} perRow={perRow} />;
}

const change = (settings: Partial<Settings>): void =>
  void useShapeChoice.setState((choice) => ({ settings: { ...choice.settings, ...settings } }));

/** What a drag makes of the shape in hand. */
export function ShapeSettings() {
  const { rounding, corners, inner, bend, regular, fromCentre } = useShapeChoice((choice) => choice.settings);
  const shape = useShapeChoice((choice) => choice.shape);
  const moving = useKeySet((set) => keyIn(set, 'move'));
  if (shape === 'poly-line') return <PathSettings />;
  const isLine = shape === 'line' || shape === 'arc';
  return (
    <View className="gap-2">
      {shape === 'rectangle' && (
        <Row>
          <ScrubNumber
            label="Round corners"
            value={rounding}
            onChange={(value) => change({ rounding: value })}
            {...{ least: 0, most: 1000, step: 1, unit: ' px' }}
          />
        </Row>
      )}
      {shape === 'arc' && (
        <Row>
          <ScrubNumber
            label="Bulge"
            value={Math.round(bend * 100)}
            onChange={(value) => change({ bend: value / 100 })}
            {...{ least: -200, most: 200, step: 5, unit: ' %' }}
          />
        </Row>
      )}
      {(shape === 'polygon' || shape === 'star') && (
        <Row>
          <ScrubNumber
            label={shape === 'star' ? 'Points' : 'Corners'}
            value={corners}
            onChange={(value) => change({ corners: value })}
            {...{ least: 3, most: 64, step: 1 }}
          />
          {shape === 'star' && (
            <ScrubNumber
              label="Notches at"
              value={Math.round(inner * 100)}
              onChange={(value) => change({ inner: value / 100 })}
              {...{ least: 5, most: 95, step: 1, unit: ' %' }}
            />
          )}
        </Row>
      )}
      <Switch
        label={isLine ? 'By steps of 15° (Shift)' : 'As wide as high, by 15° (Shift)'}
        on={regular}
        onChange={(on) => change({ regular: on })}
      />
      <Switch label="From the centre (Alt)" on={fromCentre} onChange={(on) => change({ fromCentre: on })} />
      {moving !== undefined && (
        <Text className="font-sans text-12 text-faint">{`Hold ${keyInWords(moving)}, or lay a second finger down, while dragging to move it.`}</Text>
      )}
    </View>
  );
}

const Row = ({ children }: { readonly children: React.ReactNode }) => (
  <View className="flex-row gap-2">{children}</View>
);

function usePathSize(slot: PageSlot<PathTool>): number {
  const path = useSlot(slot);
  return useSyncExternalStore(
    (listener) => path.onChange(listener),
    () => path.size,
  );
}

/** How a path is built, and how it ends. */
export function PathSettings({ slot = pathSlot }: { readonly slot?: PageSlot<PathTool> }) {
  const path = useSlot(slot);
  const size = usePathSize(slot);
  const isPoly = useDesk((desk) => desk.tool === 'shape');
  return (
    <View className="gap-2">
      <Text className="font-sans text-14 text-faint">
        {size === 0
          ? isPoly
            ? 'Touch to set corners.'
            : 'Touch for a corner, drag for a smooth point.'
          : isPoly
            ? 'Touch the first corner to close. Enter ends.'
            : 'Touch the last point to drop its handle, the first to close; drag the line to bend it. Enter or a long press ends.'}
      </Text>
      <View className="flex-row gap-2">
        <Button label="End here" tone="seal" disabled={size < 2} onPress={() => void path.finish()} />
        <Button label="One back" disabled={size === 0} onPress={() => void path.takeBack()} />
      </View>
    </View>
  );
}
