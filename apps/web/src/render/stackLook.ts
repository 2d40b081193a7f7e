import { nodesOf, type StackNode } from '@true-nib/core/page';
import type { EntityId } from '@true-nib/core/kind';

/** How the board looks at the stack while one works; never part of the page, never delivered. */
export interface StackLook {
  /** Only these layers are shown, with the groups around them and all that lies in them; empty for all. */
  readonly solo: readonly EntityId[];
  /** Whether layers show their stand-in colours. */
  readonly standIns: boolean;
}

/** The stack as it is delivered. */
export const plainLook: StackLook = { solo: [], standIns: false };

/** Whether a layer or group is to be seen. */
export function isShownUnder({ solo }: StackLook, node: StackNode, stack: readonly StackNode[]): boolean {
  if (node.isHidden) return false;
  if (solo.length === 0 || solo.includes(node.layer.id)) return true;
  const inside = (outer: StackNode) => nodesOf(outer.children).some(({ layer }) => layer.id === node.layer.id);
  return (
    nodesOf(node.children).some(({ layer }) => solo.includes(layer.id)) ||
    nodesOf(stack).some((outer) => solo.includes(outer.layer.id) && inside(outer))
  );
}
