import type { Box } from '@true-nib/core/math';
import { KeptPicture, type BoxPainter, type PictureOfInks } from './keptPicture';

/** Pictures that are kept: of the page, and of its layers. */
const MOST = 64;

/** Small pictures of the inks, painted beside the board whenever the hand rests. */
export class SmallPictures {
  private readonly kept = new Map<string, KeptPicture>();

  touch(boxes: readonly Box[]): void {
    for (const picture of this.kept.values()) picture.touch(boxes);
  }

  forget(): void {
    this.kept.clear();
  }

  /** The picture of that name and size, to be given away. `paint` stays that of its name. */
  of(name: string, of: PictureOfInks, paint: BoxPainter): OffscreenCanvas {
    const key = `${name} ${of.width} ${of.height}`;
    const picture = this.kept.get(key) ?? new KeptPicture(paint);
    this.kept.delete(key);
    this.kept.set(key, picture);
    const [oldest] = this.kept.keys();
    if (this.kept.size > MOST) this.kept.delete(oldest);
    return picture.picture(of);
  }
}
