import { fitSpine, flattenSpine } from '@true-nib/core/curve';
import type { Point } from '@true-nib/core/math';

/** One intended line of a drawing, before any hand has shaken it. Places in page px. */
export interface Mark {
  readonly points: readonly Point[];
  /** How heavy the line is meant to be, 1 for an outer contour. */
  readonly weight: number;
  /** Ink, pencil only, or a light construction line that is not part of the picture. */
  readonly as: 'ink' | 'pencil' | 'construction';
}

type Style = Pick<Mark, 'weight' | 'as'>;

/** Collects the marks of one drawing. */
export class Sketch {
  readonly marks: Mark[] = [];

  add(points: readonly Point[], style: Partial<Style> = {}): this {
    this.marks.push({ weight: 0.6, as: 'pencil', ...style, points });
    return this;
  }

  line(a: Point, b: Point, style?: Partial<Style>): this {
    return this.add([a, b], style);
  }

  /** A smooth line through the given places. */
  curve(through: readonly Point[], style?: Partial<Style>): this {
    return this.add(smooth(through), style);
  }

  ring(points: readonly Point[], style?: Partial<Style>): this {
    return this.add([...points, points[0], points[1] ?? points[0]], style);
  }

  /** An ellipse, or the arc of it from one angle to another, radians. */
  ellipse(centre: Point, rx: number, ry: number, style?: Partial<Style>, [from, to] = [0, 2 * Math.PI]): this {
    const steps = 48;
    const places = Array.from({ length: steps + 1 }, (_, k) => {
      const angle = from + ((to - from) * k) / steps;
      return { x: centre.x + rx * Math.cos(angle), y: centre.y + ry * Math.sin(angle) };
    });
    return this.add(places, style);
  }
}

/** A smooth way through places: a centripetal-like spline by fitting a dense Catmull–Rom course. */
export function smooth(through: readonly Point[]): Point[] {
  if (through.length < 3) return [...through];
  const dense: Point[] = [];
  for (let k = 0; k + 1 < through.length; k++) {
    const [a, b, c, d] = [through[k - 1] ?? through[k], through[k], through[k + 1], through[k + 2] ?? through[k + 1]];
    for (let step = 0; step < 16; step++) dense.push(catmullRom(a, b, c, d, step / 16));
  }
  dense.push(through[through.length - 1]);
  const line = flattenSpine(fitSpine(dense, 0.5), 0.4);
  return Array.from({ length: line.length / 3 }, (_, k) => ({ x: line[3 * k], y: line[3 * k + 1] }));
}

/** Catmull & Rom 1974, tension ½. */
function catmullRom(a: Point, b: Point, c: Point, d: Point, t: number): Point {
  const axis = (p: number, q: number, r: number, s: number) =>
    0.5 * (2 * q + (r - p) * t + (2 * p - 5 * q + 4 * r - s) * t * t + (3 * q - p - 3 * r + s) * t * t * t);
  return { x: axis(a.x, b.x, c.x, d.x), y: axis(a.y, b.y, c.y, d.y) };
}
