import type { Calm } from '@true-nib/core/hand';
import { View } from 'react-native';
import { Choice, ScrubNumber, Switch } from '../look';
import { changeTwin, setCalm } from './rackStore';
import { useRackNib } from './useNib';
import { WayPicture } from './WayPicture';

const WAYS = [
  { value: 'raw', label: 'Raw' },
  { value: 'even', label: 'Even' },
  { value: 'tow', label: 'Tow' },
  { value: 'sprung', label: 'Sprung' },
] as const;

export const nameOfWay = ({ way }: Calm): string => WAYS.find(({ value }) => value === way)?.label ?? '';

/** A calm in another way: what both have is kept. */
export function inWay(calm: Calm, way: Calm['way']): Calm {
  const { weight, stops, byPage } = calm;
  const base = { weight, stops, byPage };
  const strength = calm.way === 'raw' ? 40 : calm.strength;
  if (way === 'raw') return { ...base, way };
  if (way === 'even') return { ...base, way, strength };
  if (way === 'tow') return { ...base, way, strength, lag: 30 };
  return { ...base, way, strength, drag: 85 };
}

const strong = (calm: Calm, strength: number): Calm =>
  calm.way === 'raw' ? { ...calm, way: 'even', strength } : { ...calm, strength };

/** The calm of the nib in hand, or of what it rubs with. */
function useCalm(of: 'nib' | 'rub'): readonly [Calm, (calm: Calm) => void] {
  const { calm, twin } = useRackNib();
  return of === 'rub' ? [twin.calm, (changed) => changeTwin({ calm: changed })] : [calm, setCalm];
}

/** How strong the calm is: scrubbing *Raw* turns *Even* on. */
export function CalmSetting({ of }: { readonly of: 'nib' | 'rub' }) {
  const [calm, change] = useCalm(of);
  const isRaw = calm.way === 'raw';
  return (
    <ScrubNumber
      label={`Calm · ${nameOfWay(calm)}`}
      value={isRaw ? 0 : calm.strength}
      onChange={(strength) => change(strong(calm, strength))}
      least={0}
      most={100}
      step={1}
      shown={isRaw ? 'off' : String(calm.strength)}
    />
  );
}

interface CalmFieldsProps {
  readonly calm: Calm;
  readonly onChange: (calm: Calm) => void;
  readonly onSettled?: (calm: Calm) => void;
  /** Shows the strength too, where it has no place of its own. */
  readonly hasStrength?: boolean;
  readonly width: number;
}

/** A calm in all its numbers, with a picture of what its way does to a hand. */
export function CalmFields({
  calm,
  onChange,
  onSettled = () => undefined,
  hasStrength = false,
  width,
}: CalmFieldsProps) {
  const settle = (changed: Calm) => {
    onChange(changed);
    onSettled(changed);
  };
  return (
    <View className="gap-2">
      <Choice
        label="Calm"
        value={calm.way}
        onChange={(way) => settle(inWay(calm, way))}
        options={WAYS}
        perRow={width < 240 ? 2 : 4}
      />
      <WayPicture calm={calm} width={width} />
      {hasStrength && (
        <View className="flex-row">
          <ScrubNumber
            label="Strength"
            value={calm.way === 'raw' ? 0 : calm.strength}
            onChange={(strength) => onChange(strong(calm, strength))}
            onSettled={(strength) => onSettled(strong(calm, strength))}
            {...{ least: 0, most: 100, step: 1 }}
          />
        </View>
      )}
      <View className="flex-row gap-2">
        <Parameters calm={calm} onChange={onChange} onSettled={onSettled} />
        <ScrubNumber
          label="Weight"
          value={calm.weight ?? -1}
          onChange={(weight) => onChange(weighed(calm, weight))}
          onSettled={(weight) => onSettled(weighed(calm, weight))}
          least={-1}
          most={100}
          step={1}
          shown={calm.weight === undefined ? 'same' : String(calm.weight)}
        />
      </View>
      {calm.way !== 'raw' && (
        <>
          <Switch
            label="Draw on to the pen when it lifts"
            on={!calm.stops}
            onChange={(on) => settle({ ...calm, stops: on ? undefined : true })}
          />
          <Switch
            label="The same at every zoom, in page px"
            on={calm.byPage === true}
            onChange={(on) => settle({ ...calm, byPage: on ? true : undefined })}
          />
        </>
      )}
    </View>
  );
}

const weighed = (calm: Calm, weight: number): Calm => ({ ...calm, weight: weight < 0 ? undefined : weight });

function Parameters({ calm, onChange, onSettled }: Required<Pick<CalmFieldsProps, 'calm' | 'onChange' | 'onSettled'>>) {
  if (calm.way === 'tow')
    return (
      <ScrubNumber
        label="Lag"
        value={calm.lag}
        onChange={(lag) => onChange({ ...calm, lag })}
        onSettled={(lag) => onSettled({ ...calm, lag })}
        {...{ least: 0, most: 100, step: 1 }}
      />
    );
  if (calm.way === 'sprung')
    return (
      <ScrubNumber
        label="Drag"
        value={calm.drag}
        onChange={(drag) => onChange({ ...calm, drag })}
        onSettled={(drag) => onSettled({ ...calm, drag })}
        {...{ least: 0, most: 100, step: 1 }}
      />
    );
  return null;
}

/** The calm of the tool in hand with all its numbers. */
export function CalmSettings({ width, of }: { readonly width: number; readonly of: 'nib' | 'rub' }) {
  const [calm, change] = useCalm(of);
  return <CalmFields calm={calm} onChange={change} width={width} />;
}
