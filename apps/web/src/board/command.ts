import type { Board } from './board';

/** The parts of the desk that commands belong to, as the lists of them are ordered. */
export const ROOMS = ['Draw', 'Guides', 'Mend', 'Select', 'Layers', 'See', 'Desk'] as const;
export type Room = (typeof ROOMS)[number];

/**
 * Something that a key or a button can do on the board. Keys, tooltips, lists and the search are read from the table of all of
 * them. `key` is written as `tinykeys` takes it: a `code` (the place on the keyboard) for plain keys, a character with `$mod`
 * (Ctrl, or Cmd on a Mac), as browsers have it. Left out where a command has no key of its own.
 */
export interface Command {
  readonly id: string;
  readonly label: string;
  readonly room: Room;
  readonly key?: string;
  /** Further keys that do the same and cannot be changed. */
  readonly also?: readonly string[];
  readonly run: (board: Board) => void;
}

/** What is so only while its key is down. */
export interface HoldCommand {
  readonly id: string;
  readonly label: string;
  readonly room: Room;
  readonly key: string;
  readonly hold: (board: Board, isHeld: boolean) => void;
}
