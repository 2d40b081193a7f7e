import { guideSlot } from './guideTool';
import {
  frameBetween,
  isFinitePoint,
  readFrame,
  sentToInfinity,
  spreadPoints,
  turnedFrame,
  wayName,
  WAY_NAMES,
  FRAME_WAYS,
  type FrameShape,
} from '@true-nib/core/guides';
import { PageError } from '@true-nib/core/gate';
import { useEffect, useState } from 'react';
import { Text, View } from 'react-native';
import { Button, Choice, Fold, NameField, ScrubNumber, Switch, Faint, Line, Settled } from '../../look';
import { pointInWords, guideColour } from '../../render';
import { inThousands } from '../../base';
import { useBoard, usePage } from '../../board';
import { MANY, setDepth, useDepth, type FrameGuide } from '../../guiding';
import { sameCamera } from './frameDeeds';
import { FrameGrids } from './FrameGrids';
import { FrameMap } from './FrameMap';

const MM = 25.4;
/** The frame width of the film that lenses are named by, mm (common practice). */
const FILM = 36;
const degrees = (radians: number): number => (radians * 180) / Math.PI;

/** Everything about one frame: what it says of the eye, its points, its grids, and how its camera turns. */
export function FrameSettings({ guide, width }: { readonly guide: FrameGuide; readonly width: number }) {
  const board = useBoard();
  const { size } = usePage(board);
  const { shape } = guide;
  /** Keeps what a change makes of the frame, or says why it cannot be. */
  const change = (label: string, make: () => FrameShape) => {
    try {
      board.of(guideSlot).keep(guide, make(), label);
    } catch (error) {
      if (!(error instanceof PageError)) throw error;
      board.of(guideSlot).preview(guide, undefined);
      board.notice(error.message);
    }
  };
  return (
    <View className="gap-2">
      <FrameMap frame={shape} page={size} colour={guideColour(guide)} width={width} />
      <Readings guide={guide} />
      <SecondBox guide={guide} />
      <Fold title="Points of the frame">
        <PointSettings guide={guide} change={change} />
      </Fold>
      <Fold title="Turn the camera">
        <TurnSettings key={JSON.stringify(shape.points)} guide={guide} />
      </Fold>
      <Fold title="Grids" isOpenAtFirst>
        <FrameGrids guide={guide} change={change} />
      </Fold>
    </View>
  );
}

interface PointsProps {
  readonly guide: FrameGuide;
  readonly change: (label: string, make: () => FrameShape) => void;
}

/** The points of a frame one by one, and how far they stand apart. */
function PointSettings({ guide, change }: PointsProps) {
  const board = useBoard();
  const { size } = usePage(board);
  const { shape } = guide;
  const keepsHorizon = useDepth((state) => state.keepsHorizon);
  return (
    <>
      <Switch label="Points stay on the horizon" on={keepsHorizon} onChange={(on) => setDepth({ keepsHorizon: on })} />
      {FRAME_WAYS.map((way) => {
        const isAsleep = shape.asleep.includes(way);
        const isFixed = shape.fixed.includes(way);
        const toggled = (list: FrameShape['asleep'], on: boolean) =>
          on ? [...list, way] : list.filter((one) => one !== way);
        return (
          <View key={way} className="gap-1 rounded-xl border border-rule p-2">
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
              onChange={(on) =>
                change(`${on ? 'Wake' : 'Sleep'} ${WAY_NAMES[way]}`, () => ({
                  ...shape,
                  asleep: toggled(shape.asleep, !on),
                }))
              }
            />
            <Switch
              label="Fixed"
              name={`${WAY_NAMES[way]} fixed`}
              on={isFixed}
              onChange={(on) =>
                change(`${on ? 'Fix' : 'Free'} ${WAY_NAMES[way]}`, () => ({
                  ...shape,
                  fixed: toggled(shape.fixed, on),
                }))
              }
            />
            {isFinitePoint(shape.points[way]) && (
              <Button
                label="Send to infinity"
                onPress={() => change(`${WAY_NAMES[way]} to infinity`, () => sentToInfinity(shape, way, size))}
              />
            )}
          </View>
        );
      })}
      {isFinitePoint(shape.points.right) && isFinitePoint(shape.points.left) && (
        <Line>
          <Settled
            label="Spread"
            value={100}
            {...{ unit: ' %', least: 20, most: 500 }}
            onChange={(percent) =>
              board.of(guideSlot).preview(
                guide,
                tried(() => spreadPoints(shape, percent / 100, size)),
              )
            }
            onSettled={(percent) => change('Spread the points', () => spreadPoints(shape, percent / 100, size))}
          />
        </Line>
      )}
    </>
  );
}

function tried<T>(make: () => T): T | undefined {
  try {
    return make();
  } catch (error) {
    if (!(error instanceof PageError)) throw error;
    return undefined;
  }
}

/** What the frame says of the eye that sees it. */
function Readings({ guide }: { readonly guide: FrameGuide }) {
  const { size } = usePage(useBoard());
  const reading = readFrame(guide.shape, size);
  if ('impossible' in reading)
    return (
      <View className="rounded-xl border-2 border-seal p-2" role="alert">
        <Text className="font-bold text-14 text-ink">No square-cornered box looks so</Text>
        <Text className="font-sans text-14 text-ink">{reading.impossible}</Text>
      </View>
    );
  const { horizon, focal, fieldOfView, tilt, station, widest } = reading;
  const count = FRAME_WAYS.filter((way) => isFinitePoint(guide.shape.points[way])).length;
  const told = {
    1: 'One point: it is the centre of vision; the focal length is chosen.',
    2: guide.shape.centre
      ? 'Two points: the centre of vision was set.'
      : 'Two points: the centre of vision is the foot of the page’s middle on their line.',
    3: 'Three points: the centre of vision is where the heights of their triangle meet.',
  }[count];
  const rows: readonly (readonly [string, string])[] = [
    [
      'Horizon',
      horizon
        ? `${inThousands(Math.round(horizon.y))} px from the top${horizon.dy === 0 ? '' : `, ${degrees(-Math.atan2(horizon.dy, horizon.dx)).toFixed(1)}°`}`
        : 'none',
    ],
    ['Focal length', `${inThousands(Math.round(focal))} px · as ${((focal / size.width) * FILM).toFixed(0)} mm`],
    ['Field of view', `${degrees(fieldOfView).toFixed(1)}° across`],
    ['Looks', Math.abs(tilt) < 1e-6 ? 'level' : `${Math.abs(degrees(tilt)).toFixed(1)}° ${tilt > 0 ? 'up' : 'down'}`],
    [
      'Station point',
      `${((station.away * MM) / size.ppi).toFixed(0)} mm before ${inThousands(Math.round(station.x))}, ${inThousands(Math.round(station.y))}`,
    ],
    ['Cone that holds the page', `${degrees(widest).toFixed(0)}°`],
  ];
  return (
    <View className="gap-1">
      <Fold title="What the frame says" isOpenAtFirst>
        <View className="gap-1">
          {rows.map(([name, words]) => (
            <View key={name} className="flex-row flex-wrap justify-between gap-x-2">
              <Text className="font-sans text-12 text-faint">{name}</Text>
              <Text className="font-sans text-14 text-ink" style={{ fontVariant: ['tabular-nums'] }}>
                {words}
              </Text>
            </View>
          ))}
          <Faint>{told}</Faint>
        </View>
      </Fold>
      {degrees(widest) > 60 && (
        <Text className="font-bold text-14 text-seal" role="alert">
          The page leaves the cone of vision of 60°: outside the dotted ring boxes look pulled. Move the points farther
          apart.
        </Text>
      )}
    </View>
  );
}

interface Turned {
  readonly yaw: number;
  readonly tilt: number;
  readonly roll: number;
  readonly focal: number;
}
const STRAIGHT: Turned = { yaw: 0, tilt: 0, roll: 0, focal: 100 };

/** The camera turned by numbers, seen before it is kept: the slider goes from how it was to how it would be. */
function TurnSettings({ guide }: { readonly guide: FrameGuide }) {
  const board = useBoard();
  const { size } = usePage(board);
  const following = useDepth((state) => state.following);
  const [turned, setTurned] = useState(STRAIGHT);
  const [share, setShare] = useState(100);
  const isTurned = turned !== STRAIGHT;
  // What was only looked at is taken back with the panel.
  const guides = board.of(guideSlot);
  useEffect(() => () => guides.preview(guide, undefined), [guides, guide]);
  const shapeOf = ({ yaw, tilt, roll, focal }: Turned) => {
    const [y, t, r] = [yaw, tilt, roll].map((angle) => (angle * Math.PI) / 180);
    return turnedFrame(guide.shape, { yaw: y, tilt: t, roll: r, zoom: focal / 100 }, size);
  };
  const show = (next: Turned, at: number) => {
    const shape = tried(() => frameBetween(guide.shape, shapeOf(next), at / 100, size));
    if (!shape) return board.notice('The camera cannot be turned so far.');
    setTurned(next);
    setShare(at);
    board.of(guideSlot).preview(guide, shape, MANY);
  };
  const back = () => {
    setTurned(STRAIGHT);
    setShare(100);
    board.of(guideSlot).preview(guide, undefined);
  };
  const keep = () => {
    const shape = tried(() => frameBetween(guide.shape, shapeOf(turned), share / 100, size));
    back();
    if (shape) board.of(guideSlot).keep(guide, shape, 'Turn the camera');
  };
  const number = (label: string, key: keyof Turned, least: number, most: number, unit: string) => (
    <ScrubNumber
      {...{ label, least, most, unit, step: 1, value: turned[key] }}
      onChange={(value) => show({ ...turned, [key]: Math.round(value * 10) / 10 }, 100)}
    />
  );
  return (
    <View className="gap-2">
      <Line>
        {number('To the right', 'yaw', -60, 60, '°')}
        {number('Up', 'tilt', -50, 50, '°')}
      </Line>
      <Line>
        {number('Lean', 'roll', -30, 30, '°')}
        {number('Focal', 'focal', 40, 250, ' %')}
      </Line>
      {guide.tethers && (
        <Line>
          <Choice
            label="Tethered lines"
            value={following}
            options={[
              { value: 'carried', label: 'Carried' },
              { value: 'aimed', label: 'Aimed anew' },
            ]}
            onChange={(value) => {
              setDepth({ following: value });
              if (isTurned) show(turned, share);
            }}
          />
        </Line>
      )}
      {isTurned && (
        <>
          <Line>
            <ScrubNumber
              label="Before · after"
              {...{ least: 0, most: 100, step: 1, unit: ' %', value: share }}
              onChange={(at) => show(turned, at)}
            />
          </Line>
          <View className="flex-row gap-2">
            <Button label="Keep" tone="seal" onPress={keep} />
            <Button label="Take back" onPress={back} />
          </View>
        </>
      )}
    </View>
  );
}

function SecondBox({ guide }: { readonly guide: FrameGuide }) {
  const board = useBoard();
  const [yaw, setYaw] = useState(30);
  return (
    <View className="gap-2">
      <Line>
        <ScrubNumber
          label="Second box, turned by"
          {...{ least: 1, most: 89, step: 1, unit: '°', value: yaw }}
          onChange={setYaw}
        />
      </Line>
      <Button label="Same camera" onPress={() => sameCamera(board, guide, yaw)} />
    </View>
  );
}
