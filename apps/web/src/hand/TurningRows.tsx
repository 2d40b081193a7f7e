import type { LucideIcon } from 'lucide-react-native';
import { Fragment, useState, type ReactNode } from 'react';
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

/** Rows of tools of one stage. A phone shows one of them, and a chip for each of the others. */
export function TurningRows({ rows }: { readonly rows: readonly [ToolRow, ToolRow, ...ToolRow[]] }) {
  const isWide = useIsWide();
  const tool = useDesk((desk) => desk.tool);
  const home = Math.max(
    0,
    rows.findIndex(({ tools }) => tools.some(({ id }) => id === tool)),
  );
  const [turned, setTurned] = useState<{ readonly tool: string; readonly row: number }>();
  const shown = turned?.tool === tool ? turned.row : home;
  if (isWide)
    return (
      <>
        {rows.map((row, k) => (
          <Fragment key={row.label}>
            {k > 0 && <View className="my-1 h-px w-full bg-rule" />}
            <Row {...row} />
          </Fragment>
        ))}
      </>
    );
  return (
    <>
      <View className="flex-row border-r border-rule">
        {rows.map(
          ({ label, icon }, row) =>
            row !== shown && (
              <View key={label} className="h-[58px] w-[54px]">
                <Chip
                  label={label}
                  icon={icon}
                  tooltip={`Tools for ${label.toLowerCase()}`}
                  onPress={() => setTurned({ tool, row })}
                />
              </View>
            ),
        )}
      </View>
      <View className="shrink grow basis-0 flex-row">
        <Row {...(rows[shown] ?? rows[0])} />
      </View>
    </>
  );
}

const Row = ({ chips, tools }: ToolRow) => chips ?? <ToolChips tools={tools} />;
