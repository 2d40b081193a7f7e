import { directionAt, nearestOnSpine, type GuidePath, type Spine } from '@true-nib/core/curve';
import { echoThrough } from '@true-nib/core/guides';
import type { Point } from '@true-nib/core/math';
import { isInHand, type Board, type Desk, type Gesture, type PageKeep, type PageSlot, type Press } from '../../board';
import { lastEndSlot } from '../../hand';
import { zoomOf } from '../../render';
import { beginStroke } from '../ink';

/** Page px that two rows lie apart at least. */
const LEAST = 0.5;
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
    const { line } = this.board.of(lastEndSlot);
    const row = line && this.rowThrough(line, at);
    if (!row) this.spacing = undefined;
    const stroke = beginStroke(this.board, row ? { along: row.path } : {});
    if (!row) return stroke;
    return {
      ...stroke,
      end: () => {
        this.spacing ??= row.away;
        stroke.end();
      },
    };
  }

  /** The way beside a line that passes nearest to a place; nothing on the line itself. */
  private rowThrough(line: Spine, at: Point): { readonly path: GuidePath; readonly away: number } | undefined {
    const { spacing, board } = this;
    const nearest = nearestOnSpine(line, at);
    if (nearest.distance * zoomOf(board.picture.view) > BESIDE) return undefined;
    const way = directionAt(line, nearest);
    const across = (at.x - nearest.x) * -way.y + (at.y - nearest.y) * way.x;
    const side = across < 0 ? -1 : 1;
    // Beyond the ends of the line it goes straight on.
    const free = Math.abs(across);
    const away = spacing === undefined ? free : spacing * Math.max(1, Math.round(free / spacing));
    if (away < LEAST) return undefined;
    const course = echoThrough(line, {
      x: nearest.x - side * away * way.y,
      y: nearest.y + side * away * way.x,
    });
    return course && { path: { kind: 'curve', course }, away };
  }
}

export const rowsSlot: PageSlot<RowsHand> = { open: (board) => new RowsHand(board) };
