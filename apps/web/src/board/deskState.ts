import type { EntityId } from '@true-nib/core/kind';

export type DeskSheet = 'keys' | 'find' | 'page' | 'ruler';

/** What lies on the desk beside the page: the stage, the tool in hand and its settings. None of it is part of the page. */
export interface Desk {
  /** The stage one is in and the tool in hand, by their ids. */
  readonly stage: string;
  readonly tool: string;
  readonly roughId: EntityId | undefined;
  /** The layer that is drawn on; the highest Ink layer where none was chosen. */
  readonly layerId: EntityId | undefined;
  /** Further layers chosen together with it, for what is done to several at once. */
  readonly chosenLayers: readonly EntityId[];
  /** Only these layers are shown; empty for all. Never part of the page. */
  readonly solo: readonly EntityId[];
  /** Whether layers show their stand-in colours. */
  readonly standIns: boolean;
  /** Whether the page's px are shown over lines, too; over pixels they always are. */
  readonly pxGrid: boolean;
  /** The stack lies open on a phone; the column beside the page is folded on a wide screen. */
  readonly stackOpen: boolean;
  readonly sideFolded: boolean;
  readonly peeking: boolean;
  /** Bench and strip are put away: only the page is left. */
  readonly onlyPage: boolean;
  /** A stroke, a rub or a drag of the rough is under way. */
  readonly isDrawing: boolean;
  /** The tool that was in hand before one went to a stage that one comes back from. */
  readonly toolBefore: string | undefined;
  /** What is drawn goes over the borders of panels. */
  readonly overBorders: boolean;
  readonly penSeen: boolean;
  readonly fingerDraws: boolean;
  readonly zoom: number;
  readonly turn: number;
  readonly flipped: boolean;
  /** CSS px of this screen that are 1 mm long, measured with a ruler. */
  readonly pxPerMm: number;
  /** The tool that a hold key borrows, for each tool in hand, where the artist has chosen another than it comes with. */
  readonly borrowed: Readonly<Record<string, string>>;
  /** The tool to go back to while another one is borrowed. */
  readonly lender: string | undefined;
  /** A sheet that a key has asked for. */
  readonly sheet: DeskSheet | undefined;
  readonly navigator: boolean;
}
