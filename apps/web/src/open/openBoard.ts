import {
  type Board,
  type PageKeep,
  type PageSlot,
  nodeInHand,
  leaveAside,
  takeTool,
  useDesk,
  type Desk,
  workbench,
} from '../board';
import { BoardHand } from '../hand';
import { say } from '../look';
import { type BoardPicture, plainLook } from '../render';
import type { PageSession } from '../session';

/** An open board, and how it is closed again. */
export interface OpenedBoard {
  readonly board: Board;
  readonly hand: BoardHand;
  close(): void;
}

/** Puts a board together: the page's session, its picture, the hand over it, and what the stages keep for it. */
export function openBoard(ground: HTMLElement, session: PageSession, picture: BoardPicture): OpenedBoard {
  for (const stage of workbench.stages) stage.forget?.();
  useDesk.setState({ chosenLayers: [], solo: [] });
  const { stage, tool } = useDesk.getState();
  // One that only looks at a finished page says nothing about the next: it opens to be drawn on.
  if (workbench.isPlain(useDesk.getState())) leaveAside();
  else if (workbench.homeOf(tool)?.id !== stage) takeTool(tool);
  const held = new Map<PageSlot<object>, object>();
  const keeps: PageKeep[] = [];
  const of = <T extends object>(slot: PageSlot<T>): T => {
    const known = held.get(slot);
    // Under a slot lies what that slot has opened, and nothing else.
    if (known) return known as T;
    const opened = slot.open(board);
    held.set(slot, opened);
    return opened;
  };
  const under = { picture, session, keeps, of, notice: say, desk: useDesk.getState };
  const hand = new BoardHand(ground, under);
  const board: Board = { ...under, hand };
  keeps.push(...workbench.stages.flatMap((stage) => (stage.keeps ?? []).map(of)));
  const stop = followDesk(board);
  return {
    board,
    hand,
    close() {
      stop();
      hand.dispose();
      for (const one of held.values()) if ('dispose' in one && typeof one.dispose === 'function') one.dispose();
      picture.dispose();
    },
  };
}

/** Shows what the desk says about looks and tools; leaving the page keeps what is under way. */
function followDesk(board: Board): () => void {
  const { session, picture, keeps, hand, desk } = board;
  const isPlain = (desk: Desk) => workbench.isPlain(desk);
  // Only pixels have px: over lines their edges are shown to who asks for them.
  const showPx = () => picture.setPxGrid(desk().pxGrid || nodeInHand(board)?.layer.medium === 'wash');
  const follow = (desk: Desk, before?: Desk) => {
    if (!before || desk.pxGrid !== before.pxGrid || desk.layerId !== before.layerId) showPx();
    for (const keep of keeps) keep.follow?.(desk, before);
    if (!before || desk.solo !== before.solo || desk.standIns !== before.standIns || isPlain(desk) !== isPlain(before))
      picture.setLook(isPlain(desk) ? plainLook : { solo: desk.solo, standIns: desk.standIns });
  };
  const leave = () =>
    session.beforeLeaving(() => {
      hand.keep();
      for (const keep of keeps) keep.leave?.();
    });
  // On a phone a page that is hidden may be closed without a word.
  const hide = () => {
    if (document.visibilityState !== 'hidden') return;
    session.beforeLeaving(() => {
      hand.keep();
      for (const keep of keeps) keep.hide?.();
    });
  };
  const stopLayers = session.onEdits((_page, edits) =>
    forgetSolo(edits.flatMap(({ before, after }) => (before && !after ? [before.id] : []))),
  );
  const stop = useDesk.subscribe(follow);
  const stopPx = session.onPage(showPx);
  follow(desk());
  window.addEventListener('pagehide', leave);
  document.addEventListener('visibilitychange', hide);
  return () => {
    leave();
    stop();
    stopPx();
    stopLayers();
    window.removeEventListener('pagehide', leave);
    document.removeEventListener('visibilitychange', hide);
  };
}

/** A layer that is gone is not alone any more: it would hide all others, and nobody could tell why. */
function forgetSolo(goneIds: readonly string[]): void {
  const { solo } = useDesk.getState();
  if (solo.length === 0 || goneIds.length === 0) return;
  const gone = new Set(goneIds);
  if (solo.some((id) => gone.has(id))) useDesk.setState({ solo: solo.filter((id) => !gone.has(id)) });
}
