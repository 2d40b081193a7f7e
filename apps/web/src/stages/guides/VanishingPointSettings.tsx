import {
  FRAME_WAYS,
  isFinitePoint,
  sentToInfinity,
  spreadPoints,
  wayName,
  WAY_NAMES,
  type FrameShape,
  type FrameWay,
} from '@true-nib/core/guides';
import { View } from 'react-native';
import { useBoard, usePage } from '../../board';
import { setDepth, useDepth, type FrameGuide } from '../../guiding';
import { Button, Faint, Line, NameField, Settled, Switch } from '../../look';
import { pointInWords } from '../../render';
import { frameOrNone } from './frameOrNone';
import { guideSlot } from './guideTool';

interface PointsProps {
  readonly guide: FrameGuide;
  readonly change: (label: string, make: () => FrameShape) => void;
}

/** The points of a frame one by one, and how far they stand apart. */
export function VanishingPointSettings(props: PointsProps) {
  const { right, left } = props.guide.shape.points;
  const keepsHorizon = useDepth((state) => state.keepsHorizon);
  return (
    <>
      <Switch label="Points stay on the horizon" on={keepsHorizon} onChange={(on) => setDepth({ keepsHorizon: on })} />
      {FRAME_WAYS.map((way) => (
        <OnePoint key={way} way={way} {...props} />
      ))}
      {isFinitePoint(right) && isFinitePoint(left) && <Spread {...props} />}
    </>
  );
}

/** The name of a point, where it lies, and whether lines take it and it may move. */
function OnePoint({ guide, change, way }: PointsProps & { readonly way: FrameWay }) {
  const { size } = usePage(useBoard());
  const { shape } = guide;
  const isAsleep = shape.asleep.includes(way);
  const isFixed = shape.fixed.includes(way);
  const toggled = (list: FrameShape['asleep'], on: boolean) =>
    on ? [...list, way] : list.filter((one) => one !== way);
  const set = (label: string, changed: Partial<FrameShape>) =>
    change(`${label} ${WAY_NAMES[way]}`, () => ({ ...shape, ...changed }));
  return (
    <View className="gap-1 rounded-xl border border-rule p-2">
      <NameField
        label={`Name of ${WAY_NAMES[way]}`}
        name={wayName(shape, way)}
        most={40}
        onName={(name) => change(`Name: ${name}`, () => ({ ...shape, names: { ...shape.names, [way]: name } }))}
      />
      <Faint>{pointInWords(shape, way)}</Faint>
      <Switch
        label="Awake"
        name={`${WAY_NAMES[way]} awake`}
        on={!isAsleep}
        onChange={(on) => set(on ? 'Wake' : 'Sleep', { asleep: toggled(shape.asleep, !on) })}
      />
      <Switch
        label="Fixed"
        name={`${WAY_NAMES[way]} fixed`}
        on={isFixed}
        onChange={(on) => set(on ? 'Fix' : 'Free', { fixed: toggled(shape.fixed, on) })}
      />
      {isFinitePoint(shape.points[way]) && (
        <Button
          label="Send to infinity"
          onPress={() => change(`${WAY_NAMES[way]} to infinity`, () => sentToInfinity(shape, way, size))}
        />
      )}
    </View>
  );
}

/** How far the points on the horizon stand apart. */
function Spread({ guide, change }: PointsProps) {
  const board = useBoard();
  const { size } = usePage(board);
  const { shape } = guide;
  return (
    <Line>
      <Settled
        label="Spread"
        value={100}
        {...{ unit: ' %', least: 20, most: 500 }}
        onChange={(percent) =>
          board.of(guideSlot).preview(
            guide,
            frameOrNone(() => spreadPoints(shape, percent / 100, size)),
          )
        }
        onSettled={(percent) => change('Spread the points', () => spreadPoints(shape, percent / 100, size))}
      />
    </Line>
  );
}
