import { useDesk } from '../board/desk';
import { workbench } from '../board/workbench';
import { ToolChips } from '../hand/Chips';

/** The few tools of the stage one is in. */
export function StageTools() {
  const stage = workbench.stage(useDesk((desk) => desk.stage));
  if (!stage) return null;
  return stage.Chips ? <stage.Chips /> : <ToolChips tools={stage.tools} />;
}
