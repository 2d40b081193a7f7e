import type { Box, Matrix } from '@true-nib/core/math';
import { deviceBoxes } from './deviceBoxes';
import { ground, paintAnew } from './ground';

/** A map from page px to device px, and how many of these are to be painted. */
export interface PictureOfInks {
  readonly map: Matrix;
  readonly width: number;
  readonly height: number;
}

type Ground = OffscreenCanvasRenderingContext2D;

interface Kept {
  readonly context: Ground;
  /** What has changed since it was painted, page px. */
  changed: readonly Box[];
}

/** Pictures that are kept: of the page, and of its layers. */
const MOST = 64;
/** Changed places beyond which all of a picture is painted anew. */
const MOST_CHANGED = 300;

/**
 * Small pictures of the inks, painted beside the board whenever the hand rests. They are kept, so that after a line only its
 * place is painted anew, and a full page does not cost more than an empty one.
 */
export class SmallPictures {
  private readonly kept = new Map<string, Kept>();

  /** Marks what edits have changed, page px. */
  touch(boxes: readonly Box[]): void {
    for (const [key, one] of this.kept)
      if (one.changed.length + boxes.length > MOST_CHANGED) this.kept.delete(key);
      else one.changed = [...one.changed, ...boxes];
  }

  /** Everything may look different. */
  forget(): void {
    this.kept.clear();
  }

  /** A picture, to be given away; `paint` paints a box of device px of it. */
  of(name: string, { map, width, height }: PictureOfInks, paint: (context: Ground, box: Box) => void): OffscreenCanvas {
    const key = `${name} ${map.join()} ${width} ${height}`;
    const whole = { minX: 0, minY: 0, maxX: width, maxY: height };
    const { context, changed } = this.kept.get(key) ?? { context: ground(width, height), changed: undefined };
    const boxes = changed ? deviceBoxes(changed, map, whole) : [whole];
    for (const box of boxes) paintAnew(context, box, () => paint(context, box));
    this.keep(key, { context, changed: [] });
    const copy = ground(width, height);
    copy.drawImage(context.canvas, 0, 0);
    return copy.canvas;
  }

  private keep(key: string, picture: Kept): void {
    this.kept.delete(key);
    this.kept.set(key, picture);
    const [oldest] = this.kept.keys();
    if (this.kept.size > MOST) this.kept.delete(oldest);
  }
}
