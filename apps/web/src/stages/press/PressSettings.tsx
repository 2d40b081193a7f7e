import { ofKind } from '@true-nib/core/page';
import ChevronRight from 'lucide-react-native/icons/chevron-right';
import { Text, View } from 'react-native';
import { useBoard, usePage, useSlot, type SettingsProps } from '../../board';
import { Button, Choice, Fold, IconButton, Line, ScrubNumber, Switch } from '../../look';
import { BlacksShown } from './BlacksShown';
import { FindingDeeds, FindingList } from './FindingList';
import { pressSlot } from './pressHand';
import { usePress, usePressDesk, type PressDesk } from './pressStore';
import { SeenSizes } from './SeenSizes';
import { WeightsShown } from './WeightsShown';

const set = (change: Partial<PressDesk>): void => void usePressDesk.setState(change);

/** How much was found, in words; of the one in hand, what it is. */
export function PressInWords({ ofOne = false }: { readonly ofOne?: boolean }) {
  const status = usePress((state) => state.status);
  const count = usePress(({ findings }) => findings.length);
  const at = usePress(({ findings, inHand }) => findings.findIndex(({ id }) => id === inHand));
  const held = usePress(({ findings }) => findings.at(at)?.words);
  const words = {
    idle: 'Not looked at yet.',
    looking: count === 0 ? 'Looking …' : `Looking … ${count} so far`,
    ready: count === 0 ? 'Nothing is wrong.' : count === 1 ? 'One thing to look at.' : `${count} things to look at.`,
  }[status];
  return (
    <Text className="font-sans text-14 text-faint" aria-live="polite" testID="press" numberOfLines={2}>
      {ofOne && at >= 0 ? `${at + 1} of ${count}: ${held}` : words}
    </Text>
  );
}

/** On a phone: what was found, one after the other. */
export function PressLine() {
  const check = useSlot(pressSlot);
  const hasAny = usePress(({ findings }) => findings.length > 0);
  return (
    <View className="grow basis-0 gap-1">
      <PressInWords ofOne />
      <View className="flex-row items-center gap-2">
        <FindingDeeds />
        <View className="grow" />
        <IconButton label="Next finding" icon={ChevronRight} disabled={!hasAny} onPress={() => check.next()} />
      </View>
    </View>
  );
}

const SCALES = [
  { value: '1', label: '100 %' },
  { value: '0.75', label: '75 %' },
  { value: '0.6', label: '60 %' },
] as const;

/** At which size the page will be printed. */
function ScaleSetting() {
  const scale = usePressDesk((state) => state.scale);
  return (
    <>
      <Line>
        <Choice
          label="Printed at"
          value={SCALES.find(({ value }) => Number(value) === scale)?.value ?? 'other'}
          options={SCALES}
          onChange={(value) => set({ scale: Number(value) })}
        />
      </Line>
      <Line>
        <ScrubNumber
          label="Printed at"
          value={Math.round(scale * 1000) / 10}
          onChange={(share) => set({ scale: share / 100 })}
          {...{ least: 5, most: 400, step: 1, unit: ' %' }}
        />
      </Line>
    </>
  );
}

/** What prints, and what is asked of the page. */
function PrintSettings() {
  const { leastMm, leastPt, finestLpi, isOneBit, withLeaks } = usePressDesk();
  return (
    <>
      <Line>
        <ScrubNumber
          label="Thinnest line"
          value={leastMm}
          onChange={(mm) => set({ leastMm: Math.round(mm * 100) / 100 })}
          {...{ least: 0.01, most: 2, step: 0.01, unit: ' mm' }}
        />
        <ScrubNumber
          label="Smallest letters"
          value={leastPt}
          onChange={(pt) => set({ leastPt: pt })}
          {...{ least: 1, most: 40, step: 0.5, unit: ' pt' }}
        />
      </Line>
      <Line>
        <ScrubNumber
          label="Finest tone"
          value={finestLpi}
          onChange={(lpi) => set({ finestLpi: lpi })}
          {...{ least: 10, most: 300, step: 1, unit: ' lines an inch' }}
        />
      </Line>
      <Switch label="Black and white only" on={isOneBit} onChange={(on) => set({ isOneBit: on })} />
      <Switch label="Look for leaks" on={withLeaks} onChange={(on) => set({ withLeaks: on })} />
    </>
  );
}

/** Lets what was silenced be heard again. */
function HearAgain() {
  const check = useSlot(pressSlot);
  const count = ofKind(usePage(useBoard()), 'silence').length;
  if (count === 0) return null;
  return (
    <Button
      label={count === 1 ? 'Hear the silenced one again' : `Hear all ${count} silenced again`}
      onPress={() => check.hearAll()}
    />
  );
}

/** All about the check: what was found, how it is printed, how weights and blacks are spread. */
export function PressSettings({ width, isWide }: SettingsProps) {
  return (
    <View className="gap-2">
      {isWide && <PressInWords />}
      <FindingList />
      <HearAgain />
      <ScaleSetting />
      <Fold title="What prints">
        <PrintSettings />
      </Fold>
      <Fold title="See it at a size" isOpenAtFirst>
        <SeenSizes />
      </Fold>
      <Fold title="Weights of lines">
        <WeightsShown width={width} />
      </Fold>
      <Fold title="Blacks">
        <BlacksShown width={width} />
      </Fold>
    </View>
  );
}
