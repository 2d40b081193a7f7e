import { useEffect } from 'react';
import { matchKeyBindingPress, parseKeybinding } from 'tinykeys';
import { useBoard, type HoldCommand, workbench, useDesk } from '../board';
import { keyIn, keysIn, useKeySet } from './keySet';

/** Listens to the keyboard while the board is open. Keys meant for a field, a dialog or a control are left to it. */
export function useBoardKeys(): void {
  const board = useBoard();
  useEffect(() => {
    /** What is held, by the key that holds it: another set of keys meanwhile changes nothing. */
    const held = new Map<string, HoldCommand>();
    const release = (code: string) => {
      const command = held.get(code);
      if (!command) return;
      held.delete(code);
      command.hold(board, false);
    };
    const down = (event: KeyboardEvent) => {
      board.hand.setModifiers(event);
      if (event.defaultPrevented || event.isComposing || isTaken(event.target, event.key)) return;
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
    };
    // A control that was clicked keeps the focus: Space must not press it again while it is held for the board.
    const spaced = (event: KeyboardEvent) => {
      if (event.key === 'Tab') isWalking = true;
      const { target } = event;
      if (event.code !== 'Space' || !(target instanceof HTMLElement) || isTaken(target, event.key)) return;
      if (!target.closest(CONTROLS)) return;
      event.stopPropagation();
      down(event);
    };
    const up = (event: KeyboardEvent) => {
      board.hand.setModifiers(event);
      release(event.code);
    };
    // Whatever happens in between: focus lost, window left.
    const releaseAll = () => {
      [...held.keys()].forEach(release);
      board.hand.setModifiers({ shiftKey: false, altKey: false });
    };
    const hidden = () => {
      if (document.visibilityState === 'hidden') releaseAll();
    };
    const pointed = () => {
      isWalking = false;
    };
    window.addEventListener('pointerdown', pointed, true);
    window.addEventListener('keydown', spaced, true);
    window.addEventListener('keydown', down);
    window.addEventListener('keyup', up);
    window.addEventListener('blur', releaseAll);
    document.addEventListener('visibilitychange', hidden);
    return () => {
      releaseAll();
      window.removeEventListener('pointerdown', pointed, true);
      window.removeEventListener('keydown', spaced, true);
      window.removeEventListener('keydown', down);
      window.removeEventListener('keyup', up);
      window.removeEventListener('blur', releaseAll);
      document.removeEventListener('visibilitychange', hidden);
      useDesk.setState({ peeking: false, onlyPage: false });
    };
  }, [board]);
}

/** Whether the focus was last moved by Tab, and not by a pointer. */
let isWalking = false;

const CONTROLS = 'button, a, [role="button"], [role="switch"], [role="radio"], [role="tab"]';

/** Fields take every key, dialogs all but Esc, number controls and lists their arrows. */
function isTaken(target: EventTarget | null, key: string): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (target.closest('input, textarea, [contenteditable="true"]')) return true;
  if (document.querySelector('[role="dialog"]')) return true;
  if (target.closest('[aria-roledescription="sortable"]') && /^(Arrow|Enter| )/.test(key)) return true;
  // Whoever goes about with the keyboard presses controls by Space.
  if (key === ' ' && isWalking && target.closest(CONTROLS)) return true;
  return target.closest('[role="spinbutton"], [role="radiogroup"]') !== null && /^(Arrow|Enter)/.test(key);
}
