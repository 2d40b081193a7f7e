import { useDesk, workbench } from '../board';
import { ToolChips } from '../hand';

/** The few tools of the stage one is in. */
export function StageTools({ isWide }: { readonly isWide: boolean }) {
  const stage = workbench.stage(useDesk((desk) => desk.stage));
  if (!stage) return null;
  const Chips = (isWide ? undefined : stage.PhoneChips) ?? stage.Chips;
  return Chips ? <Chips /> : <ToolChips tools={stage.tools} />;
}
