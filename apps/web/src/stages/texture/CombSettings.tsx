import { pxToMm } from '@true-nib/core/page';
import { combShare } from '@true-nib/core/texture';
import { View } from 'react-native';
import { useBoard, type SettingsProps } from '../../board';
import { Choice, Faint, Fold, Line, PictureChoice, ScrubNumber } from '../../look';
import { ColourSetting } from '../../nibs';
import { COMB_SPACING, COMB_WEIGHT, combSlot, SETS } from './combHand';
import { DragChoice, FromSelected, LengthSetting, ShareSetting, UnderwayButton, UnderwayDeeds } from './parts';
import { combPicture } from './pictures';
import {
  setTexture,
  useTexture,
  type CombAlong,
  type CombChoice,
  type CombDrag,
  type CombSets,
  type CombToned,
} from './textureStore';
import { useUnderway } from './underwayStore';

const set = (change: Partial<CombChoice>) => setTexture('comb', change);
const DRAGS: readonly CombDrag[] = ['way', 'gap', 'tone', 'move'];
const DEGREE = Math.PI / 180;
/** mm of paper between two lines that print closes. */
const LEAST_PAPER = 0.1;

const SET_PICTURES = (['one', 'square', 'slant', 'three'] as const).map((value) => ({
  value,
  label: { one: 'Rows', square: 'Crossed', slant: 'Diamonds', three: 'Three' }[value],
  picture: combPicture({ across: SETS[value].map(({ turn }) => ({ turn, from: 0 })) }),
})) satisfies { value: CombSets; label: string; picture: string }[];

const TONED = [
  { value: 'even', label: 'Even', picture: combPicture({}) },
  { value: 'weight', label: 'Heavier', picture: combPicture({}, 'weight') },
  { value: 'closer', label: 'Closer', picture: combPicture({}, 'closer') },
  { value: 'broken', label: 'Broken', picture: combPicture({}, 'broken') },
] as const satisfies { value: CombToned; label: string; picture: string }[];

const ALONG: readonly { readonly value: CombAlong; readonly label: string }[] = [
  { value: 'way', label: 'My way' },
  { value: 'guide', label: 'Guide' },
  { value: 'plane', label: 'Plane' },
  { value: 'edge', label: 'Edge' },
];

const lay = (board: Parameters<Parameters<typeof UnderwayButton>[0]['lay']>[0]) => void board.of(combSlot).settle();

function Weight() {
  const weight = useTexture(({ comb }) => comb.weight);
  return (
    <LengthSetting
      label="Weight"
      value={weight}
      onChange={(value) => set({ weight: value })}
      {...COMB_WEIGHT}
      isShort
    />
  );
}

function Apart() {
  const spacing = useTexture(({ comb }) => comb.spacing);
  return (
    <LengthSetting
      label="Apart"
      value={spacing}
      onChange={(value) => set({ spacing: value })}
      {...COMB_SPACING}
      isShort
    />
  );
}

/** The settings that matter now, for a phone. */
export function CombLine() {
  const isUnderway = useUnderway(({ tool }) => tool === 'comb');
  if (isUnderway)
    return (
      <>
        <View className="grow">
          <DragChoice drags={DRAGS} />
        </View>
        <UnderwayButton tool="comb" lay={lay} />
      </>
    );
  return (
    <>
      <Apart />
      <Weight />
    </>
  );
}

export function CombSettings({ isWide }: SettingsProps) {
  const comb = useTexture((state) => state.comb);
  const isUnderway = useUnderway(({ tool }) => tool === 'comb');
  return (
    <View className="gap-3">
      {isUnderway && isWide && <DragChoice drags={DRAGS} />}
      <UnderwayDeeds tool="comb" what="rows are under way." lay={lay} />
      <PictureChoice label="Sets of rows" value={comb.sets} options={SET_PICTURES} onChange={(sets) => set({ sets })} />
      <PictureChoice
        label="From light to dark"
        value={comb.toned}
        options={TONED}
        onChange={(toned) => set({ toned })}
      />
      {comb.toned !== 'even' && (
        <>
          <Line>
            <ShareSetting label="Light" value={comb.light} onChange={(light) => set({ light })} most={95} />
            <ShareSetting label="Dark" value={comb.dark} onChange={(dark) => set({ dark })} least={1} most={95} />
          </Line>
          <Faint>Choose Tone above a comb, then drag over it from light to dark.</Faint>
        </>
      )}
      <Choice
        label="Rows run along"
        value={comb.along}
        options={ALONG}
        onChange={(along) => set({ along })}
        perRow={isWide ? 2 : 4}
      />
      <Line>
        <LengthSetting label="Apart" value={comb.spacing} onChange={(spacing) => set({ spacing })} {...COMB_SPACING} />
      </Line>
      <Line>
        <Weight />
        <ScrubNumber
          label="Angle"
          value={Math.round(comb.angle / DEGREE)}
          onChange={(angle) => set({ angle: angle * DEGREE })}
          {...{ least: -180, most: 180, step: 1, unit: '°' }}
        />
      </Line>
      <Covers />
      <Fold title="As if by hand">
        <View className="gap-2">
          <Line>
            <ShareSetting label="Stray" value={comb.stray} onChange={(stray) => set({ stray })} />
            <ShareSetting label="Left out" value={comb.missing} onChange={(missing) => set({ missing })} most={90} />
          </Line>
          <Line>
            <ShareSetting label="Stop short" value={comb.short} onChange={(short) => set({ short })} most={95} />
            <Taper label="Swell" value={comb.taperIn} onChange={(taperIn) => set({ taperIn })} />
            <Taper label="Run out" value={comb.taperOut} onChange={(taperOut) => set({ taperOut })} />
          </Line>
        </View>
      </Fold>
      <ColourSetting />
      <FromSelected label="Comb what is selected" take={(board) => board.of(combSlot).fillSelected()} />
    </View>
  );
}

const Taper = (props: {
  readonly label: string;
  readonly value: number;
  readonly onChange: (value: number) => void;
}) => <ScrubNumber {...props} {...{ least: 0, most: 60, step: 1, unit: ' ×' }} />;

/** How much of the paper the rows cover, and whether print closes what is between them. */
function Covers() {
  const { spacing, sets, weight: size } = useTexture((state) => state.comb);
  const { ppi } = useBoard().session.card;
  const share = Math.round(100 * combShare(size, spacing, 1 + SETS[sets].length));
  const paper = pxToMm(spacing - size, ppi);
  return (
    <Faint>
      {paper <= 0
        ? 'Rows this wide touch: the loop is black.'
        : `Covers ${share} % of the paper.${paper < LEAST_PAPER ? ` Only ${paper.toFixed(2)} mm of paper lie between rows: print may close that.` : ''}`}
    </Faint>
  );
}

export function CombHint() {
  const isUnderway = useUnderway(({ tool }) => tool === 'comb');
  const drag = useTexture((state) => state.drag);
  if (!isUnderway) return 'Draw a loop, or touch a black or a region: it is filled with rows';
  const next: Readonly<Record<CombDrag, string>> = {
    way: 'Drag in the loop the way that rows run',
    gap: 'Drag in the loop across eight rows',
    tone: 'Drag over the loop from light to dark',
    move: 'Drag the loop; touch beside it to lay the rows down',
  };
  return next[drag];
}
