import { makeCalmer } from '@true-nib/core/ink';
import type { Calm, PenSample } from '@true-nib/core/hand';

/** A gesture from pen-down to pen-up. Samples are in page px; `end` makes a change, `cancel` leaves no trace. */
export interface Gesture {
  move(samples: readonly PenSample[]): void;
  end(): void;
  cancel(): void;
  /** The finger is off, though it is not certain yet whether it was meant. */
  lifted?(): void;
  /** What the key for it does while the gesture goes on: the next guide, or a corner where the pen is. */
  corner?(): void;
}

/** A gesture that does nothing: it neither draws nor moves the page. */
export const still: Gesture = { move: () => undefined, end: () => undefined, cancel: () => undefined };

/** What is left of a gesture that was refused. */
export function refuse(notice: (message: string) => void, reason: string): Gesture {
  notice(reason);
  return still;
}

/** The keys that are down beside a pointer: they bend what the tool in hand does. */
export interface Modifiers {
  readonly shiftKey: boolean;
  readonly altKey: boolean;
}

/** A gesture whose hand is calmed first. */
export function calmedGesture(gesture: Gesture, calm: Calm, zoom: number): Gesture {
  if (calm.way === 'raw' && calm.weight === undefined) return gesture;
  const calmer = makeCalmer(calm, zoom);
  const pass = (samples: readonly PenSample[]) => {
    if (samples.length > 0) gesture.move(samples);
  };
  return {
    move: (samples) => pass(calmer.push(samples)),
    end() {
      pass(calmer.finish());
      gesture.end();
    },
    cancel: () => gesture.cancel(),
  };
}
