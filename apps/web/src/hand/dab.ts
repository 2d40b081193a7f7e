import type { Gesture } from '../board';

/** A pen that follows its palm does so within so many ms. */
export const PEN_WITHIN = 500;

/** What a finger drew in less time than a pen may need to follow its palm: it waits until it is certain that none does. */
export class Dab {
  private held:
    | { readonly gesture: Gesture; readonly startedAt: number; readonly timer: ReturnType<typeof setTimeout> }
    | undefined;

  wait(gesture: Gesture, startedAt: number, left: number): void {
    gesture.lifted?.();
    this.held = { gesture, startedAt, timer: setTimeout(() => this.keep(), left) };
  }

  /** Keeps what waits for a pen which did not come. */
  keep(): void {
    this.taken()?.gesture.end();
  }

  /** A pen came: what began less than `PEN_WITHIN` ago was its palm and leaves no trace; what began before is kept. */
  withdraw(now: number): void {
    const held = this.taken();
    if (held) settle(held.gesture, now - held.startedAt < PEN_WITHIN);
  }

  private taken() {
    const { held } = this;
    clearTimeout(held?.timer);
    this.held = undefined;
    return held;
  }
}

/** Ends a gesture, or gives it up where a palm began it. */
export function settle(gesture: Gesture, isPalm: boolean): void {
  if (isPalm) gesture.cancel();
  else gesture.end();
}
