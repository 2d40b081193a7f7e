import type { GuideEntity } from '@true-nib/core/guides';
import { find, ofKind } from '@true-nib/core/page';
import { Text, View } from 'react-native';
import { useShallow } from 'zustand/react/shallow';
import { Choice, ScrubNumber, Line } from '../../look';
import { useBoard, usePage } from '../../board';
import { layNext, setGuides, useGuides, GUIDE_NAMES, LAID_KINDS, LAYING_IN_WORDS, TemplateChoice } from '../../guiding';
import { OneGuide } from './OneGuide';

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
