import type { Command, HoldCommand } from './command';
import { setStage, takeTool } from './desk';
import { workbench, type Stage } from './workbench';

/** The commands that belong to no stage. */
interface General {
  /** What stands before the stages' own in lists, and what stands after them. */
  readonly first: readonly Command[];
  readonly last: readonly Command[];
  readonly holds: readonly HoldCommand[];
}

/** Lays out what there is: the stages with all their commands, and the commands that belong to none. */
export function layOut(stages: readonly Stage[], { first, last, holds }: General): void {
  workbench.layOut(
    stages,
    [...first, ...stages.flatMap(commandsOf), ...last],
    [...holds, ...stages.flatMap((stage) => stage.holdCommands ?? [])],
  );
}

/** Going to a stage, taking up its tools, and whatever else it brings. */
const commandsOf = (stage: Stage): Command[] => [
  { id: `stage-${stage.id}`, label: stage.label, room: 'Desk', key: stage.key, run: () => setStage(stage.id) },
  ...stage.tools.flatMap((tool): Command[] => [
    { ...{ id: tool.id, label: tool.label, run: () => takeTool(tool.id) }, ...tool.command },
    ...(tool.commands ?? []),
  ]),
  ...(stage.commands ?? []),
];
