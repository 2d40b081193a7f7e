import type { GuideGrid } from '@true-nib/core/guides';
import { View } from 'react-native';
import { Line, Settled, Switch } from '../../look';

interface GridProps {
  readonly grid: GuideGrid | undefined;
  /** Steps are degrees. */
  readonly isTurned: boolean;
  readonly onChange: (grid: GuideGrid | undefined) => void;
}

/** The lines that a field shows and, where wanted, keeps to. */
export function FieldGrid({ grid, isTurned, onChange }: GridProps) {
  const unit = isTurned ? Math.PI / 180 : 1;
  const fresh: GuideGrid = { step: isTurned ? 15 * unit : 100, offset: 0, count: 0, snaps: false };
  return (
    <View className="gap-2">
      <Switch label="Grid" on={grid !== undefined} onChange={(on) => onChange(on ? fresh : undefined)} />
      {grid && (
        <>
          <Line>
            <Settled
              label="Step"
              value={grid.step / unit}
              {...{ unit: isTurned ? '°' : ' px', least: 1, most: isTurned ? 90 : 1000 }}
              onSettled={(step) => onChange({ ...grid, step: step * unit })}
            />
            <Settled
              label="Offset"
              value={grid.offset / unit}
              {...{ unit: isTurned ? '°' : ' px', least: isTurned ? -90 : -1000, most: isTurned ? 90 : 1000 }}
              onSettled={(offset) => onChange({ ...grid, offset: offset * unit })}
            />
          </Line>
          <Line>
            <Settled
              label="Lines (0: all)"
              value={grid.count}
              {...{ unit: '', least: 0, most: 200 }}
              onSettled={(count) => onChange({ ...grid, count: Math.round(count) })}
            />
          </Line>
          <Switch label="Keep to the grid lines" on={grid.snaps} onChange={(snaps) => onChange({ ...grid, snaps })} />
        </>
      )}
    </View>
  );
}
