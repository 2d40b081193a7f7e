import type { Command, HoldCommand } from './command';
import { setStage, takeTool } from './desk';
import { workbench, type Stage } from './workbench';

/** Lays out what there is: the stages, with all their commands, and the commands that belong to none. */
export function layOut(
  stages: readonly Stage[],
  commands: readonly Command[],
  holdCommands: readonly HoldCommand[],
): void {
  workbench.layOut(
    stages,
    [...commands, ...stages.flatMap(commandsOf)],
    [...holdCommands, ...stages.flatMap((stage) => stage.holdCommands ?? [])],
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
