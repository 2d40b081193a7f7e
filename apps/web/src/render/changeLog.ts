import type { Box } from '@true-nib/core/math';

/** Changes that are remembered one by one; whoever asks for older ones hears that everything may have changed. */
const MOST = 2_000;

/** Where something changed, change by change. */
export class ChangeLog {
  /** How many changes there were. */
  count = 0;
  /** The boxes of the last ones; nothing for one that may have changed anything. */
  private readonly last: (readonly Box[] | undefined)[] = [];

  add(boxes: readonly Box[] | undefined): void {
    this.count++;
    this.last.push(boxes);
    if (this.last.length > MOST) this.last.shift();
  }

  /** The boxes of all that changed since there were `count` changes; nothing where that is not known. */
  since(count: number): readonly Box[] | undefined {
    const asked = this.count - count;
    if (asked > this.last.length) return undefined;
    const boxes: Box[] = [];
    for (const own of asked > 0 ? this.last.slice(-asked) : []) {
      if (!own) return undefined;
      boxes.push(...own);
    }
    return boxes;
  }
}
