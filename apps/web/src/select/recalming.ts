import { selectionSlot } from './selection';
import { recalm, whyNotRecalm } from '@true-nib/core/ink';
import type { Calm } from '@true-nib/core/hand';
import { find, type Edit } from '@true-nib/core/page';
import type { StrokeEntity } from '@true-nib/core/stroke';
import { breath } from '../base';
import { say } from '../look';
import type { Board } from '../board';
import { HandSamples } from './handSamples';

/** ms of work between two breaths: the hand that moves the slider must not wait. */
const SLICE = 4;

/** Calms selected strokes again from their raw samples: shown part by part while the slider moves, then kept as one change. */
export class Recalming {
  private readonly samples: HandSamples;
  /** Counts what was asked for: an older request gives way to a newer one. */
  private asked = 0;

  constructor(private readonly board: Board) {
    this.samples = new HandSamples(() => board.session.page);
  }

  /** The calm of the selected strokes that still have their samples; the first one's where they differ. */
  get calm(): Calm | undefined {
    return this.board.of(selectionSlot).strokes.find((stroke) => !whyNotRecalm(stroke))?.origin?.calm;
  }

  async show(calm: Calm): Promise<void> {
    await this.work(calm, (edits) => this.board.picture.preview(edits));
  }

  async keep(calm: Calm): Promise<void> {
    const { board } = this;
    const { strokes } = board.of(selectionSlot);
    const edits: Edit[] = [];
    const isDone = await this.work(calm, (part) => {
      board.picture.preview(part);
      edits.push(...part);
    });
    if (!isDone) return;
    const changed = edits.flatMap(({ after }) => {
      const before = after && find(board.session.page, 'stroke', after.id);
      return before && after ? [{ before, after }] : [];
    });
    board.session.commit('Re-calm', changed);
    const left = strokes.map(whyNotRecalm).filter((reason) => reason !== undefined);
    if (left.length > 0)
      say(
        left.length === 1
          ? left[0]
          : `${left.length} lines stay as they are: they have left their samples, or have none.`,
      );
  }

  /** Answers whether it came to its end: a newer request ends it. */
  private async work(calm: Calm, show: (edits: readonly Edit[]) => void): Promise<boolean> {
    const own = ++this.asked;
    const { picture } = this.board;
    const selection = this.board.of(selectionSlot);
    // The slider itself is drawn first.
    await breath();
    if (own !== this.asked) return false;
    let part: Edit[] = [];
    let start = performance.now();
    for (const stroke of selection.strokes) {
      if (whyNotRecalm(stroke)) continue;
      const after = this.recalmed(stroke, calm);
      if (after) part.push({ before: find(picture.shownPage, 'stroke', stroke.id) ?? stroke, after });
      if (performance.now() - start < SLICE) continue;
      show(part);
      part = [];
      await breath();
      if (own !== this.asked) return false;
      start = performance.now();
    }
    if (part.length > 0) show(part);
    return true;
  }

  private recalmed(stroke: StrokeEntity, calm: Calm): StrokeEntity | undefined {
    const samples = this.samples.of(stroke);
    return samples && recalm(stroke, samples, calm);
  }
}
