import type { Point } from '@true-nib/core/math';
import type { BoardPicture, View } from '../render';
import type { PageSession } from '../session';
import type { Desk } from './deskState';
import type { Gesture, Modifiers } from './gesture';

/**
 * An open page with all that belongs to it: its session, its picture, and whatever rooms have made for it. It is made with the
 * page and goes with it.
 */
export interface Board {
  readonly picture: BoardPicture;
  readonly session: PageSession;
  readonly notice: (message: string) => void;
  readonly hand: Hand;
  /** What is in hand now: stage, tool, layers. */
  readonly desk: () => Desk;
  /** What a slot holds for this page: made when it is first asked for. */
  readonly of: <T extends object>(slot: PageSlot<T>) => T;
  /** What the stages keep for this page, in their order. */
  readonly keeps: readonly PageKeep[];
}

/** A place on the board for something that belongs to an open page. */
export interface PageSlot<T extends object> {
  readonly open: (board: Board) => T;
}

/** What a stage keeps for one page may have a say in all this; it names what it wants. */
export interface PageKeep {
  /** The page is gone. */
  dispose?(): void;
  /** Escape: lets go of what was begun. Answers whether there was anything. */
  letGo?(): boolean;
  /** Escape, where nothing was begun: lets go of what is chosen. Answers whether there was anything. */
  letAllGo?(): boolean;
  /** Undo: takes back the last step of what is no part of the page yet. Answers whether there was one. */
  takeBack?(): boolean;
  /** Enter: keeps what was begun. Answers whether there was anything. */
  settle?(): boolean;
  /** The page is left: whatever can be kept is kept at once. */
  leave?(): void;
  /** The page goes out of sight and may never come back. */
  hide?(): void;
  /** The desk has changed: another stage, tool or layer is in hand. At first without what was before. */
  follow?(desk: Desk, before: Desk | undefined): void;
  /** A pen or mouse hovers, page px; nothing where it has left the board. */
  hovers?(at: Point | undefined): void;
  /** May take a press before the tool in hand does, which `otherwise` begins. */
  seize?(press: Press, otherwise: () => Gesture | undefined): Gesture | undefined;
  /** What a finger takes hold of while the pen draws. */
  hold?(press: Press): Gesture | undefined;
  /** An arrow key moves something by page px. Answers whether there was anything to move. */
  nudge?(dx: number, dy: number): boolean;
}

/** A pointer that comes down on the board. */
export interface Press {
  /** Page px. */
  readonly at: Point;
  /** CSS px of the board. */
  readonly place: Point;
  readonly modifiers: () => Modifiers;
  /** Whether a key or a second finger asks to move what is being drawn. */
  readonly isMoving: () => boolean;
  /** Says something beside the pointer. */
  readonly notice: (message: string) => void;
}

/** The hand over the board, as keys and buttons reach it. */
export interface Hand {
  /** Whether a gesture is under way. */
  readonly isBusy: boolean;
  readonly isShifted: boolean;
  /** Gives up the gesture under way, leaving no trace. Answers whether there was one. */
  cancel(): boolean;
  /** Ends what is under way as if the hand had lifted here. */
  keep(): void;
  setModifiers(modifiers: Modifiers): void;
  /** Takes the line under way to the next guide that could bear it, or turns a corner in one that is towed. */
  setCornering(isHeld: boolean): void;
  /** While held, any pointer moves the page; with the zoom key, dragging sideways zooms. */
  setMoveKey(isHeld: boolean): void;
  setZoomKey(isHeld: boolean): void;
  show(view: View): void;
  zoomBy(factor: number): void;
  /** Zooms to CSS px per page px about the middle of the board. */
  zoomTo(zoom: number): void;
  turnBy(angle: number): void;
  panBy(dx: number, dy: number): void;
  flip(): void;
  centre(): void;
}
