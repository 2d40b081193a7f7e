import { guideSlot } from './guideTool';
import { mirrorSelected } from './mirroring';
import {
  aimedAt,
  WAY_NAMES,
  FRAME_WAYS,
  type GuideEntity,
  type GuideGrid,
  type GuideShape,
  type StraightedgeShape,
  type WheelShape,
} from '@true-nib/core/guides';
import { find, ofKind } from '@true-nib/core/page';
import { Text, View } from 'react-native';
import { useShallow } from 'zustand/react/shallow';
import { Button, Choice, NameField, ScrubNumber, Switch, Faint, Line, Settled } from '../../look';
import { useBoard, usePage } from '../../board';
import {
  layNext,
  setGuides,
  useGuides,
  degreesOf,
  lengthInWords,
  wheelInWords,
  GUIDE_NAMES,
  LAID_KINDS,
  LAYING_IN_WORDS,
  TemplateChoice,
} from '../../guiding';
import { useFrameInHand } from './useFrameInHand';
import { FrameSettings } from './FrameSettings';
import { proportionsOf } from './proportions';
import { StateSettings } from './GuideState';
import { flippedTemplate, strokeAllRound } from '../../hand';

/** The guide in hand, as the page has it. */
export function useGuideInHand(): GuideEntity | undefined {
  const page = usePage(useBoard());
  const id = useGuides((state) => state.guideId);
  return id === undefined ? undefined : find(page, 'guide', id);
}

/** What the next touch does, in words: for the bench of a phone and the top of the column. */
export function GuideInWords() {
  const { laying, isAiming } = useGuides(useShallow(({ laying, isAiming }) => ({ laying, isAiming })));
  const guide = useGuideInHand();
  const count = ofKind(usePage(useBoard()), 'guide').length;
  let words =
    count === 0 ? 'No guide yet: choose one to lay down.' : 'Touch a guide to move it; its tag puts it to sleep.';
  if (isAiming) words = 'Touch where the edge is to aim.';
  else if (laying) words = `${GUIDE_NAMES[laying]}: ${LAYING_IN_WORDS[laying].toLowerCase()}`;
  else if (guide) words = `${guide.name}: drag its grips, or its line.`;
  return <Text className="shrink grow font-sans text-14 text-ink">{words}</Text>;
}

/** Which kind of guide the next drag lays down. */
export function LayingChoice({ perRow }: { readonly perRow: number }) {
  const laying = useGuides((state) => state.laying);
  return (
    <Choice
      label="Lay down"
      value={laying ?? 'none'}
      options={LAID_KINDS.map((kind) => ({ value: kind, label: GUIDE_NAMES[kind] }))}
      onChange={(kind) => layNext(kind === 'none' ? undefined : kind)}
      perRow={perRow}
    />
  );
}

/** Everything about guides: what to lay down, then the one in hand. */
export function GuideSettings({ width, perRow }: { readonly width: number; readonly perRow: number }) {
  const laying = useGuides((state) => state.laying);
  const guide = useGuideInHand();
  return (
    <View className="gap-2">
      <Line>
        <LayingChoice perRow={perRow} />
      </Line>
      {laying === 'template' && <TemplateChoice width={width} />}
      {guide && !laying && <OneGuide guide={guide} width={width} />}
      <FollowSettings />
    </View>
  );
}

/** How near is near, and how soon a direction is taken. */
function FollowSettings() {
  const { reach, choosing } = useGuides(useShallow(({ reach, choosing }) => ({ reach, choosing })));
  return (
    <Line>
      <ScrubNumber
        label="Edges within"
        value={reach}
        onChange={(value) => setGuides({ reach: value })}
        {...{ least: 2, most: 80, step: 1, unit: ' px' }}
      />
      <ScrubNumber
        label="Fields after"
        value={choosing}
        onChange={(value) => setGuides({ choosing: value })}
        {...{ least: 1, most: 40, step: 1, unit: ' px' }}
      />
    </Line>
  );
}

export function OneGuide({ guide, width }: { readonly guide: GuideEntity; readonly width: number }) {
  const board = useBoard();
  const { session } = board;
  const guides = board.of(guideSlot);
  const { size } = session.page;
  const change = (shape: GuideShape) => guides.keep(guide, shape, `Set ${guide.name}`);
  const { shape } = guide;
  /** A number of the shape, shown while it is scrubbed and kept when it is let go. */
  const number = (
    label: string,
    unit: string,
    value: number,
    range: readonly [number, number],
    to: (value: number) => GuideShape,
  ) => (
    <Settled
      {...{ label, unit, value, least: range[0], most: range[1] }}
      onChange={(next) => guides.preview(guide, to(next))}
      onSettled={(next) => change(to(next))}
    />
  );
  return (
    <View className="gap-2">
      <NameField
        key={guide.id}
        label="Name"
        name={guide.name}
        most={80}
        onName={(name) => guides.tell(guide, `Name: ${name}`, { name })}
      />
      {shape.kind === 'frame' && <FrameSettings guide={{ ...guide, shape }} width={width} />}
      {shape.kind === 'plane' && <Faint>{`True proportions ${proportionsOf(shape)} (wide : high)`}</Faint>}
      {shape.kind === 'straightedge' && <Faint>{lengthInWords(shape, size.ppi)}</Faint>}
      {'x' in shape && shape.kind !== 'fold' && (
        <Line>
          {number('Across', ' px', shape.x, [-2 * size.width, 3 * size.width], (x) => ({ ...shape, x }))}
          {number('Down', ' px', shape.y, [-2 * size.height, 3 * size.height], (y) => ({ ...shape, y }))}
        </Line>
      )}
      {'angle' in shape && (
        <Line>
          {number('Angle', '°', degreesOf(shape.angle), [-180, 180], (degrees) => ({
            ...unaimed(shape),
            angle: (-degrees * Math.PI) / 180,
          }))}
          {shape.kind === 'ripples' &&
            number('Ratio', ' %', shape.ratio * 100, [2, 100], (percent) => ({ ...shape, ratio: percent / 100 }))}
          {shape.kind === 'straightedge' &&
            number('Length', ' px', shape.length, [1, 2 * size.height], (length) => ({ ...shape, length }))}
        </Line>
      )}
      {shape.kind === 'straightedge' && (
        <View className="flex-row flex-wrap gap-2">
          <Button label="Level" onPress={() => change({ ...unaimed(shape), angle: 0 })} />
          <Button label="Upright" onPress={() => change({ ...unaimed(shape), angle: Math.PI / 2 })} />
          <Button label="Aim at…" onPress={() => setGuides({ isAiming: true })} />
          <AimAtFrame shape={shape} onAim={change} />
          {shape.aim && <Button label="Aim at nothing" onPress={() => change(unaimed(shape))} />}
        </View>
      )}
      {'course' in shape && (
        <View className="flex-row flex-wrap gap-2">
          <Button label="Smooth" onPress={() => guides.changePoint('smooth')} />
          <Button label="Corner" onPress={() => guides.changePoint('corner')} />
          <Button label="Remove point" onPress={() => guides.changePoint('remove')} />
        </View>
      )}
      {shape.kind === 'wheel' && <WheelSettings shape={shape} change={change} />}
      {(shape.kind === 'mirror' || shape.kind === 'wheel') && (
        <Switch
          label="Join lines that end on the axis with their twin"
          on={shape.joins}
          onChange={(joins) => change({ ...shape, joins })}
        />
      )}
      {(shape.kind === 'rails' || shape.kind === 'ripples' || shape.kind === 'rays') && (
        <GridSettings
          grid={shape.grid}
          isTurned={shape.kind === 'rays'}
          onChange={(grid) => {
            const { grid: _old, ...rest } = shape;
            change(grid ? { ...rest, grid } : rest);
          }}
        />
      )}
      {shape.kind === 'fold' && (
        <Button label="Mirror the selected lines" onPress={() => mirrorSelected(board, shape)} />
      )}
      {(shape.kind === 'template' || shape.kind === 'plane') && (
        <View className="flex-row flex-wrap gap-2">
          <Button label="Stroke all round" tone="seal" onPress={() => strokeAllRound(board, guide)} />
          <Button label="Flip" onPress={() => change(flippedTemplate(shape))} />
        </View>
      )}
      <StateSettings guide={guide} />
    </View>
  );
}

/** A shape that aims at nothing. */
function unaimed<S extends GuideShape>(shape: S): S {
  if (shape.kind !== 'straightedge' || !shape.aim) return shape;
  const { aim: _gone, ...free } = shape;
  // Everything but the aim, which may be missing, is still there.
  return free as S;
}

/** Turns a straightedge to a point of the frame on this page, wherever it is moved. */
function AimAtFrame({
  shape,
  onAim,
}: {
  readonly shape: StraightedgeShape;
  readonly onAim: (shape: GuideShape) => void;
}) {
  const frame = useFrameInHand();
  if (!frame) return null;
  return FRAME_WAYS.map((way) => (
    <Button
      key={way}
      label={`Aim ${WAY_NAMES[way].toLowerCase()}`}
      onPress={() => {
        const aim = { point: frame.shape.points[way], frame: frame.id, way };
        onAim(aimedAt({ ...shape, aim }, aim.point));
      }}
    />
  ));
}

function WheelSettings({
  shape,
  change,
}: {
  readonly shape: WheelShape;
  readonly change: (shape: GuideShape) => void;
}) {
  const sectors = (count: number) => {
    const whole = Math.min(24, Math.max(2, Math.round(count)));
    change({ ...shape, sectors: shape.reflects ? whole + (whole % 2) : whole });
  };
  return (
    <View className="gap-2">
      <Line>
        <ScrubNumber
          label="Strokes in all"
          value={shape.sectors}
          onChange={() => undefined}
          onSettled={sectors}
          {...{ least: 2, most: 24, step: shape.reflects ? 2 : 1 }}
        />
      </Line>
      <Switch
        label="Mirror every other one"
        on={shape.reflects}
        onChange={(reflects) =>
          change({
            ...shape,
            reflects,
            sectors: reflects ? Math.min(24, shape.sectors + (shape.sectors % 2)) : shape.sectors,
          })
        }
      />
      <Faint>{wheelInWords(shape)}</Faint>
    </View>
  );
}

interface GridProps {
  readonly grid: GuideGrid | undefined;
  /** Steps are degrees. */
  readonly isTurned: boolean;
  readonly onChange: (grid: GuideGrid | undefined) => void;
}

function GridSettings({ grid, isTurned, onChange }: GridProps) {
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
