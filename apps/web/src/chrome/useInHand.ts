import { useShallow } from 'zustand/react/shallow';
import { useDesk, workbench, type Stage, type Tool } from '../board';

/** The stage one is in, and the tool in hand. */
export function useInHand(): { readonly stage: Stage | undefined; readonly tool: Tool | undefined } {
  const { stage, tool } = useDesk(useShallow(({ stage, tool }) => ({ stage, tool })));
  return { stage: workbench.stage(stage), tool: workbench.tool(tool) };
}
