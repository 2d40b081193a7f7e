import { box, boxArea, growBox, then, translation, type Box, type Matrix } from '@true-nib/core/math';
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

/** Whole device px. */
interface Step {
  readonly x: number;
  readonly y: number;
}

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
    const whole = box(0, 0, width, height);
    const step = this.stepTo(of);
    const places = step ? [...cameIntoSight(step, whole), ...deviceBoxes(this.changed, map, whole)] : [whole];
    const area = places.reduce((sum, place) => sum + boxArea(place), 0);
    const isWorthIt = places.length <= (inPlaces ? MOST_PLACES : 0) && area < MOST_AREA * boxArea(whole);
    const moved = step && isWorthIt ? this.moved(step) : undefined;
    const context = moved ?? ground(width, height);
    if (moved) for (const place of places) this.patch(moved, map, place);
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

  /** By how many whole px what is shown would have to be moved; nothing where that does not make it another picture. */
  private stepTo({ map, width, height }: PictureOfInks): Step | undefined {
    const { shown } = this;
    if (!shown || shown.of.width !== width || shown.of.height !== height) return undefined;
    const before = shown.of.map;
    if ([0, 1, 2, 3].some((k) => map[k] !== before[k])) return undefined;
    const [x, y] = [map[4] - before[4], map[5] - before[5]];
    return isWhole(x) && isWhole(y) ? { x: Math.round(x), y: Math.round(y) } : undefined;
  }

  private moved({ x, y }: Step): OffscreenCanvasRenderingContext2D | undefined {
    const context = this.shown?.context;
    if (!context || (x === 0 && y === 0)) return context;
    const copy = ground(context.canvas.width, context.canvas.height);
    copy.drawImage(context.canvas, x, y);
    return copy;
  }

  private patch(context: OffscreenCanvasRenderingContext2D, map: Matrix, place: Box): void {
    const { minX, minY, maxX, maxY } = growBox(place, this.margin);
    const [width, height] = [maxX - minX, maxY - minY];
    const aside = ground(width, height);
    this.paint(aside, then(map, translation(-minX, -minY)), box(0, 0, width, height));
    const size = [place.maxX - place.minX, place.maxY - place.minY] as const;
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.clearRect(place.minX, place.minY, ...size);
    context.drawImage(aside.canvas, this.margin, this.margin, ...size, place.minX, place.minY, ...size);
  }
}

/** The boxes of a picture that show something else once it was moved. */
function cameIntoSight({ x, y }: Step, { maxX: width, maxY: height }: Box): Box[] {
  const within = (value: number, most: number) => Math.min(most, Math.max(0, value));
  const [left, right] = [within(x, width), within(width + x, width)];
  const [top, bottom] = [within(y, height), within(height + y, height)];
  return [
    box(0, 0, width, top),
    box(0, bottom, width, height),
    box(0, top, left, bottom),
    box(right, top, width, bottom),
  ].filter((came) => boxArea(came) > 0);
}

/** Whether a move leaves every px a px, but for what numbers lose. */
const isWhole = (px: number): boolean => Math.abs(px - Math.round(px)) < 1e-6;
