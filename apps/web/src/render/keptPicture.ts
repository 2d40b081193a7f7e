import { growBox, then, translation, type Box, type Matrix } from '@true-nib/core/math';
import { deviceBoxes } from './deviceBoxes';
import { ground } from './ground';

/** A map from page px to device px, and how many of these are to be painted. */
export interface PictureOfInks {
  readonly map: Matrix;
  readonly width: number;
  readonly height: number;
}

/** Paints a box of device px under a map from page px to them. */
export type BoxPainter = (context: OffscreenCanvasRenderingContext2D, map: Matrix, box: Box) => void;

/** Changed places beyond which all of a picture is painted anew. */
const MOST_CHANGED = 300;

/** Places, and the share of a picture, that are painted one by one. */
const MOST_PLACES = 40;
const MOST_AREA = 0.5;

/**
 * A picture of the inks that is kept: only what edits have changed is painted anew, and of one that was moved by whole px
 * only what came into sight. So a full page does not cost more than an empty one.
 */
export class KeptPicture {
  private shown: { readonly of: PictureOfInks; readonly context: OffscreenCanvasRenderingContext2D } | undefined;
  /** What has changed since, page px. */
  private changed: readonly Box[] = [];

  /**
   * `margin`: device px around a place that are painted with it and thrown away. A rasteriser that is cut off there strays
   * by up to 44/255 in Chromium's software canvas; beyond 16 px only single px still do, by up to 22.
   */
  constructor(
    private readonly paint: BoxPainter,
    private readonly margin = 0,
  ) {}

  /** Marks what edits have changed, page px. */
  touch(boxes: readonly Box[]): void {
    if (this.changed.length + boxes.length > MOST_CHANGED) this.forget();
    else this.changed = [...this.changed, ...boxes];
  }

  /** Everything may look different. */
  forget(): void {
    this.shown = undefined;
    this.changed = [];
  }

  /** Paints a picture before it is asked for; `inPlaces` says whether what is shown may be mended place by place. */
  prepare(of: PictureOfInks, inPlaces = true): OffscreenCanvas {
    const { map, width, height } = of;
    const whole = { minX: 0, minY: 0, maxX: width, maxY: height };
    const moved = this.moved(of);
    const boxes = moved ? [...moved.came, ...deviceBoxes(this.changed, map, whole)] : [whole];
    const isWorthIt =
      moved && boxes.length <= (inPlaces ? MOST_PLACES : 0) && sumOfAreas(boxes) < MOST_AREA * width * height;
    const context = isWorthIt ? moved.context : ground(width, height);
    if (isWorthIt) for (const box of boxes) this.patch(context, map, box);
    else this.paint(context, map, whole);
    this.shown = { of, context };
    this.changed = [];
    return context.canvas;
  }

  /** The picture, to be given away. */
  picture(of: PictureOfInks, inPlaces?: boolean): OffscreenCanvas {
    const copy = ground(of.width, of.height);
    copy.drawImage(this.prepare(of, inPlaces), 0, 0);
    return copy.canvas;
  }

  /** What is shown, moved to where another map has it, and the boxes of device px that came into sight; nothing where it cannot be. */
  private moved({ map, width, height }: PictureOfInks) {
    const { shown } = this;
    if (!shown || shown.of.width !== width || shown.of.height !== height) return undefined;
    const before = shown.of.map;
    const [dx, dy] = [map[4] - before[4], map[5] - before[5]];
    const isSame = [0, 1, 2, 3].every((k) => map[k] === before[k]);
    if (!isSame || !isWhole(dx) || !isWhole(dy) || Math.abs(dx) >= width || Math.abs(dy) >= height) return undefined;
    const [x, y] = [Math.round(dx), Math.round(dy)];
    if (x === 0 && y === 0) return { context: shown.context, came: [] };
    const context = ground(width, height);
    context.drawImage(shown.context.canvas, x, y);
    const [left, right] = [Math.max(0, x), width + Math.min(0, x)];
    const [top, bottom] = [Math.max(0, y), height + Math.min(0, y)];
    const came = [
      { minX: 0, minY: 0, maxX: width, maxY: top },
      { minX: 0, minY: bottom, maxX: width, maxY: height },
      { minX: 0, minY: top, maxX: left, maxY: bottom },
      { minX: right, minY: top, maxX: width, maxY: bottom },
    ];
    return { context, came: came.filter(({ minX, minY, maxX, maxY }) => maxX > minX && maxY > minY) };
  }

  private patch(context: OffscreenCanvasRenderingContext2D, map: Matrix, box: Box): void {
    const { minX, minY, maxX, maxY } = growBox(box, this.margin);
    const [width, height] = [maxX - minX, maxY - minY];
    const aside = ground(width, height);
    this.paint(aside, then(map, translation(-minX, -minY)), { minX: 0, minY: 0, maxX: width, maxY: height });
    const size = [box.maxX - box.minX, box.maxY - box.minY] as const;
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.clearRect(box.minX, box.minY, ...size);
    context.drawImage(aside.canvas, this.margin, this.margin, ...size, box.minX, box.minY, ...size);
  }
}

const sumOfAreas = (boxes: readonly Box[]): number =>
  boxes.reduce((sum, { minX, minY, maxX, maxY }) => sum + (maxX - minX) * (maxY - minY), 0);

/** Whether a move leaves every px a px, but for what numbers lose. */
const isWhole = (px: number): boolean => Math.abs(px - Math.round(px)) < 1e-6;
