import type { Box, Matrix, Vector } from '@true-nib/core/math';
import { STRIDE, SEGMENT, type Spine } from '@true-nib/core/curve';
import { boxCorners, boxOfPoints, intersectBoxes, invert, apply, isEmptyBox } from '@true-nib/core/math';
import { depthPicture, viewOf, type DepthPicture, type Eye, type StandingBlock } from '@true-nib/core/set';

type Context = OffscreenCanvasRenderingContext2D;

/** What a set is painted with, `#rrggbb`. */
const INK = '#2f6f97';
const SHADE: readonly [number, number, number] = [111, 168, 201];
/** The share of the shade that lies on what light falls on straight, and on what is turned from it. */
const PALEST = 0.06;
const DEEPEST = 0.5;
/** Px of a picture by depth while the camera moves, and at rest. */
const QUICK_PX = 480 * 300;
const SHARP_PX = 1600 * 1000;
/** CSS px that lines are wide. */
const LINE = 1.1;

/** A camera's picture of a set on the board. */
export interface SetLook {
  readonly camera: Eye;
  readonly opacity: number;
  /** Where light comes from. */
  readonly light: Vector;
  /** The part of the page in which it is seen, and its outline where that is a panel. */
  readonly window: Box;
  readonly clip?: Spine;
}

/** The board on which it is painted: `map` takes page px to device px. */
export interface SetGround {
  readonly map: Matrix;
  readonly ratio: number;
  readonly width: number;
  readonly height: number;
}

/** Paints what a camera sees: shades by depth, and lines, which are found from the picture itself where none are given. */
export function paintSet(
  context: Context,
  blocks: readonly StandingBlock[],
  look: SetLook,
  { map, ratio, width, height }: SetGround,
  lines: readonly Spine[] | undefined,
): void {
  const back = invert(map);
  const whole = { minX: 0, minY: 0, maxX: width, maxY: height };
  const seen = intersectBoxes(boxOfPoints(boxCorners(whole).map((corner) => apply(back, corner))), look.window);
  if (isEmptyBox(seen) || blocks.length === 0) return;
  const area = (seen.maxX - seen.minX) * (seen.maxY - seen.minY);
  const scale = Math.min(Math.hypot(map[0], map[1]), Math.sqrt((lines ? SHARP_PX : QUICK_PX) / area));
  const sight = {
    ...{ left: seen.minX, top: seen.minY, scale },
    width: Math.max(1, Math.ceil((seen.maxX - seen.minX) * scale)),
    height: Math.max(1, Math.ceil((seen.maxY - seen.minY) * scale)),
  };
  const picture = depthPicture(blocks, viewOf(look.camera), sight, look.light);
  context.save();
  context.setTransform(...map);
  clip(context, look);
  context.globalAlpha = look.opacity;
  context.drawImage(
    coloured(picture, lines === undefined),
    seen.minX,
    seen.minY,
    sight.width / scale,
    sight.height / scale,
  );
  if (lines) stroke(context, lines, (LINE * ratio) / Math.hypot(map[0], map[1]));
  context.restore();
}

function clip(context: Context, { window: { minX, minY, maxX, maxY }, clip: ring }: SetLook): void {
  context.beginPath();
  if (ring) trace(context, ring);
  else context.rect(minX, minY, maxX - minX, maxY - minY);
  context.clip();
}

function stroke(context: Context, lines: readonly Spine[], width: number): void {
  context.strokeStyle = INK;
  context.lineWidth = width;
  context.lineCap = context.lineJoin = 'round';
  for (const line of lines) {
    context.beginPath();
    trace(context, line);
    context.stroke();
  }
}

function trace(context: Context, { points: p }: Spine): void {
  context.moveTo(p[0], p[1]);
  for (let i = STRIDE; i < p.length; i += SEGMENT)
    context.bezierCurveTo(p[i], p[i + 1], p[i + 3], p[i + 4], p[i + 6], p[i + 7]);
}

/** Shades, and where they are asked for lines at the borders of surfaces. */
function coloured({ width, height, ids, light, near }: DepthPicture, outlined: boolean): OffscreenCanvas {
  const data = new ImageData(width, height);
  const px = data.data;
  const [r, g, b] = SHADE;
  for (let at = 0, i = 0; at < ids.length; at++, i += 4) {
    const id = ids[at];
    const right = (at + 1) % width > 0 ? at + 1 : at;
    const below = at + width < ids.length ? at + width : at;
    if (outlined && (differs(ids, near, at, right) || differs(ids, near, at, below))) {
      px[i] = 47;
      px[i + 1] = 111;
      px[i + 2] = 151;
      px[i + 3] = 255;
    } else if (id !== 0) {
      px[i] = r;
      px[i + 1] = g;
      px[i + 2] = b;
      px[i + 3] = 255 * (PALEST + (DEEPEST - PALEST) * (1 - light[at] / 255));
    }
  }
  const canvas = new OffscreenCanvas(width, height);
  canvas.getContext('2d')?.putImageData(data, 0, 0);
  return canvas;
}

const differs = (ids: Int32Array, near: Float32Array, a: number, b: number): boolean =>
  ids[a] !== ids[b] && (near[a] > 0 || near[b] > 0);
