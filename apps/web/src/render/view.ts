import {
  about,
  angleOf,
  apply,
  chain,
  clamp,
  invert,
  rotation,
  scaleOf,
  scaling,
  then,
  translation,
  type Matrix,
  type Point,
} from '@true-nib/core/math';

/** How the page lies on the screen: a map from page px to CSS px of the board. Zoom and turn, never skewed. */
export type View = Matrix;

export interface Extent {
  readonly width: number;
  readonly height: number;
}

/** Device px a side that no canvas may pass: some phones refuse more. */
const MOST_SIDE = 4096;

/** Device px per CSS px on a board. */
export const pxRatioOf = ({ width, height }: Extent): number =>
  Math.min(window.devicePixelRatio || 1, MOST_SIDE / Math.max(width, height, 1));

/** The size of a board's canvases. */
export function devicePx(board: Extent): Extent {
  const ratio = pxRatioOf(board);
  return { width: Math.max(1, Math.round(board.width * ratio)), height: Math.max(1, Math.round(board.height * ratio)) };
}

/** The part of a board that nothing covers, from its top left corner; `covered` are CSS px at its foot. */
export const freeOf = ({ width, height }: Extent, covered: number): Extent => ({
  width,
  height: Math.max(64, height - covered),
});

export const ZOOM_LIMITS = { least: 0.02, most: 64 } as const;

const FLIP: Matrix = [-1, 0, 0, 1, 0, 0];

export const zoomOf = (view: View): number => scaleOf(view);

/** Whether the page is seen from behind. */
export const isFlipped = (view: View): boolean => view[0] * view[3] - view[1] * view[2] < 0;

/** The turn as it is seen, also of a flipped page. */
export const turnOf = (view: View): number => angleOf(isFlipped(view) ? then(FLIP, view) : view);

export const toScreen = (view: View, p: Point): Point => apply(view, p);
export const toPage = (view: View, p: Point): Point => apply(invert(view), p);

/** The page as large as it fits into the board, upright and centred, with `margin` CSS px around it. */
export function fitted(page: Extent, board: Extent, margin = 14): View {
  const room = { width: Math.max(32, board.width - 2 * margin), height: Math.max(32, board.height - 2 * margin) };
  const scale = clamp(
    Math.min(room.width / page.width, room.height / page.height),
    ZOOM_LIMITS.least,
    ZOOM_LIMITS.most,
  );
  return centred(page, board, scale);
}

/** The page upright, its width filling the board, its top in sight: for tall pages. */
export function fittedToWidth(page: Extent, board: Extent, margin = 14): View {
  const scale = clamp((board.width - 2 * margin) / page.width, ZOOM_LIMITS.least, ZOOM_LIMITS.most);
  return aligned([scale, 0, 0, scale, (board.width - page.width * scale) / 2, margin]);
}

/** So much taller than wide that one sees only a part of it at a time. */
export const isTall = (page: Extent): boolean => page.height > 3 * page.width;

/** Tall pages open at their width, others whole. */
export const opening = (page: Extent, board: Extent): View =>
  isTall(page) ? fittedToWidth(page, board) : fitted(page, board);

/** The page turned over about an upright line through `at`. */
export const flippedAt = (view: View, at: Point): View => then(view, about(at, FLIP));

/** The zoom at which the whole page fits. */
export const fitZoom = (page: Extent, board: Extent): number => zoomOf(fitted(page, board));

/** The page's middle in the middle of the board; zoom and turn stay. */
export function centredAt(view: View, page: Extent, at: Point): View {
  const middle = apply(view, { x: page.width / 2, y: page.height / 2 });
  return panned(view, at.x - middle.x, at.y - middle.y);
}

/** Page sizes of room on every side of the page. */
const ROOM = 2.5;

/** The view moved back as far as needed for the page to stay within reach: `at` never leaves the room around it. */
export function withinReach(view: View, page: Extent, at: Point): View {
  const there = apply(invert(view), at);
  const kept = {
    x: clamp(there.x, -ROOM * page.width, (1 + ROOM) * page.width),
    y: clamp(there.y, -ROOM * page.height, (1 + ROOM) * page.height),
  };
  if (kept.x === there.x && kept.y === there.y) return view;
  const now = apply(view, kept);
  return panned(view, at.x - now.x, at.y - now.y);
}

const centred = (page: Extent, board: Extent, scale: number): View =>
  aligned([scale, 0, 0, scale, (board.width - page.width * scale) / 2, (board.height - page.height * scale) / 2]);

export const panned = (view: View, dx: number, dy: number): View => then(view, translation(dx, dy));

/** Zooms by a factor about a place on the screen, within the limits. */
export function zoomedAt(view: View, at: Point, factor: number): View {
  const zoom = zoomOf(view);
  const allowed = clamp(zoom * factor, ZOOM_LIMITS.least, ZOOM_LIMITS.most) / zoom;
  return then(view, about(at, scaling(allowed)));
}

export const turnedAt = (view: View, at: Point, angle: number): View => then(view, about(at, rotation(angle)));

/** The view after two fingers went from `before` to `after`: what lay under each finger stays under it. */
export function pinched(view: View, before: readonly [Point, Point], after: readonly [Point, Point]): View {
  const [a, b] = before;
  const [c, d] = after;
  const factor = Math.hypot(d.x - c.x, d.y - c.y) / Math.max(1, Math.hypot(b.x - a.x, b.y - a.y));
  const twist = Math.atan2(d.y - c.y, d.x - c.x) - Math.atan2(b.y - a.y, b.x - a.x);
  const from = { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 };
  const to = { x: (c.x + d.x) / 2, y: (c.y + d.y) / 2 };
  const moved = panned(view, to.x - from.x, to.y - from.y);
  return turnedAt(zoomedAt(moved, to, factor), to, twist);
}

/**
 * The view moved by less than half a screen px so that page px fall on whole screen px where they can: upright at a zoom
 * of a whole power of two. Elsewhere it is left alone.
 */
export function aligned(view: View): View {
  if (view[1] !== 0 || view[2] !== 0) return view;
  return [view[0], 0, 0, view[3], Math.round(view[4]), Math.round(view[5])];
}

/** A turn within 2° of upright is meant to be upright. */
export function levelled(view: View, at: Point): View {
  const turn = turnOf(view);
  return Math.abs(turn) < (2 * Math.PI) / 180 ? turnedAt(view, at, -turn) : view;
}

/** The map that moves what was painted for `painted` to where it belongs under `wanted`. */
export const between = (painted: View, wanted: View): Matrix => chain(invert(painted), wanted);

/** A page made so small that neither side has more than so many px, in whole px. */
export function smallSize(page: Extent, side: number): Extent & { readonly scale: number } {
  const scale = Math.min(1, side / Math.max(page.width, page.height));
  const px = (length: number) => Math.max(1, Math.round(length * scale));
  return { scale, width: px(page.width), height: px(page.height) };
}
