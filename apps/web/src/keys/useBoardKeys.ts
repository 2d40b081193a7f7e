import { useEffect } from 'react';
import { matchKeyBindingPress, parseKeybinding } from 'tinykeys';
import { useBoard, workbench, useDesk, type Board, type HoldCommand } from '../board';
import { keyIn, keysIn, useKeySet } from './keySet';

/** Listens to the keyboard while the board is open. Keys meant for a field, a dialog or a control are left to it. */
export function useBoardKeys(): void {
  const board = useBoard();
  useEffect(() => {
    const keys = new BoardKeys(board);
    const stop = keys.listen();
    return () => {
      stop();
      useDesk.setState({ peeking: false, onlyPage: false });
    };
  }, [board]);
}

class BoardKeys {
  /** What is held, by the key that holds it: another set of keys meanwhile changes nothing. */
  private readonly held = new Map<string, HoldCommand>();
  /** Whether the focus was last moved by Tab, and not by a pointer. */
  private isWalking = false;

  constructor(private readonly board: Board) {}

  /** Answers how to stop, which lets go of all keys. */
  listen(): () => void {
    const gone = new AbortController();
    const { signal } = gone;
    window.addEventListener('pointerdown', () => (this.isWalking = false), { capture: true, signal });
    window.addEventListener('keydown', (event) => this.spaced(event), { capture: true, signal });
    window.addEventListener('keydown', (event) => this.down(event), { signal });
    window.addEventListener('keyup', (event) => this.up(event), { signal });
    // Whatever happens in between: focus lost, window left.
    window.addEventListener('blur', () => this.releaseAll(), { signal });
    const hidden = () => document.visibilityState === 'hidden' && this.releaseAll();
    document.addEventListener('visibilitychange', hidden, { signal });
    return () => {
      this.releaseAll();
      gone.abort();
    };
  }

  private down(event: KeyboardEvent): void {
    const { board, held } = this;
    board.hand.setModifiers(event);
    if (event.defaultPrevented || event.isComposing || this.isTaken(event.target, event.key)) return;
    const set = useKeySet.getState();
    const isFor = (key: string) => parseKeybinding(key).some((press) => matchKeyBindingPress(event, press));
    // A key that is held already is not pressed anew, whatever else is down.
    if (held.has(event.code)) return event.preventDefault();
    const hold = workbench.holdCommands.find(({ id }) => {
      const key = keyIn(set, id);
      // While something is drawn, Shift and Alt say how, and a hold key is still itself.
      return key !== undefined && (isFor(key) || (board.hand.isBusy && event.code === key));
    });
    if (hold) {
      event.preventDefault();
      if (event.repeat) return;
      held.set(event.code, hold);
      hold.hold(board, true);
      return;
    }
    const command = workbench.commands.find(({ id }) => keysIn(set, id).some(isFor));
    if (!command) return;
    event.preventDefault();
    command.run(board);
  }

  /** A control that was clicked keeps the focus: Space must not press it again while it is held for the board. */
  private spaced(event: KeyboardEvent): void {
    if (event.key === 'Tab') this.isWalking = true;
    const { target } = event;
    if (event.code !== 'Space' || !(target instanceof HTMLElement) || this.isTaken(target, event.key)) return;
    if (!target.closest(CONTROLS)) return;
    event.stopPropagation();
    this.down(event);
  }

  private up(event: KeyboardEvent): void {
    this.board.hand.setModifiers(event);
    this.release(event.code);
  }

  private release(code: string): void {
    const command = this.held.get(code);
    if (!command) return;
    this.held.delete(code);
    command.hold(this.board, false);
  }

  private releaseAll(): void {
    [...this.held.keys()].forEach((code) => this.release(code));
    this.board.hand.setModifiers({ shiftKey: false, altKey: false });
  }

  /** Fields take every key, dialogs all but Esc, number controls and lists their arrows. */
  private isTaken(target: EventTarget | null, key: string): boolean {
    if (!(target instanceof HTMLElement)) return false;
    if (target.closest('input, textarea, [contenteditable="true"]')) return true;
    if (document.querySelector('[role="dialog"]')) return true;
    if (target.closest('[aria-roledescription="sortable"]') && /^(Arrow|Enter| )/.test(key)) return true;
    // Whoever goes about with the keyboard presses controls by Space.
    if (key === ' ' && this.isWalking && target.closest(CONTROLS)) return true;
    return target.closest('[role="spinbutton"], [role="radiogroup"]') !== null && /^(Arrow|Enter)/.test(key);
  }
}

const CONTROLS = 'button, a, [role="button"], [role="switch"], [role="radio"], [role="tab"]';
