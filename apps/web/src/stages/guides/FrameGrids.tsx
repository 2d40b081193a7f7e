import {
  freshGrid,
  planeName,
  FRAME_PLANES,
  type FrameGrid,
  type FramePlane,
  type FrameShape,
} from '@true-nib/core/guides';
import { View } from 'react-native';
import { Switch, Line, Settled } from '../../look';
import { GUIDE_HUES } from '../../render';
import { useBoard, usePage } from '../../board';
import type { FrameGuide } from '../../guiding';

interface GridsProps {
  readonly guide: FrameGuide;
  readonly change: (label: string, make: () => FrameShape) => void;
}

/** The grids of a frame, one a plane. */
export function FrameGrids({ guide, change }: GridsProps) {
  const { size } = usePage(useBoard());
  const { shape } = guide;
  const set = (plane: FramePlane, grid: FrameGrid | undefined) =>
    change(`Grid: ${planeName(shape, plane)}`, () => {
      const { [plane]: _old, ...rest } = shape.grids;
      return { ...shape, grids: grid ? { ...rest, [plane]: grid } : rest };
    });
  return (
    <View className="gap-2">
      {FRAME_PLANES.map((plane, k) => {
        const grid = shape.grids[plane];
        const name = planeName(shape, plane);
        return (
          <View key={plane} className="gap-2">
            <Switch
              label={name}
              name={`Grid on ${name}`}
              on={grid !== undefined}
              onChange={(on) => set(plane, on ? freshGrid(size, (guide.hue + k) % GUIDE_HUES.length) : undefined)}
            />
            {grid && <OneGrid name={name} grid={grid} onChange={(next) => set(plane, next)} />}
          </View>
        );
      })}
    </View>
  );
}

function OneGrid({
  name,
  grid,
  onChange,
}: {
  readonly name: string;
  readonly grid: FrameGrid;
  readonly onChange: (grid: FrameGrid) => void;
}) {
  return (
    <>
      <Line>
        <Settled
          label={`${name}: step`}
          value={grid.step}
          {...{ unit: ' px', least: 4, most: 2000 }}
          onSettled={(step) => onChange({ ...grid, step: Math.max(1, step) })}
        />
        <Settled
          label="Reach"
          value={grid.reach}
          {...{ unit: '', least: 1, most: 200 }}
          onSettled={(reach) => onChange({ ...grid, reach: Math.round(reach) })}
        />
      </Line>
      <Line>
        <Settled
          label="Fade"
          value={grid.fade * 100}
          {...{ unit: ' %', least: 0, most: 100 }}
          onSettled={(fade) => onChange({ ...grid, fade: fade / 100 })}
        />
        <Settled
          label="Colour"
          value={grid.hue + 1}
          {...{ unit: '', least: 1, most: GUIDE_HUES.length }}
          onSettled={(hue) => onChange({ ...grid, hue: Math.round(hue) - 1 })}
        />
      </Line>
      <Switch
        label="Keep to the grid lines"
        name={`Keep to the grid of ${name}`}
        on={grid.snaps}
        onChange={(snaps) => onChange({ ...grid, snaps })}
      />
    </>
  );
}
