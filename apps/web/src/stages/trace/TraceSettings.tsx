import { Text, View } from 'react-native';
import { useBoard, useSlot } from '../../board';
import { Button, Faint, Line, PictureChoice, ScrubNumber } from '../../look';
import { TAKES_PICTURES, WHERE_PICTURES } from './pictures';
import { sourceInHand } from './source';
import { setTrace, useTrace, useTraceChoice, type TraceChoice } from './traceStore';
import { tracingSlot } from './tracingDesk';

const TAKES = [
  { value: 'lines', label: 'Lines', picture: TAKES_PICTURES.lines },
  { value: 'outlines', label: 'Outlines', picture: TAKES_PICTURES.outlines },
  { value: 'both', label: 'Both', picture: TAKES_PICTURES.both },
] as const;

const WHERE = [
  { value: 'page', label: 'Page', picture: WHERE_PICTURES.page },
  { value: 'loop', label: 'Loop', picture: WHERE_PICTURES.loop },
  { value: 'panel', label: 'Panel', picture: WHERE_PICTURES.panel },
] as const;

function TraceNumber({
  of,
  label,
  ...range
}: {
  readonly of: 'darkness' | 'smallMarks' | 'corners' | 'smoothness' | 'blackFrom';
  readonly label: string;
  readonly least: number;
  readonly most: number;
  readonly step: number;
  readonly unit?: string;
  readonly shown?: string;
}) {
  const value = useTraceChoice((choice) => choice[of]);
  return (
    <ScrubNumber
      label={label}
      value={value}
      onChange={(next) => useTraceChoice.setState({ [of]: next } as Partial<TraceChoice>)}
      {...range}
    />
  );
}

const Darkness = () => <TraceNumber of="darkness" label="Darkness" least={5} most={95} step={1} unit=" %" />;
const SmallMarks = () => (
  <TraceNumber of="smallMarks" label="Ignore small marks" least={0} most={3} step={0.05} unit=" mm" />
);
const Corners = () => <TraceNumber of="corners" label="Corners" least={10} most={90} step={1} unit="°" />;
const Smoothness = () => <TraceNumber of="smoothness" label="Smoothness" least={1} most={30} step={0.5} />;

function BlackFrom() {
  const value = useTraceChoice((choice) => choice.blackFrom);
  return (
    <TraceNumber
      of="blackFrom"
      label="Black from"
      least={0}
      most={10}
      step={0.1}
      unit=" mm"
      {...(value === 0 && { shown: 'By the lines' })}
    />
  );
}

/** Traces, with how far it is and a way to stop. */
export function TraceDeed() {
  const desk = useSlot(tracingSlot);
  const share = useTrace((state) => state.share);
  if (share !== undefined)
    return (
      <View className="min-w-0 flex-1 flex-row items-center gap-2">
        <View
          className="h-2 min-w-0 flex-1 overflow-hidden rounded-full bg-rule"
          role="progressbar"
          aria-valuenow={Math.round(100 * share)}
          aria-label="Tracing"
        >
          <View className="h-2 bg-seal" style={{ width: `${Math.round(100 * share)}%` }} />
        </View>
        <Button label="Stop" onPress={() => desk.stop()} />
      </View>
    );
  return <Button label="Trace" tone="seal" onPress={() => void desk.trace()} />;
}

export const TraceLine = () => (
  <>
    <Darkness />
    <SmallMarks />
    <TraceDeed />
  </>
);

export function TraceSettings({ isWide }: { readonly isWide: boolean }) {
  const board = useBoard();
  const takes = useTraceChoice((choice) => choice.takes);
  const where = useTraceChoice((choice) => choice.where);
  const previewed = useTrace((state) => state.previewed);
  const source = sourceInHand(board);
  return (
    <View className="gap-2">
      {isWide && (
        <>
          <Line>
            <Darkness />
          </Line>
          <Line>
            <SmallMarks />
          </Line>
        </>
      )}
      <Line>
        <Corners />
        <Smoothness />
      </Line>
      <Line>
        <BlackFrom />
      </Line>
      <PictureChoice
        label="What is taken"
        value={takes}
        options={TAKES}
        isLines
        onChange={(next) => useTraceChoice.setState({ takes: next })}
      />
      <PictureChoice
        label="What is traced"
        value={where}
        options={WHERE}
        isLines
        onChange={(next) => {
          useTraceChoice.setState({ where: next });
          setTrace({ loop: undefined, panelId: undefined });
        }}
      />
      {isWide && <TraceDeed />}
      <Text className="font-sans text-14 text-faint" aria-live="polite" testID="trace-words">
        {source
          ? `From ${source.name}.${previewed === undefined ? '' : ` ${previewed} lines in sight.`}`
          : 'Bring in a scan, or take a Wash layer in hand.'}
      </Text>
      <Faint>What is shown in red is what would be traced. The lines land on an Ink layer of their own.</Faint>
    </View>
  );
}
