import {
  allMarks,
  isSameShape,
  marksAt,
  type DrawnEntity,
  type Mark,
  type MarkShape,
  type Shade,
} from '@true-nib/core/drawn';
import {
  boxesMeet,
  intersectBoxes,
  invert,
  isEmptyBox,
  mapBox,
  scaleOf,
  type Box,
  type Matrix,
} from '@true-nib/core/math';
import { channelsOf } from '@true-nib/core/nib';
import { ground } from './ground';

/** What both a window's and a worker's 2D context can do. */
export type Context2D = CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D;

/** Device px that an outline may stray by: a part that nobody sees, and, where the page is shown small, a little more. */
const STRAY = { large: 0.09, small: 0.25 } as const;

/**
 * How far an outline may stray at a scale (device px per page px), page px: in steps of two, so that outlines are shared
 * between near scales.
 */
export const paintTolerance = (scale: number): number =>
  (scale < 1 ? STRAY.small : STRAY.large) / 2 ** Math.ceil(Math.log2(Math.min(64, Math.max(1 / 64, scale))));

interface KeptPath {
  readonly tolerance: number;
  readonly shape: MarkShape;
  readonly path: Path2D;
}

/** Paths by the thing that their rings are made of: one for each shape that is made of it. */
type KeptPaths = WeakMap<object, KeptPath[]>;
/** Shapes of one thing of which the paths are kept, so that looks that it had once do not pile up. */
const MOST_SHAPES = 8;
const paths: KeptPaths = new WeakMap();
const smallPaths: KeptPaths = new WeakMap();

/** Where the rings of a mark as a path come from: colour is no matter. */
export type PathSource = (shape: MarkShape, tolerance: number) => Path2D;

/** The path that strays by no more and no less; the one last asked for is kept. */
export const pathOf: PathSource = (shape, tolerance) => {
  const known = knownPath(paths, shape);
  return known?.tolerance === tolerance ? known.path : keptPath(paths, shape, tolerance);
};

/**
 * A path that strays by no more, for small pictures beside the board: whatever the board keeps will do, and what must be
 * made for them takes nothing of that away. Else both would be made anew after every line.
 */
export const smallPathOf: PathSource = (shape, tolerance) => {
  for (const kept of [paths, smallPaths]) {
    const known = knownPath(kept, shape);
    if (known && known.tolerance <= tolerance) return known.path;
  }
  return keptPath(smallPaths, shape, tolerance);
};

function knownPath(kept: KeptPaths, shape: MarkShape): KeptPath | undefined {
  const all = kept.get(shape.of[0]);
  if (all) for (const known of all) if (isSameShape(known.shape, shape)) return known;
  return undefined;
}

function keptPath(kept: KeptPaths, shape: MarkShape, tolerance: number): Path2D {
  const path = new Path2D();
  traceRings(path, shape.rings(tolerance));
  const others = kept.get(shape.of[0])?.filter((known) => !isSameShape(known.shape, shape)) ?? [];
  kept.set(shape.of[0], [...others.slice(1 - MOST_SHAPES), { tolerance, shape, path }]);
  return path;
}

/** Page px to a point so far off that it makes any path wide. */
const FAR = 1e5;

/**
 * Adds closed polygons of x, y pairs to a path. The empty contour far away keeps the rasteriser on one way of counting
 * coverage: it takes a coarser one for paths with many points to their width, and a line would look different in parts,
 * while it is drawn, than whole (seen in Chromium's software canvas: up to 36/255 without, 3 with it).
 */
export function traceRings(path: Path2D | Context2D, rings: readonly Float64Array[]): void {
  for (const points of rings) {
    path.moveTo(points[0], points[1]);
    for (let i = 2; i < points.length; i += 2) path.lineTo(points[i], points[i + 1]);
    path.closePath();
  }
  if (rings.length === 0) return;
  const [x, y] = rings[0];
  path.moveTo(x - FAR, y - FAR);
  path.lineTo(x - FAR, y - FAR);
  path.closePath();
}

/** Paints things one over the other, lowest first, whatever panels they were begun in. */
export const paintDrawn = (context: Context2D, entities: Iterable<DrawnEntity>, map: Matrix): void =>
  paintMarks(context, allMarks(entities), map);

/**
 * Paints marks one over the other, lowest first, under the map from page px to device px; a path each, never batched. `scale`: as
 * fine as they would be seen at that. At Infinity px are to be black or white: what is made of dots is painted px by px.
 */
export function paintMarks(
  context: Context2D,
  marks: readonly Mark[],
  map: Matrix,
  pathFor: PathSource = pathOf,
  scale = scaleOf(map),
): void {
  const tolerance = paintTolerance(scaleOf(map));
  const { width, height } = context.canvas;
  let seen: Box | undefined;
  const isSeen = ({ box }: Mark) =>
    box === undefined ||
    boxesMeet(box, (seen ??= mapBox(invert(map), { minX: 0, minY: 0, maxX: width, maxY: height })));
  context.setTransform(...map);
  const laying = context.globalCompositeOperation;
  let clip: MarkShape | undefined;
  // Marks of one clip mostly follow each other: it is set once for them.
  const setClip = (next: MarkShape | undefined) => {
    if (next === clip) return;
    if (clip) context.restore();
    if (next) {
      context.save();
      context.clip(pathFor(next, tolerance), next.rule);
    }
    clip = next;
  };
  for (const mark of scale === Infinity ? marks : marksAt(marks, scale)) {
    if (!isSeen(mark)) continue;
    setClip(mark.clip);
    context.globalCompositeOperation = mark.cuts ? 'destination-out' : laying;
    if (scale === Infinity && mark.finer) {
      paintPx(context, mark, map);
      continue;
    }
    context.fillStyle = mark.shade ? gradientOf(context, mark.shade) : mark.color;
    context.globalAlpha = mark.opacity;
    context.fill(pathFor(mark, tolerance), mark.rule);
  }
  setClip(undefined);
  context.globalAlpha = 1;
  context.globalCompositeOperation = laying;
}

/** Lets only what lies in a shape show on a context, until it is restored; `map` takes page px to its own. */
export function clipTo(context: Context2D, clip: MarkShape | undefined, map: Matrix): void {
  if (!clip) return;
  context.setTransform(...map);
  context.clip(pathOf(clip, paintTolerance(scaleOf(map))), clip.rule);
}

/** Paints a mark that is made of dots px by px, where it lies. */
function paintPx(context: Context2D, { box, finer, color }: Mark, map: Matrix): void {
  const whole: Box = { minX: 0, minY: 0, maxX: context.canvas.width, maxY: context.canvas.height };
  const lies = box ? intersectBoxes(whole, mapBox(map, box)) : whole;
  if (!finer || isEmptyBox(lies)) return;
  const [x, y] = [Math.floor(lies.minX), Math.floor(lies.minY)];
  const [width, height] = [Math.ceil(lies.maxX) - x, Math.ceil(lies.maxY) - y];
  if (width === 0 || height === 0) return;
  const sheet = ground(width, height);
  const image = sheet.createImageData(width, height);
  const px = new Uint32Array(image.data.buffer);
  const [red, green, blue] = channelsOf(color);
  // Bytes are red, green, blue, alpha: the first is the lowest of a number.
  const inked = (0xff000000 | (blue << 16) | (green << 8) | red) >>> 0;
  for (const [k, is] of finer.px({ map, x, y, width, height }).entries()) if (is) px[k] = inked;
  sheet.putImageData(image, 0, 0);
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.globalAlpha = 1;
  context.drawImage(sheet.canvas, x, y);
  context.setTransform(...map);
}

/** A gradient in page px; its colours go over into each other without a premultiplied alpha, as SVG's do. */
function gradientOf(context: Context2D, { ramp, stops }: Shade): CanvasGradient {
  const { shape, from, to } = ramp;
  const gradient =
    shape === 'straight'
      ? context.createLinearGradient(from.x, from.y, to.x, to.y)
      : context.createRadialGradient(from.x, from.y, 0, from.x, from.y, Math.hypot(to.x - from.x, to.y - from.y));
  for (const { at, color, opacity = 1 } of stops) gradient.addColorStop(at, withAlpha(color, opacity));
  return gradient;
}

/** A colour `#rrggbb` with an opacity 0..1. */
const withAlpha = (color: string, opacity: number): string => `rgb(${channelsOf(color).join(' ')} / ${opacity})`;
