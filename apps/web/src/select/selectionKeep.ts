import type { Board, PageKeep, PageSlot } from '../board';
import { isInHand, toolInHand, workbench, layerInHand } from '../board';
import { selectionSlot } from './selection';

/** What a selection does when the desk or the hand asks something of it. */
function keepOf(board: Board): PageKeep {
  const selection = board.of(selectionSlot);
  return {
    dispose: () => selection.dispose(),
    letGo: () => selection.takeBack(),
    letAllGo() {
      selection.clear();
      return true;
    },
    settle: () => selection.keep(),
    leave: () => void selection.keep(true),
    // It is seen while a tool that shows it is in hand; what lies on a layer that is left is let go of.
    follow(desk, before) {
      const tool = workbench.tool(toolInHand(desk));
      selection.setVisible(tool?.showsSelection === true && isInHand(desk, tool.id));
      if (before && desk.layerId !== before.layerId && desk.layerId !== selection.layerId) selection.clear();
    },
    nudge(dx, dy) {
      if (!isInHand(board.desk(), 'select') || selection.size === 0) return false;
      const node = layerInHand(board.session.page, selection.layerId);
      if (node?.isLocked) board.notice(`${node.layer.name} is locked.`);
      else selection.moveBy(dx, dy);
      return true;
    },
  };
}

/** What the Ink stage keeps of the selection for an open page. */
export const selectionKeepSlot: PageSlot<PageKeep> = { open: keepOf };
