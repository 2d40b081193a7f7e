import type { LucideIcon } from 'lucide-react-native';
import { useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { useDesk, type Tool } from '../board';
import { Chip, useIsWide } from '../look';
import { ToolChips } from './Chips';

/** A row of tools with a name of its own. */
export interface ToolRow {
  readonly label: string;
  readonly icon: LucideIcon;
  readonly tools: readonly Tool[];
  /** What stands in it in place of a chip for each tool. */
  readonly chips?: ReactNode;
}

/** Two rows of tools of one stage. A phone shows one of them, and a chip that turns to the other. */
export function TurningRows({ rows: [first, second] }: { readonly rows: readonly [ToolRow, ToolRow] }) {
  const isWide = useIsWide();
  const tool = useDesk((desk) => desk.tool);
  const isSecond = second.tools.some(({ id }) => id === tool);
  const [turned, setTurned] = useState<{ readonly tool: string; readonly toSecond: boolean }>();
  const showsSecond = turned?.tool === tool ? turned.toSecond : isSecond;
  if (isWide)
    return (
      <>
        <Row {...first} />
        <View className="my-1 h-px w-full bg-rule" />
        <Row {...second} />
      </>
    );
  const other = showsSecond ? first : second;
  return (
    <>
      <View className="h-[58px] w-[62px] border-r border-rule">
        <Chip
          label={other.label}
          icon={other.icon}
          tooltip={`Tools for ${other.label.toLowerCase()}`}
          onPress={() => setTurned({ tool, toSecond: !showsSecond })}
        />
      </View>
      <View className="shrink grow basis-0 flex-row">
        <Row {...(showsSecond ? second : first)} />
      </View>
    </>
  );
}

const Row = ({ chips, tools }: ToolRow) => chips ?? <ToolChips tools={tools} />;
