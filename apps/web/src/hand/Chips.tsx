import { Children, type ReactNode } from 'react';
import { ScrollView, useWindowDimensions, View } from 'react-native';
import { takeTool, useDesk, type Tool } from '../board';
import { withKey } from '../keys';
import { Chip, useIsWide } from '../look';

/** CSS px that a chip and its gap need at least. */
const CHIP = 62;
/** Tools that share the width of a phone. */
const FEW = 7;

/** A chip for each tool: side by side on a phone, drawn along sideways where they are many; in a grid on a wide screen. */
export function ToolChips({ tools }: { readonly tools: readonly Tool[] }) {
  const isRoomy = useIsWide();
  const { width } = useWindowDimensions();
  const chips = tools.map((tool) => <ToolChip key={tool.id} {...tool} />);
  if (isRoomy || tools.length < FEW || width >= tools.length * CHIP) return <Cells>{chips}</Cells>;
  return (
    <ScrollView horizontal showsHorizontalScrollIndicator={false} contentContainerClassName="items-center gap-1">
      {/* Words of two syllables are to be read whole. */}
      {inCells(chips, 'w-[68px]')}
    </ScrollView>
  );
}

/** A chip that takes a tool up. */
export function ToolChip({ id, label, icon }: Tool) {
  const isChosen = useDesk((desk) => desk.tool === id);
  return <Chip {...{ label, icon, isChosen }} tooltip={withKey(id)} onPress={() => takeTool(id)} />;
}

/** Chips that share the width of a phone, and stand in a grid on a wide screen. */
export function Cells({ children }: { readonly children: ReactNode }) {
  const isRoomy = useIsWide();
  return isRoomy ? inCells(children, 'w-[60px]') : children;
}

const inCells = (chips: ReactNode, width: string) =>
  Children.map(chips, (chip) => chip && <View className={`h-[58px] ${width}`}>{chip}</View>);
