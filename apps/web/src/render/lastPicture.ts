import { invert, scaling, type Box, type Matrix } from '@true-nib/core/math';

/** A picture of the inks that was seen last: it is moved along where there is nothing better yet. */
export class LastPicture {
  private shown: { readonly image: ImageBitmap | HTMLCanvasElement; readonly map: Matrix } | undefined;

  get isEmpty(): boolean {
    return !this.shown;
  }

  /** Keeps a picture that shows page px under `map`; who held the one before has given it away. */
  keep(image: ImageBitmap | HTMLCanvasElement, map: Matrix): void {
    this.letGo();
    this.shown = { image, map };
  }

  /** Keeps a picture of a whole page of that width, page px. */
  keepSmall(image: HTMLCanvasElement, pageWidth: number): void {
    this.keep(image, scaling(image.width / pageWidth));
  }

  letGo(): void {
    if (this.shown && 'close' in this.shown.image) this.shown.image.close();
    this.shown = undefined;
  }

  /** Draws it under a map from page px to device px, within boxes of page px. */
  draw(context: CanvasRenderingContext2D, map: Matrix, boxes: readonly Box[]): void {
    if (!this.shown || this.shown.image.width === 0) return;
    context.save();
    context.setTransform(...map);
    context.beginPath();
    for (const { minX, minY, maxX, maxY } of boxes) context.rect(minX, minY, maxX - minX, maxY - minY);
    context.clip();
    context.transform(...invert(this.shown.map));
    context.drawImage(this.shown.image, 0, 0);
    context.restore();
  }
}
