import { useFrameInHand, OneGuide, keepSighted, layPreset, sightedFrom } from '../guides';
import { Fold, Button, Choice, ScrubNumber, Switch, Faint, Line } from '../../look';
import {
  FRAME_PRESETS,
  planeName,
  WAY_NAMES,
  wayName,
  outlierInWords,
  type FrameReach,
  FRAME_PLANES,
  FRAME_WAYS,
} from '@true-nib/core/guides';
import type { ComponentType } from 'react';
import { Text, View } from 'react-native';
import { useBoard, usePage } from '../../board';
import { TemplateChoice, setDepth, setGuides, useDepth, type DepthDeed, type FrameGuide } from '../../guiding';
import { choosePlanePicture } from './planePicture';

const DEEDS: Readonly<Record<DepthDeed, string>> = {
  frame: 'Frame',
  sight: 'Sight',
  shape: 'Plane shape',
  box: 'Box',
  march: 'March',
  bays: 'Bays',
  stairs: 'Stairs',
  lines: 'Grid lines',
  fold: 'Mirror',
};
const ORDER: readonly DepthDeed[] = ['frame', 'sight', 'shape', 'box', 'march', 'bays', 'stairs', 'lines', 'fold'];

/** What the next touch does in depth, in words. */
function useDepthInWords(): string {
  const deed = useDepth((state) => state.deed);
  const edges = useDepth((state) => state.edges.length);
  const way = useDepth((state) => state.sightWay);
  const frame = useFrameInHand();
  if (deed === 'sight')
    return edges === 0
      ? `Drag along an edge of the rough that runs ${WAY_NAMES[way].toLowerCase()}.`
      : `${edges} ${edges === 1 ? 'edge' : 'edges'}: drag along more, two a direction at least.`;
  if (!frame) return 'No frame yet: make one, or sight it.';
  return {
    frame: `${frame.name}: drag its points, its horizon, its corner.`,
    shape: 'Drag from corner to corner on the plane.',
    box: 'Drag the base on the floor, then pull the height.',
    march: 'Drag one step from the selected lines.',
    bays: 'Drag over the wall from corner to corner; Shift divides it the other way.',
    stairs: 'Drag from the foot as far as the stair runs.',
    lines: 'Touch the grid lines that are to be inked.',
    fold: 'Touch where the axis stands.',
  }[deed];
}

/** Everything one can do in depth: make a frame, then work in it. */
function DepthSettings({ width, perRow }: { readonly width: number; readonly perRow: number }) {
  const deed = useDepth((state) => state.deed);
  const frame = useFrameInHand();
  return (
    <View className="gap-2">
      <Line>
        <Choice
          label="In depth"
          value={deed}
          options={ORDER.map((value) => ({ value, label: DEEDS[value] }))}
          onChange={(value) => setDepth({ deed: value })}
          perRow={perRow}
        />
      </Line>
      {deed === 'sight' && <SightSettings />}
      {deed !== 'sight' && frame && <PlaneSettings frame={frame} width={width} perRow={perRow} />}
    </View>
  );
}

/** Ready-made frames. */
function PresetChoice() {
  const board = useBoard();
  return (
    <View className="flex-row flex-wrap gap-2">
      {FRAME_PRESETS.map((preset) => (
        <View key={preset.id} className="grow">
          <Button label={preset.name} onPress={() => layPreset(board, preset)} />
        </View>
      ))}
    </View>
  );
}

interface PlaneSettingsProps {
  readonly frame: FrameGuide;
  readonly width: number;
  readonly perRow: number;
}

/** The plane in hand, and the directions that lines take. */
function PlaneSettings({ frame, width, perRow }: PlaneSettingsProps) {
  const plane = useDepth((state) => state.plane);
  const limit = useDepth((state) => state.limit);
  const reaches: readonly { readonly value: FrameReach; readonly label: string }[] = [
    { value: 'all', label: 'All ways' },
    ...FRAME_PLANES.map((one) => ({ value: `plane:${one}` as const, label: planeName(frame.shape, one) })),
    ...FRAME_WAYS.map((way) => ({ value: `way:${way}` as const, label: wayName(frame.shape, way) })),
  ];
  return (
    <View className="gap-2">
      <Line>
        <Choice
          label="Plane"
          value={plane}
          options={FRAME_PLANES.map((value) => ({ value, label: planeName(frame.shape, value) }))}
          onChange={(value) => setDepth({ plane: value })}
          perRow={perRow === 2 ? 1 : 3}
        />
      </Line>
      <DeedSettings width={width} />
      <Faint>Lines go</Faint>
      <Line>
        <Choice
          label="Lines go"
          value={limit}
          options={reaches}
          onChange={(value) => setDepth({ limit: value })}
          perRow={perRow}
        />
      </Line>
    </View>
  );
}

/** The settings that a deed has of its own. */
const DEED_SETTINGS: Readonly<Record<DepthDeed, ComponentType<{ readonly width: number }> | undefined>> = {
  frame: undefined,
  sight: undefined,
  shape: PlaneShapeSettings,
  box: BoxSettings,
  march: MarchSettings,
  bays: BaySettings,
  stairs: StairSettings,
  lines: undefined,
  fold: undefined,
};

function DeedSettings({ width }: { readonly width: number }) {
  const Settings = DEED_SETTINGS[useDepth((state) => state.deed)];
  return Settings ? <Settings width={width} /> : null;
}

function PlaneShapeSettings({ width }: { readonly width: number }) {
  const picture = useDepth((state) => state.picture);
  const proportions = useDepth((state) => state.proportions);
  return (
    <>
      <TemplateChoice
        width={width}
        onTaken={(templateId) => {
          setGuides({ templateId });
          setDepth({ picture: undefined });
        }}
      />
      <Button
        label={picture ? `${picture.file.name} is next` : 'Lay a picture…'}
        onPress={() => void choosePlanePicture()}
      />
      {proportions && <Faint>{`The last one is truly ${proportions} (wide : high).`}</Faint>}
    </>
  );
}

function BoxSettings() {
  const hidden = useDepth((state) => state.hidden);
  return <Switch label="Hidden edges too" on={hidden} onChange={(on) => setDepth({ hidden: on })} />;
}

function MarchSettings() {
  const steps = useDepth((state) => state.steps);
  const spans = useDepth((state) => state.spans);
  return (
    <>
      <Line>
        <ScrubNumber
          label="Steps"
          {...{ least: 1, most: 100, step: 1, value: steps }}
          onChange={(value) => setDepth({ steps: Math.round(value) })}
        />
      </Line>
      <Switch label="The drag spans all steps" on={spans} onChange={(on) => setDepth({ spans: on })} />
    </>
  );
}

function BaySettings() {
  const bays = useDepth((state) => state.bays);
  return (
    <Line>
      <ScrubNumber
        label="Bays"
        {...{ least: 2, most: 60, step: 1, value: bays }}
        onChange={(value) => setDepth({ bays: Math.round(value) })}
      />
    </Line>
  );
}

function StairSettings() {
  const stairs = useDepth((state) => state.stairs);
  const set = (change: Partial<typeof stairs>) => setDepth({ stairs: { ...stairs, ...change } });
  return (
    <>
      <Line>
        <ScrubNumber
          label="Stairs"
          {...{ least: 1, most: 60, step: 1, value: stairs.count }}
          onChange={(value) => set({ count: Math.round(value) })}
        />
        <ScrubNumber
          label="Rise"
          {...{ least: 10, most: 200, step: 1, unit: ' %', value: stairs.rise }}
          onChange={(value) => set({ rise: Math.round(value) })}
        />
      </Line>
      <Line>
        <ScrubNumber
          label="Width at the foot"
          {...{ least: 10, most: 4000, step: 1, unit: ' px', value: stairs.width }}
          onChange={(value) => set({ width: Math.round(value) })}
        />
      </Line>
    </>
  );
}

function SightSettings() {
  const board = useBoard();
  const page = usePage(board);
  const edges = useDepth((state) => state.edges);
  const way = useDepth((state) => state.sightWay);
  const sighted = edges.length > 0 ? sightedFrom(edges, page) : undefined;
  const outliers =
    sighted && 'frame' in sighted
      ? sighted.residuals.flatMap((one, k) => (one.isOutlier ? [outlierInWords(one, k + 1)] : []))
      : [];
  return (
    <View className="gap-2">
      <Line>
        <Choice
          label="The edge runs"
          value={way}
          options={FRAME_WAYS.map((value) => ({ value, label: WAY_NAMES[value] }))}
          onChange={(value) => setDepth({ sightWay: value })}
        />
      </Line>
      {sighted && (
        <Text className="font-sans text-14 text-ink" aria-live="polite">
          {'frame' in sighted ? `${edges.length} edges agree within ${sighted.error.toFixed(2)}°.` : sighted.missing}
        </Text>
      )}
      {outliers.map((words) => (
        <Text key={words} className="font-bold text-14 text-seal">{`${words}: it was not heard.`}</Text>
      ))}
      <View className="flex-row flex-wrap gap-2">
        <Button
          label="Keep the frame"
          tone="seal"
          disabled={!sighted || !('frame' in sighted)}
          onPress={() => keepSighted(board)}
        />
        <Button
          label="Take back an edge"
          disabled={edges.length === 0}
          onPress={() => setDepth({ edges: edges.slice(0, -1) })}
        />
        {outliers.length > 0 && sighted && 'frame' in sighted && (
          <Button
            label="Drop outliers"
            onPress={() =>
              setDepth({ edges: sighted.residuals.flatMap(({ edge, isOutlier }) => (isOutlier ? [] : [edge])) })
            }
          />
        )}
        <Button label="Clear" disabled={edges.length === 0} onPress={() => setDepth({ edges: [] })} />
      </View>
    </View>
  );
}

/** Perspective: what one does in depth, and the frame it is done in. */
export function InDepth({ width, perRow }: { readonly width: number; readonly perRow: number }) {
  const deed = useDepth((state) => state.deed);
  const frame = useFrameInHand();
  return (
    <View className="gap-2">
      <DepthSettings width={width} perRow={perRow} />
      {deed === 'frame' && !frame && (
        <>
          <Faint>Make a frame:</Faint>
          <PresetChoice />
        </>
      )}
      {deed === 'frame' && frame && (
        <>
          <Fold title="Another frame">
            <PresetChoice />
          </Fold>
          <OneGuide guide={frame} width={width} />
        </>
      )}
    </View>
  );
}

/** What the next touch does in depth. */
export const DepthInWords = () => <Text className="shrink grow font-sans text-14 text-ink">{useDepthInWords()}</Text>;
