import { useState } from 'react';
import { Pressable, Text, View } from 'react-native';
import Svg, { Path } from 'react-native-svg';
import { useSlot } from '../../board';
import { Button } from '../../look';
import { KINDS } from './pictures';
import { pressSlot } from './pressHand';
import { byKind, canMend, usePress, type Found } from './pressStore';

/** Rows of one kind that are listed; the others come as those are done with. */
const MOST_ROWS = 30;

/** What was found, by its kind: each is gone to at a touch. */
export function FindingList() {
  const findings = usePress((state) => state.findings);
  const inHand = usePress((state) => state.inHand);
  const [opened, setOpened] = useState<string>();
  const groups = byKind(findings);
  const held = findings.find(({ id }) => id === inHand)?.kind;
  return (
    <View role="group" aria-label="Findings" className="gap-1">
      {groups.map(([kind, own]) => (
        <Group
          key={kind}
          found={own}
          isOpen={kind === held || kind === opened || groups.length === 1}
          onToggle={() => setOpened(opened === kind ? undefined : kind)}
        />
      ))}
    </View>
  );
}

interface GroupProps {
  readonly found: readonly Found[];
  readonly isOpen: boolean;
  readonly onToggle: () => void;
}

function Group({ found, isOpen, onToggle }: GroupProps) {
  const check = useSlot(pressSlot);
  const { title, picture } = KINDS[found[0].kind];
  const mendable = found.filter(canMend);
  return (
    <View className="rounded-xl border border-rule">
      <Pressable
        role="button"
        aria-expanded={isOpen}
        aria-label={`${title}, ${found.length}`}
        onPress={onToggle}
        className="min-h-[44px] flex-row items-center gap-2 px-2"
      >
        <Svg width={24} height={24} viewBox="0 0 24 24" aria-hidden>
          <Path d={picture} fill="none" stroke="var(--ink)" strokeWidth={1.3} strokeLinecap="round" />
        </Svg>
        <Text className="shrink grow font-bold text-14 text-ink">{title}</Text>
        <Text className="font-sans text-14 text-faint">{found.length}</Text>
      </Pressable>
      {isOpen && (
        <View className="gap-1 px-1 pb-1">
          <View role="list" aria-label={title} className="gap-1">
            {found.slice(0, MOST_ROWS).map((finding) => (
              <Row key={finding.id} finding={finding} />
            ))}
          </View>
          {found.length > 1 && (
            <View className="flex-row flex-wrap gap-2 p-1">
              {mendable.length > 1 && (
                <Button label={`Mend all ${mendable.length}`} onPress={() => check.mend(mendable)} />
              )}
              <Button label={`Silence all ${found.length}`} onPress={() => check.silence(found)} />
            </View>
          )}
        </View>
      )}
    </View>
  );
}

function Row({ finding }: { readonly finding: Found }) {
  const check = useSlot(pressSlot);
  const isHeld = usePress(({ inHand }) => inHand === finding.id);
  return (
    <View role="listitem" className={`rounded-lg border ${isHeld ? 'border-seal bg-raised' : 'border-transparent'}`}>
      <Pressable
        role="button"
        aria-label={finding.words}
        aria-pressed={isHeld}
        onPress={() => check.goTo(finding)}
        className="min-h-[44px] justify-center px-2 py-1"
      >
        <Text className="font-sans text-14 text-ink">{finding.words}</Text>
      </Pressable>
      {isHeld && (
        <View className="flex-row gap-2 px-2 pb-2">
          <FindingDeeds />
        </View>
      )}
    </View>
  );
}

/** What can be done about the finding in hand. */
export function FindingDeeds() {
  const check = useSlot(pressSlot);
  const finding = usePress(({ findings, inHand }) => findings.find(({ id }) => id === inHand));
  return (
    <>
      <Button
        label="Mend"
        tone="seal"
        disabled={!finding || !canMend(finding)}
        onPress={() => finding && check.mend([finding])}
      />
      <Button label="Silence" disabled={!finding} onPress={() => finding && check.silence([finding])} />
    </>
  );
}
