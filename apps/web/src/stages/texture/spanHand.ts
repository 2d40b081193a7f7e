import { evenlyWide, flattenSpine, widestOf, type Spine } from '@true-nib/core/curve';
import { gapToStroke } from '@true-nib/core/drawn';
import { apply, boxOfPoints, growBox, type Matrix, type Point } from '@true-nib/core/math';
import { sidesOfLine } from '@true-nib/core/texture';
import type { EntityId } from '@true-nib/core/kind';
import { refuse, type Board, type Gesture, type PageSlot, type Press } from '../../board';
import { FINGER, linesOn } from '../../hand';
import { nibFor, useRack } from '../../nibs';
import { strokeBoth, zoomOf } from '../../render';
import { placesOf } from './bounds';
import { traceLine } from './trace';
import { TextureHand } from './textureHand';
import { useTexture } from './textureStore';

/** A line between which rows come, or a point that they run to. */
type Chosen = { readonly id: EntityId; readonly spine: Spine } | Point;

const isLine = (one: Chosen): one is Extract<Chosen, { spine: Spine }> => 'spine' in one;

/** Rows between lines that are touched one after the other. */
class SpanHand extends TextureHand {
  private chosen: readonly Chosen[] = [];

  constructor(board: Board) {
    super(board, 'span', (count) => (count === 1 ? 'Span a row' : `Span ${count} rows`));
    this.listenTo([
      useTexture.subscribe(({ span }, before) => span !== before.span && this.changed()),
      useRack.subscribe(() => this.changed()),
    ]);
  }

  protected isBegun(): boolean {
    return this.chosen.length > 0;
  }

  protected forget(): void {
    this.chosen = [];
  }

  /** Takes the line that was touched last back. */
  takeBack(): boolean {
    if (this.chosen.length === 0) return false;
    this.choose(this.chosen.slice(0, -1));
    return true;
  }

  protected changed(): void {
    if (this.chosen.length > 0) this.choose(this.chosen);
  }

  begin({ at }: Press): Gesture {
    const { board, chosen } = this;
    const target = this.takeTarget();
    if (typeof target === 'string') return refuse(board.notice, target);
    if (target.layer.medium !== 'ink')
      return refuse(board.notice, 'Rows come between lines: take an Ink layer in hand.');
    const line = this.lineAt(target.layer.id, at);
    return {
      move: () => undefined,
      cancel: () => undefined,
      end: () => {
        this.target = target;
        const last = chosen.at(-1);
        if (line) return this.choose([...chosen, line]);
        if (!last) return board.notice('Touch a line, then another: rows come between them.');
        if (!isLine(last)) return board.notice('Touch a line that the rows come from.');
        this.choose([...chosen, { x: at.x, y: at.y }]);
      },
    };
  }

  private choose(chosen: readonly Chosen[]): void {
    this.chosen = chosen;
    const nib = nibFor(this.board.session.page);
    const { by, count, spacing, gather } = useTexture.getState().span;
    const [first, second] = chosen;
    const isOneTwice = chosen.length === 2 && isLine(first) && isLine(second) && first.id === second.id;
    const lines = isOneTwice ? sidesOfLine(first.spine) : chosen.map((one) => (isLine(one) ? one.spine : one));
    if (lines.length < 2) {
      this.letUnderwayGo();
      return this.show();
    }
    const rows = by === 'count' ? { count } : { spacing };
    this.want({
      deed: 'span',
      // The edge of something black has no weight of its own.
      lines: lines.map((one) => ('points' in one && widestOf(one) === 0 ? evenlyWide(one, nib.size) : one)),
      settings: { nib, rows, gather: gather / 100 },
    });
  }

  private lineAt(layerId: EntityId, at: Point): Chosen | undefined {
    const { board } = this;
    const reach = FINGER / zoomOf(board.picture.view);
    const gaps = linesOn(board, layerId, growBox(boxOfPoints([at]), reach)).map((line) => ({
      line,
      gap: gapToStroke(line, at, at, reach),
    }));
    const nearest = gaps.sort((a, b) => a.gap - b.gap)[0];
    return nearest && nearest.gap < reach ? nearest.line : undefined;
  }

  protected beside(context: CanvasRenderingContext2D, map: Matrix, ratio: number): void {
    for (const one of this.chosen) {
      if (!isLine(one)) {
        const at = apply(map, one);
        strokeBoth(context, ratio, () => {
          context.moveTo(at.x + 6 * ratio, at.y);
          context.arc(at.x, at.y, 6 * ratio, 0, 2 * Math.PI);
        });
        continue;
      }
      const places = placesOf(flattenSpine(one.spine, 0.5 / Math.hypot(map[0], map[1])));
      strokeBoth(context, ratio, () => traceLine(context, map, places), true);
    }
  }
}

export const spanSlot: PageSlot<SpanHand> = { open: (board) => new SpanHand(board) };
