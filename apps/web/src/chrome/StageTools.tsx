import { useDesk, workbench } from '../board';
import { ToolChips } from '../hand';

/** The few tools of the stage one is in. */
export function StageTools() {
  const stage = workbench.stage(useDesk((desk) => desk.stage));
  if (!stage) return null;
  return stage.Chips ? <stage.Chips /> : <ToolChips tools={stage.tools} />;
}
