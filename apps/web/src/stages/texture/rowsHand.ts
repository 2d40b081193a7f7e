import { rowBeside } from '@true-nib/core/texture';
import { isInHand, type Board, type Desk, type Gesture, type PageKeep, type PageSlot, type Press } from '../../board';
import { lastEndSlot } from '../../hand';
import { zoomOf } from '../../render';
import { beginStroke } from '../ink';

/** CSS px from the last line within which a line is taken for the next row. */
const BESIDE = 90;

/** Hatching by hand: every stroke runs along the last one, and as far from it as the first two lay apart. */
class RowsHand implements PageKeep {
  private spacing: number | undefined;

  constructor(private readonly board: Board) {}

  follow(desk: Desk): void {
    if (!isInHand(desk, 'rows')) this.spacing = undefined;
  }

  /** Escape: the next two strokes say anew how far rows lie apart. */
  letGo(): boolean {
    const had = this.spacing !== undefined;
    this.spacing = undefined;
    return had;
  }

  begin({ at }: Press): Gesture {
    const { board, spacing } = this;
    const { line } = board.of(lastEndSlot);
    const row = line && rowBeside(line, at, BESIDE / zoomOf(board.picture.view), spacing);
    if (!row) this.spacing = undefined;
    const stroke = beginStroke(board, row ? { along: row.path } : {});
    if (!row) return stroke;
    return {
      ...stroke,
      end: () => {
        this.spacing ??= row.away;
        stroke.end();
      },
    };
  }
}

export const rowsSlot: PageSlot<RowsHand> = { open: (board) => new RowsHand(board) };
