import type { Box } from '@true-nib/core/math';

/** Edits that are remembered at least: more than come in while one picture is painted. */
const REMEMBERED = 500;

/** Where edits have touched the page, page px, edit by edit. */
export class EditLog {
  private edits: (readonly Box[])[] = [];
  private forgotten = 0;

  /** This moment, to ask later what was touched since. */
  get now(): number {
    return this.forgotten + this.edits.length;
  }

  add(boxes: readonly Box[]): void {
    this.edits.push(boxes);
    if (this.edits.length < 2 * REMEMBERED) return;
    this.edits = this.edits.slice(REMEMBERED);
    this.forgotten += REMEMBERED;
  }

  since(moment: number): Box[] {
    return this.edits.slice(Math.max(0, moment - this.forgotten)).flat();
  }

  /** The last places that were touched, leaving out edits of more places than these: what changes half the page is no line. */
  newest(most: number): Box[] {
    const found: Box[] = [];
    for (let k = this.edits.length - 1; k >= 0 && found.length < most; k--)
      if (this.edits[k].length <= most) found.push(...this.edits[k]);
    return found.slice(0, most);
  }
}
