/** Hears answers in the order in which they were asked for, however late the first comes. */
export class InTurn {
  private round = 0;
  private last: Promise<void> | undefined;

  /** Lets go of all that was asked for: what comes of it is not heard any more. */
  anew(): void {
    this.round++;
    this.last = undefined;
  }

  /** Hears an answer once all that was asked for before has been heard. Rejects as what was asked for does. */
  hear<T>(asked: Promise<T>, listener: (answer: T) => void): Promise<void> {
    const { round, last } = this;
    const heard = Promise.all([asked, last?.catch(() => undefined)]).then(([answer]) => {
      if (round === this.round) listener(answer);
    });
    this.last = heard;
    return heard;
  }
}
