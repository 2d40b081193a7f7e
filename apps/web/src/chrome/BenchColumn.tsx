import { type ReactNode } from 'react';
import { ScrollView, Text, View } from 'react-native';
import { ColourSetting } from '../nibs/ColourSetting';
import { CalmSetting } from '../nibs/CalmSettings';
import { CalmFold, NibFolds } from '../nibs/NibFolds';
import { NibInHand } from '../nibs/NibInHand';
import { SizeSetting } from '../nibs/SizeSettings';
import { CutEndChoice, MendSettings } from '../stages/mend/MendSettings';
import { isMending } from '../stages/mend/mendTool';
import { PointSettings } from '../stages/mend/PointSettings';
import { PathSettings, ShapeChoice, ShapeSettings } from '../stages/ink/ShapeSettings';
import { useDesk } from '../board/desk';
import { GuideInWords, GuideSettings } from '../stages/guides/GuideSettings';
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
import { SelectSettings } from '../select/SelectSettings';
import { StageTools } from './StageTools';
import { Thread } from './Thread';

/** CSS px of the previews in the column of settings. */
const WIDTH = 180;

/** The bench of a wide screen, one column beside the page: the stages, the tools of the stage, then all its settings. */
export function BenchColumn() {
  const stage = useDesk((desk) => desk.stage);
  return (
    <View className="flex-1 flex-row" testID="bench">
      <Thread isUpright />
      <ScrollView className="flex-1 border-l border-rule" contentContainerClassName="gap-2 p-2">
        {stage !== 'finish' && (
          <View className="flex-row flex-wrap">
            <StageTools />
          </View>
        )}
        {stage === 'rough' && <RoughColumn />}
        {stage === 'guides' && <GuideInWords />}
        {stage === 'guides' && <GuideSettings width={WIDTH} perRow={2} />}
        {(stage === 'ink' || stage === 'mend') && <InkColumn />}
        {stage === 'finish' && <FinishColumn />}
      </ScrollView>
    </View>
  );
}

const Line = ({ children }: { readonly children: ReactNode }) => <View className="flex-row gap-2">{children}</View>;

const Heading = ({ children }: { readonly children: ReactNode }) => (
  <Text className="pt-2 font-sans text-12 text-faint">{children}</Text>
);

const Hint = ({ children }: { readonly children: ReactNode }) => (
  <Text className="py-2 font-sans text-14 text-faint">{children}</Text>
);

function RoughColumn() {
  const rough = useRough();
  if (!rough) return <Hint>Bring in a sketch, a scan or a photo to draw over, or drop one on the page.</Hint>;
  return (
    <>
      <Line>
        <OpacitySetting {...rough} />
      </Line>
      <TintSetting {...rough} />
      <OrderSetting {...rough} />
      <Heading>Where it lies</Heading>
      <Line>
        <PlaceSetting axis="x" {...rough} />
      </Line>
      <Line>
        <PlaceSetting axis="y" {...rough} />
      </Line>
      <Line>
        <ScaleSetting {...rough} />
      </Line>
      <Line>
        <TurnSetting {...rough} />
      </Line>
      <RemoveRough {...rough} />
    </>
  );
}

function InkColumn() {
  const tool = useDesk((desk) => desk.tool);
  if (tool === 'select') return <SelectSettings width={WIDTH} />;
  if (tool === 'points') return <PointSettings />;
  if (isMending(tool)) return <MendSettings tool={tool} />;
  if (tool === 'lift') return <Hint>Touch a line, or drag over several, to lift them off the page.</Hint>;
  const isCalmed = tool === 'nib' || tool === 'rub';
  return (
    <>
      {tool === 'shape' && <ShapeChoice perRow={2} />}
      {tool === 'shape' && <ShapeSettings />}
      {tool === 'path' && <PathSettings />}
      {tool !== 'rub' && <NibInHand width={WIDTH} height={52} isNamed />}
      <Line>
        <SizeSetting />
      </Line>
      {isCalmed && (
        <Line>
          <CalmSetting />
        </Line>
      )}
      {tool === 'rub' ? (
        <>
          <CutEndChoice />
          <Hint>Takes away what it touches and cuts the lines there. It never paints over them.</Hint>
        </>
      ) : (
        <ColourSetting />
      )}
      {isCalmed && <CalmFold width={WIDTH} />}
      {tool !== 'rub' && <NibFolds width={WIDTH} perRow={1} />}
    </>
  );
}

const FinishColumn = () => (
  <>
    <Heading>Deliver</Heading>
    <FileKindSetting />
    <ScaleChoice />
    <WithRoughSwitch />
    <DeliveryInWords />
    <DeliverButton />
  </>
);
