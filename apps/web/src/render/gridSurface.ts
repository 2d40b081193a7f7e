import type { TetheredLines } from '@true-nib/core/tethers';
import type { Matrix } from '@true-nib/core/math';
import { FRAME_PLANES } from '@true-nib/core/guides';
import type { PageSize } from '@true-nib/core/page';
import { Hired } from '../base/hired';
import type { GridService, GridView, GuideMove } from './grid.worker';
import type { ShownGrids } from './gridPaint';
import { PaintedBeside } from './paintedBeside';
import type { View } from './view';

/** Where tethered lines would go with a move of their guide. */
export interface Ghosts extends GuideMove {
  readonly lines: TetheredLines;
}

/** What lies beneath the guides. */
export interface Beneath {
  readonly grids: readonly ShownGrids[];
  readonly ghosts?: Ghosts;
}

/** Grids as they are to be seen, and what goes with a guide that is moved. */
interface Wanted {
  readonly what: GridView;
  readonly ghosts: Ghosts | undefined;
}

/** The canvas of the grids of frames, and of the courses that lines would take with one that is moved: thousands of lines. */
export class GridSurface {
  private grids: readonly ShownGrids[] = [];
  private ghosts: Ghosts | undefined;
  private readonly beside: PaintedBeside<Wanted>;
  private painter: Hired<GridService> | undefined;
  /** The lines that the worker has. */
  private held: TetheredLines | undefined;

  constructor(private readonly canvas: HTMLCanvasElement) {
    this.beside = new PaintedBeside(
      canvas,
      (wanted) => this.painted(wanted),
      (a, b) => isSame(a.what, b.what) && a.ghosts === b.ghosts,
    );
  }

  dispose(): void {
    this.beside.dispose();
    this.painter?.end();
  }

  /** Takes what is shown from now on. */
  set({ grids, ghosts }: Beneath = { grids: [] }): void {
    this.grids = grids;
    this.ghosts = ghosts;
  }

  /** Shows them in a view of a page, of which `map` takes px to device px. */
  show(page: PageSize, map: Matrix, ratio: number, view: View): void {
    const { grids, ghosts, canvas } = this;
    if (grids.length === 0 && !ghosts) return this.beside.hide();
    const what = { grids, page, map, ratio, width: canvas.width, height: canvas.height };
    this.beside.want({ what, ghosts }, view);
  }

  /** Moves what is shown to where another view has it. */
  carry(view: View): void {
    this.beside.carry(view);
  }

  /** The canvas has been cleared by another size. */
  forget(): void {
    this.beside.forget();
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
