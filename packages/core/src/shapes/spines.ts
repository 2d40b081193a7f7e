import { makeSpine, type Spine } from '../curve';
import { distance, type Point } from '../math';

// Courses of width 1: a nib gives them their weight.

/** Radius up to which four cubics are a circle within 0.05 px: each strays by 2.73 × 10⁻⁴ of it (Schneider's κ). */
const FOUR_ARCS = 180;
const CORNERS = { fewest: 3, most: 64 } as const;

/** Collects triples of a course. */
class CourseWriter {
  private readonly triples: number[];
  private at: Point;

  constructor(start: Point) {
    this.at = start;
    this.triples = [start.x, start.y, 1];
  }

  cubic(first: Point, second: Point, to: Point): void {
    this.triples.push(first.x, first.y, 1, second.x, second.y, 1, to.x, to.y, 1);
    this.at = to;
  }

  line(to: Point): void {
    this.cubic(between(this.at, to, 1 / 3), between(this.at, to, 2 / 3), to);
  }

  /** An elliptic arc in pieces of equal turn, each a cubic that leaves and arrives along the arc's tangents. */
  arc({ centre, rx, ry, turn = 0 }: EllipseShape, from: number, sweep: number, pieces: number): void {
    const place = (angle: number, out = 0): Point => {
      const [c, s] = [Math.cos(angle), Math.sin(angle)];
      const [x, y] = [rx * (c - out * s), ry * (s + out * c)];
      return {
        x: centre.x + x * Math.cos(turn) - y * Math.sin(turn),
        y: centre.y + x * Math.sin(turn) + y * Math.cos(turn),
      };
    };
    const step = sweep / pieces;
    const reach = (4 / 3) * Math.tan(step / 4);
    for (let k = 0; k < pieces; k++) {
      const [begin, end] = [from + k * step, from + (k + 1) * step];
      this.cubic(place(begin, reach), place(end, -reach), place(end));
    }
  }

  spine(closed: boolean): Spine {
    const { triples } = this;
    // A ring ends on the very numbers that it began with.
    if (closed) triples.splice(-3, 3, triples[0], triples[1], 1);
    return makeSpine(Float64Array.from(triples), closed);
  }
}

const between = (a: Point, b: Point, t: number): Point => ({ x: a.x + (b.x - a.x) * t, y: a.y + (b.y - a.y) * t });

/** A straight line. */
export const lineSpine = (from: Point, to: Point): Spine => polylineSpine([from, to]);

/** Straight lines from point to point. Throws a RangeError for fewer than two points. */
export function polylineSpine(points: readonly Point[], closed = false): Spine {
  if (points.length < 2) throw new RangeError('A line needs two points at least.');
  const writer = new CourseWriter(points[0]);
  for (const point of points.slice(1)) writer.line(point);
  if (closed) writer.line(points[0]);
  return writer.spine(closed);
}

export interface EllipseShape {
  readonly centre: Point;
  /** Half axes, page px. */
  readonly rx: number;
  readonly ry: number;
  /** The turn of the first half axis, radians. */
  readonly turn?: number;
}

const piecesFor = (radius: number, sweep: number): number =>
  Math.max(1, Math.ceil((Math.abs(sweep) / (2 * Math.PI)) * (radius <= FOUR_ARCS ? 4 : 8) - 1e-9));

/** An ellipse within 0.05 px up to half axes of 5,000 px: 4 cubics while the larger is at most 180 px, else 8. */
export function ellipseSpine(shape: EllipseShape): Spine {
  const { centre, rx, turn = 0 } = shape;
  const writer = new CourseWriter({ x: centre.x + rx * Math.cos(turn), y: centre.y + rx * Math.sin(turn) });
  writer.arc(shape, 0, 2 * Math.PI, piecesFor(Math.max(rx, shape.ry), 2 * Math.PI));
  return writer.spine(true);
}

export const circleSpine = (centre: Point, radius: number): Spine => ellipseSpine({ centre, rx: radius, ry: radius });

/** A part of a circle from an angle on, by `sweep` radians. */
export function arcSpine(centre: Point, radius: number, from: number, sweep: number): Spine {
  const writer = new CourseWriter({ x: centre.x + radius * Math.cos(from), y: centre.y + radius * Math.sin(from) });
  writer.arc({ centre, rx: radius, ry: radius }, from, sweep, piecesFor(radius, sweep));
  return writer.spine(false);
}

/**
 * The arc from point to point that bulges to the left of the way by `bend` times half the chord: 1 is a half circle, 0 the
 * chord itself, below 0 it bulges to the right.
 */
export function chordArcSpine(from: Point, to: Point, bend: number): Spine {
  const half = distance(from, to) / 2;
  if (Math.abs(bend) < 1e-4 || half === 0) return lineSpine(from, to);
  const rise = bend * half;
  const radius = (half * half + rise * rise) / (2 * rise);
  // Left of the way, with y down.
  const [nx, ny] = [(to.y - from.y) / (2 * half), -(to.x - from.x) / (2 * half)];
  const middle = between(from, to, 0.5);
  const centre = { x: middle.x + nx * (rise - radius), y: middle.y + ny * (rise - radius) };
  const start = Math.atan2(from.y - centre.y, from.x - centre.x);
  return arcSpine(centre, Math.abs(radius), start, 4 * Math.atan(bend));
}

/** A rectangle between two corners; `rounding` is the radius of its corners, as far as it has room. */
export function rectSpine(a: Point, b: Point, rounding = 0): Spine {
  const [minX, maxX] = [Math.min(a.x, b.x), Math.max(a.x, b.x)];
  const [minY, maxY] = [Math.min(a.y, b.y), Math.max(a.y, b.y)];
  const r = Math.min(rounding, (maxX - minX) / 2, (maxY - minY) / 2);
  if (!(r > 0))
    return polylineSpine(
      [
        { x: minX, y: minY },
        { x: maxX, y: minY },
        { x: maxX, y: maxY },
        { x: minX, y: maxY },
      ],
      true,
    );
  const writer = new CourseWriter({ x: minX + r, y: minY });
  const corners = [
    { line: { x: maxX - r, y: minY }, centre: { x: maxX - r, y: minY + r } },
    { line: { x: maxX, y: maxY - r }, centre: { x: maxX - r, y: maxY - r } },
    { line: { x: minX + r, y: maxY }, centre: { x: minX + r, y: maxY - r } },
    { line: { x: minX, y: minY + r }, centre: { x: minX + r, y: minY + r } },
  ];
  corners.forEach(({ line, centre }, k) => {
    writer.line(line);
    writer.arc({ centre, rx: r, ry: r }, ((k - 1) * Math.PI) / 2, Math.PI / 2, piecesFor(r, Math.PI / 2));
  });
  return writer.spine(true);
}

/** Points on a circle, the first at `turn` radians. */
const around = (centre: Point, radius: number, count: number, turn: number): Point[] =>
  Array.from({ length: count }, (_, k) => ({
    x: centre.x + radius * Math.cos(turn + (2 * Math.PI * k) / count),
    y: centre.y + radius * Math.sin(turn + (2 * Math.PI * k) / count),
  }));

const cornersOf = (count: number): number => Math.min(CORNERS.most, Math.max(CORNERS.fewest, Math.round(count)));

/** A regular polygon of 3 to 64 corners, the first at `turn` radians. */
export const polygonSpine = (centre: Point, radius: number, corners: number, turn = -Math.PI / 2): Spine =>
  polylineSpine(around(centre, radius, cornersOf(corners), turn), true);

/** A star of 3 to 64 points, the first at `turn` radians; `inner` is the share of the radius at which its notches lie. */
export function starSpine(centre: Point, radius: number, points: number, inner: number, turn = -Math.PI / 2): Spine {
  const count = cornersOf(points);
  const tips = around(centre, radius, count, turn);
  const notches = around(centre, radius * inner, count, turn + Math.PI / count);
  return polylineSpine(
    tips.flatMap((tip, k) => [tip, notches[k]]),
    true,
  );
}
