import { useSlot, useBoard, usePage, takeTool, useDesk } from '../../board';
import { guideSlot } from './guideTool';
import type { GuideEntity } from '@true-nib/core/guides';
import Eye from 'lucide-react-native/icons/eye';
import EyeOff from 'lucide-react-native/icons/eye-off';
import { Pressable, Text, View } from 'react-native';
import { IconButton, Switch } from '../../look';
import { guideColour } from '../../render';
import { setGuides, useGuides, stateInWords, guidesOf } from '../../guiding';

/** Guides on this page: each with its state, at one touch. */
export function GuideList() {
  const board = useBoard();
  const page = usePage(board);
  const guides = guidesOf(page);
  const isAtHome = useDesk((desk) => desk.stage === 'guides');
  const guided = useGuides((state) => state.guided);
  const areAllAsleep = guides.length > 0 && guides.every(({ acting }) => !acting);
  return (
    <View className="gap-1" role="list" aria-label="Guides on this page">
      {guides.length === 0 && (
        <Text className="font-sans text-14 text-faint">
          {isAtHome ? 'None yet.' : 'None yet. Lay one down in the stage Guides.'}
        </Text>
      )}
      {areAllAsleep && guided && (
        <Text className="font-sans text-14 text-faint">
          All of them sleep, so lines are free. Touch one to wake it.
        </Text>
      )}
      {guides.map((guide) => (
        <GuideRow key={guide.id} guide={guide} state={stateInWords(guide, guided, page)} />
      ))}
    </View>
  );
}

function GuideRow({ guide, state }: { readonly guide: GuideEntity; readonly state: string }) {
  const guides = useSlot(guideSlot);
  const isInHand = useGuides((state) => state.guideId === guide.id);
  return (
    <View
      role="listitem"
      className={`flex-row items-center gap-1 rounded-xl border px-1 py-0.5 ${isInHand ? 'border-seal bg-raised' : 'border-rule'}`}
    >
      <View style={{ width: 6, height: 28, borderRadius: 3, backgroundColor: guideColour(guide) }} />
      <Pressable
        role="button"
        aria-label={`Take ${guide.name} in hand`}
        onPress={() => {
          takeTool('guide');
          setGuides({ guideId: guide.id, laying: undefined });
        }}
        className="min-h-[44px] min-w-0 flex-1 justify-center px-1"
      >
        <Text className="font-bold text-14 text-ink" numberOfLines={2}>
          {guide.name}
        </Text>
        <Text className="font-sans text-12 text-faint" numberOfLines={2}>
          {state}
        </Text>
      </Pressable>
      <IconButton
        label={guide.seen ? `Hide ${guide.name}` : `Show ${guide.name}`}
        icon={guide.seen ? Eye : EyeOff}
        onPress={() => guides.tell(guide, `${guide.seen ? 'Hide' : 'Show'}: ${guide.name}`, { seen: !guide.seen })}
      />
      <View style={{ width: 62 }}>
        <Switch
          label=""
          name={`${guide.name} acts`}
          on={guide.acting}
          onChange={(acting) => guides.tell(guide, `${acting ? 'Wake' : 'Sleep'}: ${guide.name}`, { acting })}
        />
      </View>
    </View>
  );
}
