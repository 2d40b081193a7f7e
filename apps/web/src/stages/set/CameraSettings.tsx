import { find } from '@true-nib/core/page';
import { eyeHeight, focalInMm, pointsOf, widthOfView, type CameraEntity } from '@true-nib/core/set';
import { windowOf } from '@true-nib/core/staging';
import { View } from 'react-native';
import { useBoard, usePage } from '../../board';
import { Button, Choice, Faint, Line, LineHint, NameField, PictureChoice, ScrubNumber, Switch } from '../../look';
import { CAMERA_LABELS } from './cameraHand';
import {
  changeCamera,
  matchFrame,
  newCamera,
  seeAll,
  setEyeHeight,
  setLens,
  setPoints,
  toggleFrame,
} from './cameraDeeds';
import { useSetInHand } from './inHand';
import { deedOptions, pointOptions } from './pictures';
import { setSets, useSets } from './setStore';

const still = () => undefined;
const POINTS = pointOptions();
const DEEDS = deedOptions(CAMERA_LABELS);

/** Focal length and eye height of the camera in hand. */
export function CameraLine() {
  const { camera } = useSetInHand();
  if (!camera) return <LineHint>Build a set first: then a camera looks at it.</LineHint>;
  return (
    <>
      <Lens camera={camera} />
      <EyeHeight camera={camera} />
    </>
  );
}

function Lens({ camera }: { readonly camera: CameraEntity }) {
  const board = useBoard();
  const { minX, maxX } = windowOf(usePage(board), camera);
  const mm = focalInMm(camera.look.focal, maxX - minX);
  const degrees = Math.round((widthOfView(mm) * 180) / Math.PI);
  return (
    <ScrubNumber
      label="Lens"
      value={Math.round(mm)}
      shown={`${Math.round(mm)} mm, ${degrees}°`}
      onChange={still}
      onSettled={(next) => void setLens(board, next)}
      {...{ least: 8, most: 400, step: 1, unit: ' mm' }}
    />
  );
}

function EyeHeight({ camera }: { readonly camera: CameraEntity }) {
  const board = useBoard();
  return (
    <ScrubNumber
      label="Eye height"
      value={Math.round(eyeHeight(camera) * 100) / 100}
      onChange={still}
      onSettled={(next) => void setEyeHeight(board, next)}
      {...{ least: -50, most: 200, step: 0.05, unit: ' m' }}
    />
  );
}

export function CameraSettings({ isWide }: { readonly isWide: boolean }) {
  const board = useBoard();
  const deed = useSets((state) => state.cameraDeed);
  const { page, camera } = useSetInHand();
  if (!camera) return <CameraLine />;
  const points = `${pointsOf(camera)}` as '1' | '2' | '3';
  const hasFrame = camera.frameId !== undefined && find(page, 'guide', camera.frameId) !== undefined;
  return (
    <View className="gap-3">
      <PictureChoice
        label="A drag will"
        isLines
        value={deed}
        options={DEEDS}
        onChange={(cameraDeed) => setSets({ cameraDeed })}
      />
      {isWide && (
        <>
          <Line>
            <Lens camera={camera} />
          </Line>
          <Line>
            <EyeHeight camera={camera} />
          </Line>
        </>
      )}
      <PictureChoice
        label="Vanishing points"
        isLines
        value={points}
        options={POINTS}
        onChange={(value) => void setPoints(board, value === '1' ? 1 : value === '2' ? 2 : 3)}
      />
      <View className="flex-row flex-wrap gap-2">
        <Button label="See all" onPress={() => void seeAll(board)} />
        <Button label="Match the frame" onPress={() => void matchFrame(board)} />
      </View>
      <Switch label="Its frame guides lines" on={hasFrame} onChange={() => toggleFrame(board)} />
      <Line>
        <ScrubNumber
          label="Shown"
          value={Math.round(camera.opacity * 100)}
          onChange={still}
          onSettled={(share) => changeCamera(board, camera.id, 'Strength of the set', { opacity: share / 100 })}
          {...{ least: 5, most: 100, step: 5, unit: ' %' }}
        />
      </Line>
      <Switch
        label="Seen in all stages"
        on={camera.seen}
        onChange={(seen) => changeCamera(board, camera.id, seen ? 'Show the set' : 'Hide the set', { seen })}
      />
      <Cameras />
      {camera.panelId !== undefined && <Faint>It looks through its panel.</Faint>}
    </View>
  );
}

/** The cameras of the set: which is in hand, what it is called, and one more. */
function Cameras() {
  const board = useBoard();
  const { camera, cameras } = useSetInHand();
  if (!camera) return null;
  return (
    <>
      {cameras.length > 1 && (
        <Choice
          label="Camera"
          value={camera.id}
          options={cameras.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={(cameraId) => setSets({ cameraId })}
          perRow={2}
        />
      )}
      <NameField
        label="Name of the camera"
        name={camera.name}
        most={60}
        onName={(name) => changeCamera(board, camera.id, 'Name the camera', { name })}
      />
      <Button label="Another camera" onPress={() => newCamera(board)} />
    </>
  );
}
