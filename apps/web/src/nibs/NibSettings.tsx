import { profileAt, type NibEdge, type NibProfile, type NibTip } from '@true-nib/core/nib';
import type { CurvePoint } from '@true-nib/core/math';
import type { Laying } from '@true-nib/core/rack';
import { useDeferredValue } from 'react';
import { Text, View } from 'react-native';
import { Button, Choice, NameField, ScrubNumber } from '../look';
import { useBoard } from '../board';
import { BendGraph } from './BendGraph';
import { binned } from './bins';
import { changeNib, changeRackNib, plainNib, setUnit, useLastHand } from './rackStore';
import { ThinnestSetting } from './SizeSettings';
import { useRackNib } from './useNib';

/** All that a nib is: its name, then in the order in which a line comes about: tip, weight, ends, edge, what it lays down. */
export function NibSettings({ width }: { readonly width: number }) {
  return (
    <>
      <NameSettings />
      <TipSettings />
      <WeightSettings width={width} />
      <ProfileSettings width={width} />
      <EdgeSettings />
      <LayingSettings />
    </>
  );
}

/** What the nib in hand is called and where it lies. */
function NameSettings() {
  const { id, nib, group } = useRackNib();
  return (
    <View key={id} className="gap-2">
      <NameField label="Name of the nib" name={nib.name} most={120} onName={(name) => changeNib({ name })} />
      <NameField
        label="Group"
        name={group}
        most={120}
        onName={(other) => changeRackNib((one) => ({ ...one, group: other }))}
      />
    </View>
  );
}

const Heading = ({ children }: { readonly children: string }) => (
  <Text role="heading" className="pt-2 font-bold text-12 text-faint">
    {children}
  </Text>
);

const degrees = (radians: number): number => Math.round((radians * 180) / Math.PI);
const radians = (value: number): number => (value * Math.PI) / 180;

function TipSettings() {
  const { nib, unit } = useRackNib();
  const { ppi } = useBoard().session.card;
  const { tip } = nib;
  const setTip = (change: Partial<NibTip>) => tip && changeNib({ tip: { ...tip, ...change } });
  const take = (shape: 'round' | NibTip['shape']) =>
    shape === 'round'
      ? plainNib('tip')
      : changeNib({ tip: { shape, angle: tip?.angle ?? radians(-35), thickness: tip?.thickness ?? 0.2 } });
  return (
    <>
      <Heading>Tip</Heading>
      <Choice
        label="Tip"
        value={tip?.shape ?? 'round'}
        onChange={take}
        options={[
          { value: 'round', label: 'Round' },
          { value: 'flat', label: 'Flat' },
          { value: 'chisel', label: 'Chisel' },
        ]}
      />
      {tip && (
        <View className="flex-row gap-2">
          <ScrubNumber
            label={tip.shape === 'chisel' ? 'Resting angle' : 'Angle'}
            value={degrees(-tip.angle)}
            onChange={(value) => setTip({ angle: radians(-value) })}
            least={-90}
            most={90}
            step={1}
            unit="°"
          />
          <ScrubNumber
            label="Depth"
            value={Math.round(tip.thickness * 100)}
            onChange={(value) => setTip({ thickness: value / 100 })}
            least={2}
            most={100}
            step={1}
            unit=" %"
          />
        </View>
      )}
      <Choice
        label="Sizes in"
        value={unit}
        onChange={(value) => setUnit(value, ppi)}
        options={[
          { value: 'px', label: 'px' },
          { value: 'mm', label: 'mm' },
        ]}
      />
    </>
  );
}

const GENTLE: readonly CurvePoint[] = [
  [0, 0],
  [0.33, 0.19],
  [0.67, 0.55],
  [1, 1],
];

function WeightSettings({ width }: { readonly width: number }) {
  const { press, speed = 0, tilt = 0 } = useRackNib().nib;
  // The chart is drawn with breaths in between: a hand that goes on must not wait for it.
  const pressures = useDeferredValue(useLastHand((hand) => hand.pressures));
  return (
    <>
      <Heading>Weight</Heading>
      <View className="flex-row gap-2">
        <ThinnestSetting />
      </View>
      <BendGraph
        label="Pressure to width"
        points={press ?? GENTLE}
        onChange={(points) => changeNib({ press: points })}
        width={width}
        under={pressures.length > 0 ? binned(pressures, 40, 0.6) : undefined}
        underInWords={pressures.length > 0 ? 'blue: your last line' : undefined}
        across="pressure"
        up="width"
      />
      {press && <Button label="Gentle curve again" onPress={() => plainNib('press')} />}
      <View className="flex-row gap-2">
        <ScrubNumber
          label="Fast"
          value={Math.round(speed * 100)}
          onChange={(value) => changeNib({ speed: value / 100 })}
          least={-100}
          most={100}
          step={5}
          shown={speed === 0 ? '± 0' : `${speed > 0 ? '+' : '−'}${Math.abs(Math.round(speed * 100))} %`}
        />
        <ScrubNumber
          label="Leaning"
          value={Math.round(tilt * 100)}
          onChange={(value) => changeNib({ tilt: value / 100 })}
          least={-90}
          most={400}
          step={5}
          shown={tilt === 0 ? '± 0' : `${tilt > 0 ? '+' : '−'}${Math.abs(Math.round(tilt * 100))} %`}
        />
      </View>
    </>
  );
}

type ProfileName = 'even' | 'in' | 'out' | 'lens' | 'own';

const nameOf = (profile: NibProfile | undefined): ProfileName =>
  profile === undefined ? 'even' : typeof profile === 'string' ? profile : 'own';

const OWN_STEPS = [0, 0.25, 0.5, 0.75, 1];

function ProfileSettings({ width }: { readonly width: number }) {
  const { profile, taperIn, taperOut } = useRackNib().nib;
  const take = (name: ProfileName) => {
    if (name === 'even') return plainNib('profile');
    if (name !== 'own') return changeNib({ profile: name });
    const from = profile ?? 'lens';
    changeNib({ profile: OWN_STEPS.map((x): CurvePoint => [x, profileAt(from, x)]) });
  };
  return (
    <>
      <Heading>Along the line</Heading>
      <Choice
        label="Profile"
        value={nameOf(profile)}
        onChange={take}
        perRow={3}
        options={[
          { value: 'even', label: 'Even' },
          { value: 'lens', label: 'Lens' },
          { value: 'own', label: 'Own' },
          { value: 'in', label: 'Taper in' },
          { value: 'out', label: 'Taper out' },
        ]}
      />
      {profile !== undefined && typeof profile !== 'string' && (
        <BendGraph
          label="Own profile"
          points={profile}
          onChange={(points) => changeNib({ profile: points })}
          width={width}
          across="along the line"
          up="width"
        />
      )}
      <View className="flex-row gap-2">
        <ScrubNumber
          label="Starts over"
          value={taperIn}
          onChange={(sizes) => changeNib({ taperIn: sizes })}
          least={0}
          most={40}
          step={0.5}
          unit=" ×"
        />
        <ScrubNumber
          label="Ends over"
          value={taperOut}
          onChange={(sizes) => changeNib({ taperOut: sizes })}
          least={0}
          most={40}
          step={0.5}
          unit=" ×"
        />
      </View>
    </>
  );
}

function EdgeSettings() {
  const { edge } = useRackNib().nib;
  const take = (kind: 'clean' | NibEdge['kind']) =>
    kind === 'clean'
      ? plainNib('edge')
      : changeNib({ edge: { kind, amount: edge?.amount ?? 0.4, grain: edge?.grain ?? 8 } });
  const change = (part: Partial<NibEdge>) => edge && changeNib({ edge: { ...edge, ...part } });
  return (
    <>
      <Heading>Edge</Heading>
      <Choice
        label="Edge"
        value={edge?.kind ?? 'clean'}
        onChange={take}
        options={[
          { value: 'clean', label: 'Clean' },
          { value: 'rough', label: 'Rough' },
          { value: 'dry', label: 'Dry' },
        ]}
      />
      {edge && (
        <View className="flex-row gap-2">
          <ScrubNumber
            label="Amount"
            value={Math.round(edge.amount * 100)}
            onChange={(value) => change({ amount: value / 100 })}
            least={0}
            most={100}
            step={1}
            unit=" %"
          />
          <ScrubNumber
            label="Grain"
            value={edge.grain}
            onChange={(grain) => change({ grain })}
            least={1}
            most={100}
            step={0.5}
            geometric
            unit=" px"
          />
        </View>
      )}
    </>
  );
}

function LayingSettings() {
  const { lays, nib } = useRackNib();
  const { opacity = 1 } = nib;
  return (
    <>
      <Heading>Lays down</Heading>
      <Choice<Laying>
        label="Lays down"
        value={lays}
        onChange={(value) => changeRackNib((one) => ({ ...one, lays: value }))}
        options={[
          { value: 'ink', label: 'Ink' },
          { value: 'paper', label: 'Paper' },
          { value: 'clearing', label: 'Clearing' },
        ]}
      />
      {lays !== 'clearing' && (
        <View className="flex-row gap-2">
          <ScrubNumber
            label="Opacity, whatever the pressure"
            value={Math.round(opacity * 100)}
            onChange={(value) => (value >= 100 ? plainNib('opacity') : changeNib({ opacity: value / 100 }))}
            least={5}
            most={100}
            step={5}
            unit=" %"
          />
        </View>
      )}
    </>
  );
}
