import { frameBetween, turnedFrame } from '@true-nib/core/guides';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { useBoard, usePage } from '../../board';
import { MANY, setDepth, useDepth, type FrameGuide } from '../../guiding';
import { Button, Choice, Line, ScrubNumber } from '../../look';
import { frameOrNone } from './frameOrNone';
import { guideSlot } from './guideTool';

interface Turned {
  readonly yaw: number;
  readonly tilt: number;
  readonly roll: number;
  readonly focal: number;
}
const STRAIGHT: Turned = { yaw: 0, tilt: 0, roll: 0, focal: 100 };

/** The camera turned by numbers, seen before it is kept: the slider goes from how it was to how it would be. */
export function TurnSettings({ guide }: { readonly guide: FrameGuide }) {
  const camera = useTurnedCamera(guide);
  const { turned, share } = camera;
  const number = (label: string, key: keyof Turned, [least, most]: readonly [number, number], unit: string) => (
    <ScrubNumber
      {...{ label, least, most, unit, step: 1, value: turned[key] }}
      onChange={(value) => camera.show({ ...turned, [key]: Math.round(value * 10) / 10 }, 100)}
    />
  );
  return (
    <View className="gap-2">
      <Line>
        {number('To the right', 'yaw', [-60, 60], '°')}
        {number('Up', 'tilt', [-50, 50], '°')}
      </Line>
      <Line>
        {number('Lean', 'roll', [-30, 30], '°')}
        {number('Focal', 'focal', [40, 250], ' %')}
      </Line>
      {guide.tethers && <FollowingChoice onChange={camera.again} />}
      {camera.isTurned && (
        <>
          <Line>
            <ScrubNumber
              label="Before · after"
              {...{ least: 0, most: 100, step: 1, unit: ' %', value: share }}
              onChange={(at) => camera.show(turned, at)}
            />
          </Line>
          <View className="flex-row gap-2">
            <Button label="Keep" tone="seal" onPress={camera.keep} />
            <Button label="Take back" onPress={camera.back} />
          </View>
        </>
      )}
    </View>
  );
}

/** How tethered lines go along. */
function FollowingChoice({ onChange }: { readonly onChange: () => void }) {
  const following = useDepth((state) => state.following);
  return (
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
          onChange();
        }}
      />
    </Line>
  );
}

/** A frame whose camera is being turned: it is only shown until it is kept, and taken back with the panel. */
function useTurnedCamera(guide: FrameGuide) {
  const board = useBoard();
  const { size } = usePage(board);
  const [turned, setTurned] = useState(STRAIGHT);
  const [share, setShare] = useState(100);
  const guides = board.of(guideSlot);
  useEffect(() => () => guides.preview(guide, undefined), [guides, guide]);
  const shapeAt = ({ yaw, tilt, roll, focal }: Turned, at: number) =>
    frameOrNone(() => {
      const [y, t, r] = [yaw, tilt, roll].map((angle) => (angle * Math.PI) / 180);
      const whole = turnedFrame(guide.shape, { yaw: y, tilt: t, roll: r, zoom: focal / 100 }, size);
      return frameBetween(guide.shape, whole, at / 100, size);
    });
  const show = (next: Turned, at: number) => {
    const shape = shapeAt(next, at);
    if (!shape) return board.notice('The camera cannot be turned so far.');
    setTurned(next);
    setShare(at);
    guides.preview(guide, shape, MANY);
  };
  const back = () => {
    setTurned(STRAIGHT);
    setShare(100);
    guides.preview(guide, undefined);
  };
  const keep = () => {
    const shape = shapeAt(turned, share);
    back();
    if (shape) guides.keep(guide, shape, 'Turn the camera');
  };
  const isTurned = turned !== STRAIGHT;
  return { turned, share, isTurned, show, back, keep, again: () => isTurned && show(turned, share) };
}
