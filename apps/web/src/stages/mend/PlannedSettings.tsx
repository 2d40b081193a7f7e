import { Choice, ScrubNumber, Switch, Faint, Line, usePerRow } from '../../look';
import { useBoard } from '../../board';
import { useSelectedLines } from '../../select';
import { setMend, useMend, type MendScope } from './mendStore';

const SCOPES: readonly { readonly value: MendScope; readonly label: string }[] = [
  { value: 'selection', label: 'Selected' },
  { value: 'layer', label: 'This layer' },
  { value: 'page', label: 'Page' },
];

function ScopeChoice() {
  const scope = useMend((state) => state.scope);
  // A selection that comes or goes is heard of.
  useSelectedLines();
  return (
    <Line>
      <Choice
        label="Which lines"
        value={scope}
        onChange={(next) => setMend({ scope: next })}
        options={SCOPES}
        perRow={usePerRow()}
      />
    </Line>
  );
}

export function TidyFields() {
  const { overshoot, shortBy, unit } = useMend();
  const range = unit === 'mm' ? { most: 20, step: 0.1 } : { most: 500, step: 1 };
  return (
    <>
      <Line>
        <ScrubNumber
          label="Snip up to"
          value={overshoot}
          onChange={(next) => setMend({ overshoot: next })}
          {...{ least: 0, unit: ` ${unit}`, ...range }}
        />
        <ScrubNumber
          label="Grow up to"
          value={shortBy}
          onChange={(next) => setMend({ shortBy: next })}
          {...{ least: 0, unit: ` ${unit}`, ...range }}
        />
      </Line>
      <Line>
        <UnitChoice />
      </Line>
      <ScopeChoice />
      <Faint>Touch a ring on the page to leave that end alone.</Faint>
    </>
  );
}

function UnitChoice() {
  const { session } = useBoard();
  const { unit, overshoot, shortBy } = useMend();
  const perMm = session.page.size.ppi / 25.4;
  const change = (next: 'px' | 'mm') => {
    if (next === unit) return;
    const told = (length: number) =>
      next === 'mm' ? Math.round((10 * length) / perMm) / 10 : Math.round(length * perMm);
    setMend({ unit: next, overshoot: told(overshoot), shortBy: told(shortBy) });
  };
  return (
    <Choice
      label="Unit"
      value={unit}
      onChange={change}
      options={[
        { value: 'px', label: 'px' },
        { value: 'mm', label: 'mm' },
      ]}
    />
  );
}

export function EaseFields() {
  const ease = useMend((state) => state.ease);
  const change = (next: Partial<typeof ease>) => setMend({ ease: { ...ease, ...next } });
  return (
    <>
      <Line>
        <ScrubNumber
          label="Stray at most"
          value={ease.tolerance}
          onChange={(tolerance) => change({ tolerance })}
          {...{ least: 0.05, most: 20, step: 0.05, unit: ' px' }}
        />
        <ScrubNumber
          label="Drop specks under"
          value={ease.specks}
          onChange={(specks) => change({ specks })}
          {...{ least: 0, most: 100, step: 1, unit: ' px' }}
        />
      </Line>
      <ScopeChoice />
      {ease.specks > 0 && <Faint>Touch a ring on the page to keep that speck.</Faint>}
    </>
  );
}

export function BridgeFields() {
  const bridge = useMend((state) => state.bridge);
  const change = (next: Partial<typeof bridge>) => setMend({ bridge: { ...bridge, ...next } });
  return (
    <>
      <Line>
        <ScrubNumber
          label="Gaps up to"
          value={bridge.gap}
          onChange={(gap) => change({ gap })}
          {...{ least: 0, most: 500, step: 1, unit: ' px' }}
        />
        <ScrubNumber
          label="Turns up to"
          value={bridge.angle}
          onChange={(angle) => change({ angle })}
          {...{ least: 0, most: 180, step: 5, unit: '°' }}
        />
      </Line>
      <Switch label="Across other lines too" on={bridge.mayCross} onChange={(mayCross) => change({ mayCross })} />
      <ScopeChoice />
      <Faint>Touch a ring on the page to leave that gap open.</Faint>
    </>
  );
}

export function PoolFields() {
  const pool = useMend((state) => state.pool);
  const change = (next: Partial<typeof pool>) => setMend({ pool: { ...pool, ...next } });
  return (
    <>
      <Line>
        <Choice
          label="Where lines meet"
          value={pool.thins ? 'thin' : 'pool'}
          onChange={(next) => change({ thins: next === 'thin' })}
          options={[
            { value: 'pool', label: 'Ink gathers' },
            { value: 'thin', label: 'Ends thin' },
          ]}
        />
      </Line>
      <Line>
        <ScrubNumber
          label="Over"
          value={pool.radius}
          onChange={(radius) => change({ radius })}
          {...{ least: 2, most: 500, step: 1, unit: ' px' }}
        />
        <ScrubNumber
          label="Strength"
          value={pool.strength}
          onChange={(strength) => change({ strength })}
          {...{ least: 0, most: 100, step: 5, unit: ' %' }}
        />
      </Line>
      <Line>
        <ScrubNumber
          label="Sharper than"
          value={pool.angle}
          onChange={(angle) => change({ angle })}
          {...{ least: 5, most: 90, step: 5, unit: '°' }}
        />
      </Line>
      <ScopeChoice />
    </>
  );
}
