import type { MarkShape, Thing } from '@true-nib/core/drawn';
import { invert, scaling, then, type Matrix } from '@true-nib/core/math';
import type { Board } from '../../board';
import { layManyDown, type LineTarget } from '../../hand';
import { clipTo, type PictureOfInks, type ShownTexture, type TextureAsked } from '../../render';
import { NOTHING_UNDERWAY, useUnderway } from './underwayStore';

/** A picture of texture, and the view that it was made for. */
interface Seen extends ShownTexture {
  readonly map: Matrix;
}

/**
 * Rows or dots under way: the worker makes them and paints them, the newest wish counts. They are drawn over the page, and
 * are no part of it until they are laid down.
 */
export class Underway {
  private wanted: TextureAsked | undefined;
  private isBusy = false;
  private seen: Seen | undefined;
  /** What the picture shows is what is wanted. */
  private isTrue = false;
  /** The view that it was drawn under last. */
  private view: PictureOfInks | undefined;

  constructor(
    private readonly board: Board,
    private readonly tool: string,
    /** Shows it anew. */
    private readonly changed: () => void,
  ) {}

  get isAny(): boolean {
    return this.wanted !== undefined;
  }

  /** Shows something, in place of what was asked for before. */
  want(asked: TextureAsked): void {
    this.wanted = asked;
    this.isTrue = false;
    if (useUnderway.getState().tool !== this.tool) useUnderway.setState({ ...NOTHING_UNDERWAY, tool: this.tool });
    void this.work();
  }

  forget(): void {
    this.wanted = undefined;
    this.seen?.bitmap?.close();
    this.seen = undefined;
    if (useUnderway.getState().tool === this.tool) useUnderway.setState(NOTHING_UNDERWAY);
  }

  /** Makes it part of the page, as lines and dots: one change. It is let go of where that was done. */
  async layDown(
    target: LineTarget,
    label: (count: number) => string,
    turned: (things: readonly Thing[]) => readonly Thing[],
  ): Promise<boolean> {
    const { board, wanted } = this;
    if (!wanted) return false;
    try {
      const { things, count } = await board.picture.inks.beside.textureOf(wanted);
      if (this.wanted === wanted) this.forget();
      this.changed();
      if (things.length === 0) return false;
      return layManyDown(board, target, label(count), turned(things));
    } catch (error) {
      board.notice(error instanceof Error ? error.message : 'This could not be laid down.');
      return false;
    }
  }

  /** Draws the picture where the view has it now; one that was made for another view is made anew. */
  readonly draw = (context: CanvasRenderingContext2D, map: Matrix, clip?: MarkShape): void => {
    const { seen } = this;
    const { width, height } = context.canvas;
    this.view = { map, width, height };
    if (!seen) return;
    const isSame = seen.map.every((value, k) => value === map[k]);
    if (!isSame) {
      this.isTrue = false;
      void this.work();
    }
    if (!seen.bitmap) return;
    context.save();
    clipTo(context, clip, map);
    context.setTransform(...then(invert(seen.map), map));
    context.drawImage(seen.bitmap, seen.x, seen.y);
    context.restore();
    context.setTransform(1, 0, 0, 1, 0, 0);
  };

  private async work(): Promise<void> {
    if (this.isBusy) return;
    this.isBusy = true;
    try {
      while (this.wanted && !this.isTrue) {
        const { wanted } = this;
        const view = this.view ?? viewOf(this.board);
        const shown = await this.made(wanted, view);
        if (this.wanted === undefined) return shown?.bitmap?.close();
        this.isTrue = this.wanted === wanted;
        this.seen?.bitmap?.close();
        this.seen = shown && { ...shown, map: view.map };
        this.changed();
      }
    } finally {
      this.isBusy = false;
    }
  }

  private async made(wanted: TextureAsked, view: PictureOfInks) {
    try {
      const shown = await this.board.picture.inks.beside.showTexture(wanted, view);
      useUnderway.setState({ tool: this.tool, count: shown.count, reason: undefined });
      return shown;
    } catch (error) {
      const reason = error instanceof Error ? error.message : 'This could not be made.';
      useUnderway.setState({ tool: this.tool, count: 0, reason });
      return undefined;
    }
  }
}

/** The view of a board before anything was drawn over it. */
function viewOf({ picture }: Board): PictureOfInks {
  const ratio = window.devicePixelRatio || 1;
  const [width, height] = [window.innerWidth, window.innerHeight].map((side) => Math.ceil(side * ratio));
  return { map: then(picture.view, scaling(ratio)), width, height };
}
