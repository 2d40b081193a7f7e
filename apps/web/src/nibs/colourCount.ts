import { coloursOf, countColour, type ColourCounts, type PageColour } from '@true-nib/core/tools';
import { useSyncExternalStore } from 'react';
import { breath, Listeners } from '../base';
import { useSlot, type Board, type PageSlot } from '../board';

/** Things that are counted in one go: some ms. */
const PART = 2_000;

/** The colours of an open page: counted once, in parts, and kept up to date edit by edit. */
class ColourCount {
  private readonly counts: ColourCounts = new Map();
  private readonly listeners = new Listeners<[]>();
  private listed: readonly PageColour[] = [];

  constructor({ session }: Board) {
    session.onEdits((page, edits) => {
      for (const { before, after } of edits) {
        countColour(this.counts, before, -1);
        countColour(this.counts, after, 1);
      }
      this.list(coloursOf(page, this.counts));
    });
    void this.countAll([...session.page.entities], () => this.list(coloursOf(session.page, this.counts)));
  }

  get colours(): readonly PageColour[] {
    return this.listed;
  }

  onChange = (listener: () => void): (() => void) => this.listeners.add(listener);

  /** What comes or goes meanwhile is counted by its own edits: in which order makes no difference. */
  private async countAll(entities: readonly Parameters<typeof countColour>[1][], done: () => void): Promise<void> {
    for (const [k, entity] of entities.entries()) {
      if (k % PART === PART - 1) await breath();
      countColour(this.counts, entity, 1);
    }
    done();
  }

  /** Tells of them only where they are other ones. */
  private list(colours: readonly PageColour[]): void {
    const isSame = (one: PageColour, k: number) => {
      const other = this.listed[k];
      return one.color === other.color && one.count === other.count && one.name === other.name;
    };
    if (colours.length === this.listed.length && colours.every(isSame)) return;
    this.listed = colours;
    this.listeners.tell();
  }
}

const colourSlot: PageSlot<ColourCount> = { open: (board) => new ColourCount(board) };

/** The colours of the open page, those that most have first. */
export function usePageColours(): readonly PageColour[] {
  const count = useSlot(colourSlot);
  return useSyncExternalStore(count.onChange, () => count.colours);
}
