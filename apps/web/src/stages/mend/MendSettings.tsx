import { Text, View } from 'react-native';
import { Button, Choice, ScrubNumber, Switch, Faint, Line, usePerRow } from '../../look';
import { useSlot, useDesk } from '../../board';
import { mendSlot, type MendingTool } from './mendTool';
import { setMend, useMend } from './mendStore';
import type { MendReach } from '../../hand';
import { BridgeFields, EaseFields, PoolFields, TidyFields } from './PlannedSettings';
import { usePlan, type Plan, type PlannedTool } from './planner';

const WORDS: Readonly<Record<Exclude<MendingTool, PlannedTool>, string>> = {
  snip: 'Touch a piece of a line: it goes up to where it meets others. A drag takes all it crosses.',
  tug: 'Pull a line where it should be.',
  retrace: 'Draw over a part of a line: it takes your course.',
  reweigh: 'Draw along a line: it takes your weight.',
  swell: 'Brush over lines: they grow or shrink towards one width.',
  knife: 'Draw a loop: what lies in it is cut away.',
};

/** What the mending tool in hand will do, or has found, in words; and what does it at one touch. */
export function MendNow({ tool }: { readonly tool: MendingTool }) {
  if (!isPlanned(tool)) return <Text className="shrink grow font-sans text-14 text-faint">{WORDS[tool]}</Text>;
  return <PlanNow tool={tool} />;
}

/** What the mending tool in hand will do, and all that can be set about it. */
export function MendSettings({ tool }: { readonly tool: MendingTool }) {
  return (
    <View className="gap-2" testID="mend-settings">
      {isPlanned(tool) ? <PlanNow tool={tool} /> : <Faint>{WORDS[tool]}</Faint>}
      <MendFields tool={tool} />
    </View>
  );
}

const isPlanned = (tool: MendingTool): tool is PlannedTool =>
  tool === 'tidy' || tool === 'ease' || tool === 'bridge' || tool === 'pool';

/** All that can be set about a mending tool. */
export function MendFields({ tool }: { readonly tool: MendingTool }) {
  switch (tool) {
    case 'snip':
      return <SnipFields />;
    case 'tug':
      return <TugFields />;
    case 'retrace':
      return <ReachChoice />;
    case 'reweigh':
      return <ReweighFields />;
    case 'swell':
      return <SwellFields />;
    case 'knife':
      return <KnifeFields />;
    case 'tidy':
      return <TidyFields />;
    case 'ease':
      return <EaseFields />;
    case 'bridge':
      return <BridgeFields />;
    case 'pool':
      return <PoolFields />;
  }
}

const DEEDS: Readonly<Record<PlannedTool, string>> = {
  tidy: 'Tidy ends',
  ease: 'Ease',
  bridge: 'Bridge',
  pool: 'Pool',
};

function PlanNow({ tool }: { readonly tool: PlannedTool }) {
  const mend = useSlot(mendSlot);
  const plan = usePlan();
  return (
    <View className="shrink grow flex-row items-center gap-2">
      <Text className="shrink grow font-sans text-14 text-faint" aria-live="polite" testID="plan">
        {inWords(tool, plan)}
      </Text>
      <Button
        label={DEEDS[tool]}
        tone="seal"
        disabled={plan.status !== 'ready' || plan.count === 0}
        onPress={() => void mend.planner.apply()}
      />
    </View>
  );
}

function inWords(tool: PlannedTool, { status, share, count, marks, nodes, reason }: Plan): string {
  if (reason) return reason;
  if (status === 'working') return `Looking: ${Math.round(100 * share)} %`;
  if (status === 'idle') return '';
  const kept = marks.filter(({ isException }) => isException).length;
  const left = kept > 0 ? ` ${kept} left alone.` : '';
  const found = marks.length - kept;
  if (tool === 'tidy') return found + kept === 0 ? 'All ends are tidy.' : `${plural(found, 'end')} to tidy.${left}`;
  if (tool === 'bridge') return found + kept === 0 ? 'No ends belong together.' : `${plural(found, 'bridge')}.${left}`;
  if (count === 0) return tool === 'ease' ? 'No line has a point too many.' : 'No lines meet so sharply.';
  if (tool === 'pool') return `${plural(count, 'line')} to pool.`;
  const specks = marks.length > 0 ? ` ${plural(found, 'speck')} dropped.${left}` : '';
  return `${nodes[0]} points become ${nodes[1]}.${specks}`;
}

const plural = (count: number, word: string): string => (count === 1 ? `1 ${word}` : `${count} ${word}s`);

const REACHES: readonly { readonly value: MendReach; readonly label: string }[] = [
  { value: 'layer', label: 'This layer' },
  { value: 'inks', label: 'All Ink' },
  { value: 'chosen', label: 'Chosen' },
];

function ReachChoice() {
  const reach = useMend((state) => state.reach);
  return (
    <Line>
      <Choice
        label="Reach"
        value={reach}
        onChange={(next) => setMend({ reach: next })}
        options={REACHES}
        perRow={usePerRow()}
      />
    </Line>
  );
}

function SnipFields() {
  const gap = useMend((state) => state.gap);
  return (
    <>
      <ReachChoice />
      <Line>
        <ScrubNumber
          label="Count near misses up to"
          value={gap}
          onChange={(next) => setMend({ gap: next })}
          {...{ least: 0, most: 100, step: 0.5, unit: ' px' }}
        />
      </Line>
    </>
  );
}

function TugFields() {
  const tug = useMend((state) => state.tug);
  const change = (next: Partial<typeof tug>) => setMend({ tug: { ...tug, ...next } });
  return (
    <>
      <Line>
        <ScrubNumber
          label="Felt as far as"
          value={tug.radius}
          onChange={(radius) => change({ radius })}
          {...{ least: 5, most: 3000, step: 5, unit: ' px' }}
        />
        <ScrubNumber
          label="Narrow"
          value={tug.falloff}
          onChange={(falloff) => change({ falloff })}
          {...{ least: 0, most: 100, step: 5, unit: ' %' }}
        />
      </Line>
      <Switch label="Ends stay" on={tug.isPinned} onChange={(isPinned) => change({ isPinned })} />
      <Switch label="Lines beside it too" on={tug.several} onChange={(several) => change({ several })} />
      <ReachChoice />
    </>
  );
}

function ReweighFields() {
  const weighBy = useMend((state) => state.weighBy);
  const tool = useDesk((desk) => desk.tool);
  return (
    <>
      <Line>
        <Choice
          label="Weight from"
          value={weighBy}
          onChange={(next) => setMend({ weighBy: next })}
          options={[
            { value: 'pressure', label: 'Pen' },
            { value: 'in', label: 'In' },
            { value: 'out', label: 'Out' },
            { value: 'lens', label: 'Lens' },
          ]}
        />
      </Line>
      <Faint>
        {tool === 'reweigh' && weighBy === 'pressure'
          ? 'The pen’s pressure, with the nib in hand.'
          : 'A swelling along what you draw, as wide as the nib in hand: for a mouse or a finger.'}
      </Faint>
      <ReachChoice />
    </>
  );
}

function SwellFields() {
  const swell = useMend((state) => state.swell);
  const change = (next: Partial<typeof swell>) => setMend({ swell: { ...swell, ...next } });
  return (
    <>
      <Line>
        <ScrubNumber
          label="Towards"
          value={swell.width}
          onChange={(width) => change({ width })}
          {...{ least: 0, most: 400, step: 0.5, unit: ' px' }}
        />
        <ScrubNumber
          label="Brush"
          value={swell.radius}
          onChange={(radius) => change({ radius })}
          {...{ least: 2, most: 1000, step: 2, unit: ' px' }}
        />
      </Line>
      <ReachChoice />
    </>
  );
}

function KnifeFields() {
  const outside = useMend((state) => state.outside);
  return (
    <>
      <Line>
        <Choice
          label="Cut away"
          value={outside ? 'outside' : 'inside'}
          onChange={(next) => setMend({ outside: next === 'outside' })}
          options={[
            { value: 'inside', label: 'Inside' },
            { value: 'outside', label: 'Outside' },
          ]}
        />
      </Line>
      {outside && <Faint>Of the lines that the loop goes over, only what lies in it stays.</Faint>}
      <ReachChoice />
    </>
  );
}

/** How Rub leaves the ends that it cuts. */
export function CutEndChoice() {
  const cutEnd = useMend((state) => state.cutEnd);
  return (
    <Line>
      <Choice
        label="Cut ends"
        value={cutEnd}
        onChange={(next) => setMend({ cutEnd: next })}
        options={[
          { value: 'flat', label: 'Square' },
          { value: 'round', label: 'Round' },
        ]}
      />
    </Line>
  );
}
