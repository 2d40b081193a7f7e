import type { TetheredLines } from '@true-nib/core/tethers';
import type { Matrix } from '@true-nib/core/math';
import { FRAME_PLANES } from '@true-nib/core/guides';
import type { PageSize } from '@true-nib/core/page';
import { Hired } from '../base/hired';
import type { GridService, GridView, GuideMove } from './grid.worker';
import type { ShownGrids } from './gridPaint';
import { between, type View } from './view';

/** Where tethered lines would go with a move of their guide. */
export interface Ghosts extends GuideMove {
  readonly lines: TetheredLines;
}

/** What lies beneath the guides. */
export interface Beneath {
  readonly grids: readonly ShownGrids[];
  readonly ghosts?: Ghosts;
}

/** Grids as they are to be seen, and the view of the board under which they are. */
interface Wanted {
  readonly what: GridView;
  readonly ghosts: Ghosts | undefined;
  readonly view: View;
}

/**
 * The canvas of the grids of frames, and of the courses that lines would take with one that is moved: thousands of lines,
 * painted by a worker so that no hand waits for them. Until the newest picture has come the last one stays, moved along with
 * the view.
 */
export class GridSurface {
  private grids: readonly ShownGrids[] = [];
  private ghosts: Ghosts | undefined;
  private readonly context: ImageBitmapRenderingContext;
  private painter: Hired<GridService> | undefined;
  private asked: Wanted | undefined;
  /** What the worker is to paint next. */
  private wanted: Wanted | undefined;
  private shown: Wanted | undefined;
  private isPainting = false;
  /** The lines that the worker has. */
  private held: TetheredLines | undefined;
  private view: View = [1, 0, 0, 1, 0, 0];

  constructor(private readonly canvas: HTMLCanvasElement) {
    const context = canvas.getContext('bitmaprenderer');
    if (!context) throw new Error('This browser cannot show pictures on a canvas.');
    this.context = context;
    this.hide();
  }

  dispose(): void {
    this.wanted = this.asked = undefined;
    this.painter?.end();
  }

  /** Takes what is shown from now on. */
  set({ grids, ghosts }: Beneath = { grids: [] }): void {
    this.grids = grids;
    this.ghosts = ghosts;
  }

  /** Shows them in a view of a page, of which `map` takes px to device px. */
  show(page: PageSize, map: Matrix, ratio: number, view: View): void {
    this.view = view;
    const { grids, ghosts, canvas } = this;
    if (grids.length === 0 && !ghosts) return this.hide();
    const what = { grids, page, map, ratio, width: canvas.width, height: canvas.height };
    if (this.asked && isSame(this.asked.what, what) && this.asked.ghosts === ghosts) return;
    this.asked = this.wanted = { what, ghosts, view };
    if (!this.isPainting) void this.paint();
  }

  /** Moves what is shown to where another view has it. */
  carry(view: View): void {
    this.view = view;
    const { shown } = this;
    this.canvas.style.transform = !shown || shown.view === view ? '' : `matrix(${between(shown.view, view).join(',')})`;
  }

  /** The canvas has been cleared by another size: what was asked for is asked for anew. */
  forget(): void {
    this.asked = undefined;
  }

  private hide(): void {
    this.asked = this.wanted = undefined;
    this.canvas.style.visibility = 'hidden';
    // Lets go of the memory of the last picture; asked without need it would cost some ms each time.
    if (this.shown) this.context.transferFromImageBitmap(null);
    this.shown = undefined;
  }

  private async paint(): Promise<void> {
    this.isPainting = true;
    while (this.wanted) {
      const next = this.wanted;
      this.wanted = undefined;
      const bitmap = await this.painted(next).catch(() => undefined);
      // What was taken away meanwhile stays away; what could not be painted is asked for again.
      if (bitmap && this.asked) this.take(bitmap, next);
      else if (bitmap) bitmap.close();
      else if (this.asked === next) this.asked = undefined;
    }
    this.isPainting = false;
  }

  private take(bitmap: ImageBitmap, painted: Wanted): void {
    this.context.transferFromImageBitmap(bitmap);
    this.shown = painted;
    this.canvas.style.visibility = '';
    this.carry(this.view);
  }

  /** Rejects where the worker's program cannot be fetched. */
  private painted({ what, ghosts }: Wanted): Promise<ImageBitmap> {
    const painter = (this.painter ??= this.hire());
    if (!ghosts) return painter.ask((service) => service.picture(what));
    const { lines, shape, following } = ghosts;
    if (lines !== this.held) painter.service.hold(lines).catch(() => undefined);
    this.held = lines;
    return painter.ask((service) => service.picture(what, { shape, following }));
  }

  private hire(): Hired<GridService> {
    const painter = new Hired<GridService>(new Worker(new URL('./grid.worker.ts', import.meta.url)));
    // The next picture that is wanted hires another one.
    painter.onBroken(() => {
      painter.end();
      this.painter = this.held = undefined;
    });
    return painter;
  }
}

const isSame = (a: GridView, b: GridView): boolean =>
  a.page.width === b.page.width &&
  a.page.height === b.page.height &&
  a.width === b.width &&
  a.height === b.height &&
  a.map.every((value, k) => value === b.map[k]) &&
  a.grids.length === b.grids.length &&
  a.grids.every(
    ({ frame, colours, strength }, k) =>
      frame === b.grids[k].frame &&
      strength === b.grids[k].strength &&
      FRAME_PLANES.every((plane) => colours[plane] === b.grids[k].colours[plane]),
  );
