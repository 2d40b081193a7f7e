import { create } from 'zustand';

export interface Notice {
  readonly id: number;
  readonly message: string;
  readonly action?: { readonly label: string; readonly run: () => void };
}

export const useNotice = create<{ readonly notice: Notice | undefined }>(() => ({ notice: undefined }));

const SHOWN_MS = 7_000;
let count = 0;
let timer: ReturnType<typeof setTimeout> | undefined;

/** Says something in a line at the bottom, with something to do about it; a new notice takes the place of the old. */
export function say(message: string, action?: Notice['action']): void {
  clearTimeout(timer);
  useNotice.setState({ notice: { id: ++count, message, action } });
  timer = setTimeout(hush, SHOWN_MS);
}

export function hush(): void {
  clearTimeout(timer);
  useNotice.setState({ notice: undefined });
}

export const sayError = (error: unknown): void =>
  say(error instanceof Error ? error.message : 'Something went wrong. Nothing was lost.');

/** Something said where the pen is, for a moment. */
interface TipNote {
  readonly id: number;
  readonly message: string;
  /** CSS px of the window. */
  readonly at: { readonly x: number; readonly y: number };
}

export const useTipNote = create<{ readonly note: TipNote | undefined }>(() => ({ note: undefined }));

const TIP_MS = 2_600;
let tipTimer: ReturnType<typeof setTimeout> | undefined;

/** Says something at the pen's tip, where the eye is. */
export function sayAt(message: string, at: TipNote['at']): void {
  clearTimeout(tipTimer);
  useTipNote.setState({ note: { id: ++count, message, at } });
  tipTimer = setTimeout(() => useTipNote.setState({ note: undefined }), TIP_MS);
}
