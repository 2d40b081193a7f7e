import {
  aimedAt,
  WAY_NAMES,
  FRAME_WAYS,
  type BattenShape,
  type EchoShape,
  type FoldShape,
  type FrameShape,
  type GuideEntity,
  type GuideKind,
  type GuideShape,
  type MirrorShape,
  type PlaneShape,
  type RailsShape,
  type RaysShape,
  type RipplesShape,
  type StraightedgeShape,
  type TemplateShape,
  type WheelShape,
} from '@true-nib/core/guides';
import type { ComponentType } from 'react';
import { View } from 'react-native';
import { useBoard, usePage } from '../../board';
import { degreesOf, lengthInWords, setGuides, wheelInWords } from '../../guiding';
import { flippedTemplate, strokeAllRound } from '../../hand';
import { Button, NameField, ScrubNumber, Switch, Faint, Line, Settled } from '../../look';
import { FieldGrid } from './FieldGrid';
import { FrameSettings } from './FrameSettings';
import { StateSettings } from './GuideState';
import { guideSlot } from './guideTool';
import { mirrorSelected } from './mirroring';
import { proportionsOf } from './proportions';
import { useFrameInHand } from './useFrameInHand';

/** What the settings of a shape get: its guide, the shape, the room for them in CSS px, and how it is changed. */
interface ShapeProps<S extends GuideShape> {
  readonly guide: GuideEntity;
  readonly shape: S;
  readonly width: number;
  readonly change: (shape: GuideShape) => void;
}

/** The settings of each kind of guide, between its name and its state. */
const SETTINGS: {
  readonly [K in GuideKind]: ComponentType<ShapeProps<Extract<GuideShape, { readonly kind: K }>>>;
} = {
  straightedge: StraightedgeSettings,
  batten: CurveSettings,
  template: TemplateSettings,
  plane: PlaneSettings,
  rails: RailsSettings,
  ripples: RipplesSettings,
  rays: RaysSettings,
  echo: CurveSettings,
  mirror: MirrorSettings,
  wheel: WheelSettings,
  frame: FrameShapeSettings,
  fold: FoldSettings,
};

/** Everything about one guide: its name, the settings of its kind, and its state. */
export function OneGuide({ guide, width }: { readonly guide: GuideEntity; readonly width: number }) {
  const guides = useBoard().of(guideSlot);
  const { shape } = guide;
  // The compiler does not see that a shape and the settings of its kind belong together.
  const Settings = SETTINGS[shape.kind] as ComponentType<ShapeProps<GuideShape>>;
  return (
    <View className="gap-2">
      <NameField
        key={guide.id}
        label="Name"
        name={guide.name}
        most={80}
        onName={(name) => guides.tell(guide, `Name: ${name}`, { name })}
      />
      <Settings {...{ guide, shape, width }} change={(changed) => guides.keep(guide, changed, `Set ${guide.name}`)} />
      <StateSettings guide={guide} />
    </View>
  );
}

function StraightedgeSettings(props: ShapeProps<StraightedgeShape>) {
  const { shape, change } = props;
  const { size } = usePage(useBoard());
  return (
    <>
      <Faint>{lengthInWords(shape, size.ppi)}</Faint>
      <Place {...props} />
      <Line>
        <Angle {...props} angledAt={(angle) => ({ ...unaimed(shape), angle })} />
        <Measure
          {...props}
          {...{ label: 'Length', unit: ' px', value: shape.length, least: 1, most: 2 * size.height }}
          to={(length) => ({ ...shape, length })}
        />
      </Line>
      <View className="flex-row flex-wrap gap-2">
        <Button label="Level" onPress={() => change({ ...unaimed(shape), angle: 0 })} />
        <Button label="Upright" onPress={() => change({ ...unaimed(shape), angle: Math.PI / 2 })} />
        <Button label="Aim at…" onPress={() => setGuides({ isAiming: true })} />
        <AimAtFrame shape={shape} onAim={change} />
        {shape.aim && <Button label="Aim at nothing" onPress={() => change(unaimed(shape))} />}
      </View>
    </>
  );
}

function CurveSettings(_props: ShapeProps<BattenShape> | ShapeProps<EchoShape>) {
  const guides = useBoard().of(guideSlot);
  return (
    <View className="flex-row flex-wrap gap-2">
      <Button label="Smooth" onPress={() => guides.changePoint('smooth')} />
      <Button label="Corner" onPress={() => guides.changePoint('corner')} />
      <Button label="Remove point" onPress={() => guides.changePoint('remove')} />
    </View>
  );
}

function TemplateSettings({ guide, shape, change }: ShapeProps<TemplateShape> | ShapeProps<PlaneShape>) {
  const board = useBoard();
  return (
    <View className="flex-row flex-wrap gap-2">
      <Button label="Stroke all round" tone="seal" onPress={() => strokeAllRound(board, guide)} />
      <Button label="Flip" onPress={() => change(flippedTemplate(shape))} />
    </View>
  );
}

function PlaneSettings(props: ShapeProps<PlaneShape>) {
  return (
    <>
      <Faint>{`True proportions ${proportionsOf(props.shape)} (wide : high)`}</Faint>
      <TemplateSettings {...props} />
    </>
  );
}

function RailsSettings(props: ShapeProps<RailsShape>) {
  return (
    <>
      <Place {...props} />
      <Line>
        <Angle {...props} angledAt={(angle) => ({ ...props.shape, angle })} />
      </Line>
      <Grid {...props} />
    </>
  );
}

function RipplesSettings(props: ShapeProps<RipplesShape>) {
  const { shape } = props;
  return (
    <>
      <Place {...props} />
      <Line>
        <Angle {...props} angledAt={(angle) => ({ ...shape, angle })} />
        <Measure
          {...props}
          {...{ label: 'Ratio', unit: ' %', value: shape.ratio * 100, least: 2, most: 100 }}
          to={(percent) => ({ ...shape, ratio: percent / 100 })}
        />
      </Line>
      <Grid {...props} />
    </>
  );
}

function RaysSettings(props: ShapeProps<RaysShape>) {
  return (
    <>
      <Place {...props} />
      <Grid {...props} isTurned />
    </>
  );
}

function MirrorSettings(props: ShapeProps<MirrorShape>) {
  return (
    <>
      <Place {...props} />
      <Line>
        <Angle {...props} angledAt={(angle) => ({ ...props.shape, angle })} />
      </Line>
      <Joins {...props} />
    </>
  );
}

function WheelSettings(props: ShapeProps<WheelShape>) {
  return (
    <>
      <Place {...props} />
      <Line>
        <Angle {...props} angledAt={(angle) => ({ ...props.shape, angle })} />
      </Line>
      <Sectors {...props} />
      <Joins {...props} />
    </>
  );
}

function FrameShapeSettings({ guide, shape, width }: ShapeProps<FrameShape>) {
  return <FrameSettings guide={{ ...guide, shape }} width={width} />;
}

function FoldSettings({ shape }: ShapeProps<FoldShape>) {
  const board = useBoard();
  return <Button label="Mirror the selected lines" onPress={() => mirrorSelected(board, shape)} />;
}

interface MeasureProps {
  readonly guide: GuideEntity;
  readonly change: (shape: GuideShape) => void;
  readonly label: string;
  readonly unit: string;
  readonly value: number;
  readonly least: number;
  readonly most: number;
  readonly to: (value: number) => GuideShape;
}

/** A number of the shape, shown while it is scrubbed and kept when it is let go. */
function Measure({ guide, change, to, label, unit, value, least, most }: MeasureProps) {
  const guides = useBoard().of(guideSlot);
  return (
    <Settled
      {...{ label, unit, value, least, most }}
      onChange={(next) => guides.preview(guide, to(next))}
      onSettled={(next) => change(to(next))}
    />
  );
}

/** Where it lies, up to two pages off. */
function Place(props: ShapeProps<Extract<GuideShape, { readonly x: number }>>) {
  const { shape } = props;
  const { width, height } = usePage(useBoard()).size;
  return (
    <Line>
      <Measure
        {...props}
        {...{ label: 'Across', unit: ' px', value: shape.x, least: -2 * width, most: 3 * width }}
        to={(x) => ({ ...shape, x })}
      />
      <Measure
        {...props}
        {...{ label: 'Down', unit: ' px', value: shape.y, least: -2 * height, most: 3 * height }}
        to={(y) => ({ ...shape, y })}
      />
    </Line>
  );
}

interface AngleProps extends ShapeProps<Extract<GuideShape, { readonly angle: number }>> {
  readonly angledAt: (angle: number) => GuideShape;
}

function Angle({ angledAt, ...props }: AngleProps) {
  return (
    <Measure
      {...props}
      {...{ label: 'Angle', unit: '°', value: degreesOf(props.shape.angle), least: -180, most: 180 }}
      to={(degrees) => angledAt((-degrees * Math.PI) / 180)}
    />
  );
}

function Joins({ shape, change }: ShapeProps<MirrorShape> | ShapeProps<WheelShape>) {
  return (
    <Switch
      label="Join lines that end on the axis with their twin"
      on={shape.joins}
      onChange={(joins) => change({ ...shape, joins })}
    />
  );
}

interface FieldGridProps extends ShapeProps<RailsShape | RipplesShape | RaysShape> {
  readonly isTurned?: boolean;
}

function Grid({ shape, change, isTurned = false }: FieldGridProps) {
  return (
    <FieldGrid
      grid={shape.grid}
      isTurned={isTurned}
      onChange={(grid) => {
        const { grid: _old, ...rest } = shape;
        change(grid ? { ...rest, grid } : rest);
      }}
    />
  );
}

/** A straightedge that aims at nothing. */
function unaimed({ aim: _gone, ...free }: StraightedgeShape): StraightedgeShape {
  return free;
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

function Sectors({ shape, change }: ShapeProps<WheelShape>) {
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
