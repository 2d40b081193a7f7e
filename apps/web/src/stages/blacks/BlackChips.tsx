import Black from 'lucide-react-native/icons/contrast';
import Rows from 'lucide-react-native/icons/hash';
import { useState } from 'react';
import { View } from 'react-native';
import { useDesk, type Tool } from '../../board';
import { ToolChips } from '../../hand';
import { Chip, useIsWide } from '../../look';
import { blackTools } from './tools';

/** Two rows of tools: for blacks, and for texture. A phone shows one of them, and a chip that turns to the other. */
export function BlackChips({ texture }: { readonly texture: readonly Tool[] }) {
  const isWide = useIsWide();
  const tool = useDesk((desk) => desk.tool);
  const isTexture = texture.some(({ id }) => id === tool);
  const [turned, setTurned] = useState<{ readonly tool: string; readonly toTexture: boolean }>();
  const showsTexture = turned?.tool === tool ? turned.toTexture : isTexture;
  if (isWide)
    return (
      <>
        <ToolChips tools={blackTools} />
        <View className="my-1 h-px w-full bg-rule" />
        <ToolChips tools={texture} />
      </>
    );
  return (
    <>
      <View className="h-[58px] w-[62px] border-r border-rule">
        <Chip
          label={showsTexture ? 'Blacks' : 'Texture'}
          icon={showsTexture ? Black : Rows}
          tooltip={showsTexture ? 'Tools for blacks' : 'Tools for texture'}
          onPress={() => setTurned({ tool, toTexture: !showsTexture })}
        />
      </View>
      <View className="shrink grow basis-0 flex-row">
        <ToolChips tools={showsTexture ? texture : blackTools} />
      </View>
    </>
  );
}
