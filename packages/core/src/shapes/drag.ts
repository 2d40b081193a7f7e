import type { Spine } from '../curve';
import { distance, type Point } from '../math';
import { chordArcSpine, ellipseSpine, lineSpine, polygonSpine, rectSpine, starSpine } from './spines';

export const SHAPE_KINDS = ['line', 'poly-line', 'arc', 'rectangle', 'ellipse', 'polygon', 'star'] as const;
export type ShapeKind = (typeof SHAPE_KINDS)[number];

/** How shapes are made of a drag. */
export interface ShapeSettings {
  readonly fromCentre: boolean;
  /** Lines by 15°, everything else as wide as high. */
  readonly regular: boolean;
  /** Radius of a rectangle's corners, page px. */
  readonly rounding: number;
  /** Corners of a polygon, points of a star. */
  readonly corners: number;
  /** The share of a star's radius at which its notches lie, 0.05–0.95. */
  readonly inner: number;
  /** How far an arc bulges, in halves of its chord, −2..2. */
  readonly bend: number;
}

/** What a drag has made, and its measures as they are said at the pointer: page px and degrees. */
export interface DraggedShape {
  readonly course: Spine;
  readonly measures:
    | { readonly of: 'line'; readonly length: number; readonly angle: number }
    | { readonly of: 'box'; readonly width: number; readonly height: number }
    | { readonly of: 'round'; readonly radius: number; readonly angle: number };
}

/** Lines closer than this, page px, are none yet. */
const LEAST = 0.5;
const STEP = Math.PI / 12;

/** The point nearest to `to` whose direction from `from` is a whole number of 15°. */
export function straightened(from: Point, to: Point): Point {
  const length = distance(from, to);
  const angle = Math.round(Math.atan2(to.y - from.y, to.x - from.x) / STEP) * STEP;
  return { x: from.x + length * Math.cos(angle), y: from.y + length * Math.sin(angle) };
}

/** The shape that a drag makes; nothing while it is too small to be seen. Poly-lines are built point by point, not here. */
export function draggedShape(
  kind: Exclude<ShapeKind, 'poly-line'>,
  from: Point,
  to: Point,
  settings: ShapeSettings,
): DraggedShape | undefined {
  if (distance(from, to) < LEAST) return undefined;
  if (kind === 'line' || kind === 'arc') return dragged(kind, from, to, settings);
  if (kind === 'polygon' || kind === 'star') return pointed(kind, from, to, settings);
  const { a, b } = boxOf(from, to, settings);
  const [width, height] = [Math.abs(b.x - a.x), Math.abs(b.y - a.y)];
  if (width < LEAST || height < LEAST) return undefined;
  const course =
    kind === 'rectangle'
      ? rectSpine(a, b, settings.rounding)
      : ellipseSpine({ centre: { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 }, rx: width / 2, ry: height / 2 });
  return { course, measures: { of: 'box', width, height } };
}

function dragged(
  kind: 'line' | 'arc',
  from: Point,
  to: Point,
  { regular, fromCentre, bend }: ShapeSettings,
): DraggedShape {
  const end = regular ? straightened(from, to) : to;
  const start = fromCentre ? { x: 2 * from.x - end.x, y: 2 * from.y - end.y } : from;
  const course = kind === 'line' ? lineSpine(start, end) : chordArcSpine(start, end, bend);
  return { course, measures: { of: 'line', length: distance(start, end), angle: degrees(start, end) } };
}

/** Polygons and stars grow out of the start of the drag as their centre, or lie between its two ends. */
function pointed(kind: 'polygon' | 'star', from: Point, to: Point, settings: ShapeSettings): DraggedShape {
  const { corners, inner, regular, fromCentre } = settings;
  const tip = regular ? straightened(from, to) : to;
  const centre = fromCentre ? from : { x: (from.x + tip.x) / 2, y: (from.y + tip.y) / 2 };
  const radius = distance(centre, tip);
  const turn = Math.atan2(tip.y - centre.y, tip.x - centre.x);
  const course =
    kind === 'polygon' ? polygonSpine(centre, radius, corners, turn) : starSpine(centre, radius, corners, inner, turn);
  return { course, measures: { of: 'round', radius, angle: degrees(centre, tip) } };
}

function boxOf(
  from: Point,
  to: Point,
  { fromCentre, regular }: ShapeSettings,
): { readonly a: Point; readonly b: Point } {
  let [dx, dy] = [to.x - from.x, to.y - from.y];
  if (regular) {
    const side = Math.max(Math.abs(dx), Math.abs(dy));
    [dx, dy] = [side * (dx < 0 ? -1 : 1), side * (dy < 0 ? -1 : 1)];
  }
  const b = { x: from.x + dx, y: from.y + dy };
  return { a: fromCentre ? { x: from.x - dx, y: from.y - dy } : from, b };
}

/** The rise of a way, degrees as drawn: up is positive, 0 points right. */
const degrees = (from: Point, to: Point): number => (Math.atan2(from.y - to.y, to.x - from.x) * 180) / Math.PI;
