import { Text, View } from 'react-native';
import { useBoard } from '../../board';
import { Button, Faint, Fold, Line, LineHint, ScrubNumber, Switch } from '../../look';
import { useSelection } from '../../select';
import { markFaces, pullNow, setLight, toneNow } from './lineDeeds';
import { useSetInHand } from './inHand';
import { setPull, setSets, useSets } from './setStore';

const MM = { least: 0, most: 3, step: 0.05, unit: ' mm' } as const;

/** How heavy the two sorts of lines are that matter most. */
export function PullLine() {
  const pull = useSets((state) => state.pull);
  const { blocks } = useSetInHand();
  if (blocks.length === 0) return <LineHint>Build a set first: then its lines are pulled.</LineHint>;
  return (
    <>
      <ScrubNumber label="Contour" value={pull.contour} onChange={(contour) => setPull({ contour })} {...MM} />
      <ScrubNumber label="Crease" value={pull.crease} onChange={(crease) => setPull({ crease })} {...MM} />
      <PullButton />
    </>
  );
}

function PullButton() {
  const board = useBoard();
  const pulling = useSets((state) => state.pulling);
  const { camera } = useSetInHand();
  if (pulling !== undefined)
    return (
      <View className="flex-row items-center gap-2">
        <Text className="font-sans text-14 text-ink" aria-live="polite">{`${Math.round(pulling * 100)} %`}</Text>
        <Button label="Stop" onPress={() => board.picture.besides.sets.stopPulling()} />
      </View>
    );
  return <Button label={camera?.pulled ? 'Pull anew' : 'Pull lines'} tone="seal" onPress={() => void pullNow(board)} />;
}

export function PullSettings({ isWide }: { readonly isWide: boolean }) {
  const pull = useSets((state) => state.pull);
  const { camera, blocks } = useSetInHand();
  if (blocks.length === 0) return <PullLine />;
  return (
    <View className="gap-3">
      {isWide && <PullButton />}
      <Line>
        {isWide && (
          <>
            <ScrubNumber label="Contour" value={pull.contour} onChange={(contour) => setPull({ contour })} {...MM} />
            <ScrubNumber label="Crease" value={pull.crease} onChange={(crease) => setPull({ crease })} {...MM} />
          </>
        )}
      </Line>
      <Line>
        <ScrubNumber label="Contact" value={pull.contact} onChange={(contact) => setPull({ contact })} {...MM} />
        <ScrubNumber label="Marks" value={pull.mark} onChange={(mark) => setPull({ mark })} {...MM} />
      </Line>
      <Line>
        <ScrubNumber
          label="Far off"
          value={pull.fall}
          onChange={(fall) => setPull({ fall })}
          {...{ least: 0, most: 150, step: 5, unit: ' %' }}
        />
        <ScrubNumber
          label="Crease from"
          value={pull.angle}
          onChange={(angle) => setPull({ angle })}
          {...{ least: 1, most: 90, step: 1, unit: '°' }}
        />
      </Line>
      <Line>
        <ScrubNumber
          label="Over corners"
          value={pull.over}
          onChange={(over) => setPull({ over })}
          {...{ least: -2, most: 5, step: 0.1, unit: ' mm' }}
        />
        <ScrubNumber
          label="Gap"
          value={pull.halo}
          onChange={(halo) => setPull({ halo })}
          {...{ least: 0, most: 5, step: 0.1, unit: ' mm' }}
        />
      </Line>
      <Line>
        <ScrubNumber label="Hidden, dashed" value={pull.hidden} onChange={(hidden) => setPull({ hidden })} {...MM} />
      </Line>
      <Switch label="With the nib in hand" on={pull.inHand} onChange={(inHand) => setPull({ inHand })} />
      <Switch label="Lines follow the camera" on={pull.follows} onChange={(follows) => setPull({ follows })} />
      <MarkFaces />
      <Tones />
      {camera?.pulled && <Faint>Turn the camera, and they are pulled anew. Lines that you worked on are kept.</Faint>}
    </View>
  );
}

/** What is selected can be laid on the faces under it. */
function MarkFaces() {
  const board = useBoard();
  const isAny = useSelection(({ size, isPixels }) => size > 0 && !isPixels);
  return isAny ? <Button label="Lay what is selected on the faces" onPress={() => markFaces(board)} /> : null;
}

const degrees = (radians: number) => Math.round((radians * 180) / Math.PI);
const radians = (angle: number) => (angle * Math.PI) / 180;

/** Tones on the faces that are turned from the light. */
function Tones() {
  const board = useBoard();
  const { set } = useSetInHand();
  const tone = useSets((state) => state.tone);
  if (!set) return null;
  return (
    <Fold title="Light and tones">
      <Line>
        <ScrubNumber
          label="Light round"
          value={degrees(set.light.round)}
          onChange={() => undefined}
          onSettled={(angle) => setLight(board, { round: radians(angle) })}
          {...{ least: -180, most: 180, step: 5, unit: '°' }}
        />
        <ScrubNumber
          label="Above"
          value={degrees(set.light.above)}
          onChange={() => undefined}
          onSettled={(angle) => setLight(board, { above: radians(angle) })}
          {...{ least: -90, most: 90, step: 5, unit: '°' }}
        />
      </Line>
      <Line>
        <ScrubNumber
          label="Dark under"
          value={tone.dark}
          onChange={(dark) => setSets({ tone: { ...tone, dark } })}
          {...{ least: -100, most: 100, step: 5, unit: ' %' }}
        />
        <ScrubNumber
          label="Tone"
          value={tone.share}
          onChange={(share) => setSets({ tone: { ...tone, share } })}
          {...{ least: 5, most: 100, step: 5, unit: ' %' }}
        />
      </Line>
      <Button label="Tone the dark faces" onPress={() => void toneNow(board)} />
    </Fold>
  );
}
