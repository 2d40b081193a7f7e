import { ScrollView, View } from 'react-native';
import { StageTools } from './StageTools';
import { Thread } from './Thread';
import { useInHand } from './useInHand';

/** CSS px of the previews in the column of settings. */
const WIDTH = 180;

/** The bench of a wide screen, one column beside the page: the stages, the tools of the stage, then all its settings. */
export function BenchColumn() {
  const { stage, tool } = useInHand();
  const Settings = stage?.Settings ?? tool?.Settings;
  return (
    <View className="flex-1 flex-row" testID="bench">
      <Thread isUpright />
      <ScrollView className="flex-1 border-l border-rule" contentContainerClassName="gap-2 p-2">
        {stage && (stage.Chips !== undefined || stage.tools.length > 0) && (
          <View className="flex-row flex-wrap">
            <StageTools isWide />
          </View>
        )}
        {Settings && <Settings width={WIDTH} isWide />}
      </ScrollView>
    </View>
  );
}
