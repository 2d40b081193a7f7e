import { useEffect } from 'react';
import { matchKeyBindingPress, parseKeybinding } from 'tinykeys';
import { useBoard } from './boardContext';
import { COMMANDS, HOLD_KEYS, type Command } from './commands';
import { useDesk } from './desk';

/** Listens to the keyboard while the board is open. Keys meant for a field, a dialog or a control are left to it. */
export function useBoardKeys(): void {
  const board = useBoard();
  useEffect(() => {
    const held = new Set<string>();
    const release = (key: string) => {
      if (held.delete(key)) HOLD_KEYS.find((one) => one.key === key)?.hold(board, false);
    };
    const down = (event: KeyboardEvent) => {
      board.hand.setShift(event.shiftKey);
      if (event.defaultPrevented || isTaken(event.target, event.key)) return;
      const hold = hasModifier(event) ? undefined : HOLD_KEYS.find((one) => one.key === event.key.toLowerCase());
      if (hold) {
        if (!event.repeat && !held.has(hold.key)) {
          held.add(hold.key);
          hold.hold(board, true);
        }
        return event.preventDefault();
      }
      const command: Command | undefined = COMMANDS.find((one) => isFor(one, event));
      if (!command) return;
      event.preventDefault();
      command.run(board);
    };
    const up = (event: KeyboardEvent) => {
      board.hand.setShift(event.shiftKey);
      release(event.key.toLowerCase());
    };
    // Whatever happens in between: focus lost, window left.
    const releaseAll = () => [...held].forEach(release);
    window.addEventListener('keydown', down);
    window.addEventListener('keyup', up);
    window.addEventListener('blur', releaseAll);
    return () => {
      releaseAll();
      window.removeEventListener('keydown', down);
      window.removeEventListener('keyup', up);
      window.removeEventListener('blur', releaseAll);
      useDesk.setState({ peeking: false, onlyPage: false });
    };
  }, [board]);
}

const hasModifier = (event: KeyboardEvent) => event.ctrlKey || event.metaKey || event.altKey;

const presses = new Map(
  COMMANDS.map((command: Command) => [command, [command.key, ...(command.also ?? [])].flatMap(parseKeybinding)]),
);

const isFor = (command: Command, event: KeyboardEvent): boolean =>
  presses.get(command)?.some((press) => matchKeyBindingPress(event, press)) ?? false;

/** Fields take every key, dialogs all but Esc, number controls their arrows. */
function isTaken(target: EventTarget | null, key: string): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (target.closest('input, textarea, [contenteditable="true"]')) return true;
  if (document.querySelector('[role="dialog"]')) return true;
  return target.closest('[role="spinbutton"], [role="radiogroup"]') !== null && /^(Arrow|Enter)/.test(key);
}
