import { guideSlot } from './guideTool';
import { FRAME_WAYS, isFinitePoint, readFrame, type FrameShape } from '@true-nib/core/guides';
import { PageError } from '@true-nib/core/gate';
import { useState } from 'react';
import { Text, View } from 'react-native';
import { Button, Fold, ScrubNumber, Faint, Line } from '../../look';
import { guideColour } from '../../render';
import { inThousands } from '../../base';
import { useBoard, usePage } from '../../board';
import type { FrameGuide } from '../../guiding';
import { sameCamera } from './frameDeeds';
import { FrameGrids } from './FrameGrids';
import { FrameMap } from './FrameMap';
import { VanishingPointSettings } from './VanishingPointSettings';
import { TurnSettings } from './TurnSettings';

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
        <VanishingPointSettings guide={guide} change={change} />
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
