import { between, type View } from './view';

/** What is to be seen, and the view of the board under which it is. */
interface Wanted<What> {
  readonly what: What;
  readonly view: View;
}

/**
 * A canvas that a worker paints, so that no hand waits for it. The newest wish counts; until its picture has come the last one
 * stays, moved along with the view.
 */
export class PaintedBeside<What> {
  private readonly context: ImageBitmapRenderingContext;
  private asked: Wanted<What> | undefined;
  /** What the worker is to paint next. */
  private next: Wanted<What> | undefined;
  private shown: Wanted<What> | undefined;
  private isPainting = false;
  private view: View = [1, 0, 0, 1, 0, 0];

  /** `paint` rejects where nothing can be painted: that is asked for again with the next wish. */
  constructor(
    private readonly canvas: HTMLCanvasElement,
    private readonly paint: (what: What) => Promise<ImageBitmap>,
    private readonly isSame: (a: What, b: What) => boolean,
  ) {
    const context = canvas.getContext('bitmaprenderer');
    if (!context) throw new Error('This browser cannot show pictures on a canvas.');
    this.context = context;
    this.hide();
  }

  dispose(): void {
    this.next = this.asked = undefined;
  }

  /** Shows something in a view, unless that was asked for last. */
  want(what: What, view: View): void {
    this.view = view;
    if (this.asked && this.isSame(this.asked.what, what)) return;
    this.asked = this.next = { what, view };
    if (!this.isPainting) void this.work();
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

  hide(): void {
    this.asked = this.next = undefined;
    this.canvas.style.visibility = 'hidden';
    // Lets go of the memory of the last picture; asked without need it would cost some ms each time.
    if (this.shown) this.context.transferFromImageBitmap(null);
    this.shown = undefined;
  }

  private async work(): Promise<void> {
    this.isPainting = true;
    while (this.next) {
      const { next } = this;
      this.next = undefined;
      const bitmap = await this.paint(next.what).catch(() => undefined);
      // What was taken away meanwhile stays away; what could not be painted is asked for again.
      if (bitmap && this.asked) this.take(bitmap, next);
      else if (bitmap) bitmap.close();
      else if (this.asked === next) this.asked = undefined;
    }
    this.isPainting = false;
  }

  private take(bitmap: ImageBitmap, painted: Wanted<What>): void {
    this.context.transferFromImageBitmap(bitmap);
    this.shown = painted;
    this.canvas.style.visibility = '';
    this.carry(this.view);
  }
}
