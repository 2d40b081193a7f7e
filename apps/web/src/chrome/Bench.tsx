import ChevronDown from 'lucide-react-native/icons/chevron-down';
import ChevronUp from 'lucide-react-native/icons/chevron-up';
import { useState } from 'react';
import { ScrollView, Text, useWindowDimensions, View } from 'react-native';
import { IconButton } from '../look/Button';
import { BENCH_HEIGHT } from './benchHeight';
import { useFolded } from './useFolded';
import { ColourSetting } from '../nibs/ColourSetting';
import { useDesk } from '../board/desk';
import { GuideInWords, GuideSettings } from '../stages/guides/GuideSettings';
import { CalmSetting } from '../nibs/CalmSettings';
import { CalmFold, NibFolds } from '../nibs/NibFolds';
import { NibInHand } from '../nibs/NibInHand';
import { SizeSetting } from '../nibs/SizeSettings';
import { CutEndChoice, MendFields, MendNow } from '../stages/mend/MendSettings';
import { isMending } from '../stages/mend/mendTool';
import { PointSettings, PointsInWords } from '../stages/mend/PointSettings';
import { PathSettings, ShapeChoice, ShapeSettings } from '../stages/ink/ShapeSettings';
import { useKeySet } from '../keys/keySet';
import {
  DeliverButton,
  DeliveryInWords,
  FileKindSetting,
  ScaleChoice,
  WithRoughSwitch,
} from '../stages/finish/FinishSettings';
import {
  OpacitySetting,
  OrderSetting,
  PlaceSetting,
  RemoveRough,
  ScaleSetting,
  TintSetting,
  TurnSetting,
  useRough,
} from '../stages/rough/RoughSettings';
import { SelectBy, SelectedInWords, SelectSettings } from '../select/SelectSettings';
import { StageTools } from './StageTools';
import { Thread } from './Thread';
import { useShallow } from 'zustand/react/shallow';

/** The bench of a phone, under the thumb: what matters now, the tools of the stage, the stages. Pulled up it shows all. */
export function Bench() {
  const { height, width } = useWindowDimensions();
  const [isUp, setUp] = useState(false);
  const stage = useDesk((desk) => desk.stage);
  const isFolded = useFolded();
  const isLeft = useKeySet((set) => set.hand === 'left');
  return (
    <View
      className="absolute bottom-0 left-0 right-0 border-t border-rule bg-tray"
      style={
        {
          transform: [{ translateY: isFolded ? FOLD : 0 }],
          transitionProperty: 'transform',
          transitionDuration: '160ms',
        } as object
      }
      pointerEvents={isFolded ? 'none' : 'auto'}
      aria-hidden={isFolded}
      testID="bench"
    >
      {isUp && (
        <ScrollView
          style={{ maxHeight: Math.max(120, height * 0.6 - BENCH_HEIGHT) }}
          className="border-b border-rule"
          contentContainerClassName="gap-3 p-3"
        >
          <AllSettings width={width - 26} />
        </ScrollView>
      )}
      <View className={`min-h-[58px] ${isLeft ? 'flex-row-reverse' : 'flex-row'} items-center gap-2 pl-3 pr-1 pt-1`}>
        <NowSettings />
        <IconButton
          label={isUp ? 'Fewer settings' : 'All settings'}
          icon={isUp ? ChevronDown : ChevronUp}
          onPress={() => setUp(!isUp)}
        />
      </View>
      {stage === 'finish' ? (
        <View className="min-h-[60px] justify-center px-3">
          <DeliverButton />
        </View>
      ) : (
        <View className={`min-h-[60px] ${isLeft ? 'flex-row-reverse' : 'flex-row'} items-center gap-1 px-2`}>
          <StageTools />
        </View>
      )}
      <Thread isUpright={false} />
    </View>
  );
}

/** CSS px by which the bench sinks while a line is drawn: a sliver stays. */
const FOLD = BENCH_HEIGHT - 14;

function NowSettings() {
  const { stage, tool, shape } = useDesk(useShallow(({ stage, tool, shape }) => ({ stage, tool, shape })));
  if (stage === 'rough') return <RoughNow />;
  if (stage === 'guides') return <GuideInWords />;
  if (stage === 'finish')
    return (
      <>
        <FileKindSetting />
        <ScaleChoice />
      </>
    );
  if (tool === 'select')
    return (
      <>
        <SelectBy />
        <SelectedInWords />
      </>
    );
  if (tool === 'lift')
    return <Text className="grow font-sans text-14 text-faint">Touch a line to lift it off the page.</Text>;
  if (tool === 'points') return <PointsInWords />;
  if (isMending(tool)) return <MendNow tool={tool} />;
  if (tool === 'path' || (tool === 'shape' && shape === 'poly-line'))
    return (
      <View className="grow">
        <PathSettings />
      </View>
    );
  return (
    <>
      {tool !== 'rub' && <NibInHand width={92} height={48} />}
      <SizeSetting />
      {tool !== 'shape' && <CalmSetting />}
    </>
  );
}

function RoughNow() {
  const rough = useRough();
  if (!rough)
    return (
      <Text className="grow font-sans text-14 text-faint">Bring in a sketch, a scan or a photo to draw over.</Text>
    );
  return (
    <>
      <OpacitySetting {...rough} />
      <ScaleSetting {...rough} />
      <TurnSetting {...rough} />
    </>
  );
}

function AllSettings({ width }: { readonly width: number }) {
  const { stage, tool } = useDesk(useShallow(({ stage, tool }) => ({ stage, tool })));
  if (stage === 'rough') return <RoughAll />;
  if (stage === 'guides') return <GuideSettings width={width} perRow={3} />;
  if (stage === 'finish')
    return (
      <>
        <WithRoughSwitch />
        <DeliveryInWords />
      </>
    );
  if (tool === 'select') return <SelectSettings width={width} />;
  if (tool === 'points') return <PointSettings />;
  if (isMending(tool)) return <MendFields tool={tool} />;
  if (tool === 'lift') return <Text className="font-sans text-14 text-faint">Touch a line, or drag over several.</Text>;
  if (tool === 'rub')
    return (
      <>
        <CutEndChoice />
        <CalmFold width={width} />
      </>
    );
  return (
    <>
      {tool === 'shape' && <ShapeChoice perRow={4} />}
      {tool === 'shape' && <ShapeSettings />}
      <ColourSetting />
      {tool === 'nib' && <CalmFold width={width} />}
      <NibFolds width={width} perRow={3} />
    </>
  );
}

function RoughAll() {
  const rough = useRough();
  if (!rough) return null;
  return (
    <>
      <TintSetting {...rough} />
      <OrderSetting {...rough} />
      <View className="flex-row gap-2">
        <PlaceSetting axis="x" {...rough} />
        <PlaceSetting axis="y" {...rough} />
      </View>
      <RemoveRough {...rough} />
    </>
  );
}
