import { SEGMENT, STRIDE, type Spine } from '../src/curve';
import { svgToDrawn } from '../src/formats';
import { seededRandom } from '../src/math';
import type { PenSample, Calm } from '../src/hand';
import type { Nib } from '../src/nib';
import { isKind } from '../src/page';
import { inkAsArea } from '../src/regions';
import type { Stroke, StrokeEntity } from '../src/stroke';

// Hands and nibs that several tests draw with.

export const liner: Nib = { name: 'Liner', size: 10, thinnest: 1, taperIn: 0, taperOut: 0, color: '#14161a' };
export const brush: Nib = { ...liner, name: 'Brush', size: 24, thinnest: 0.1 };
export const tapered: Nib = { ...liner, name: 'Tapered', size: 16, taperIn: 6, taperOut: 8 };
/** A line as it lies on a layer. */
/** The lines in an SVG. */
export const linesIn = (svg: string, nib: Nib): StrokeEntity[] =>
  svgToDrawn(svg, nib).filter((entity) => isKind(entity, 'stroke'));

export const laid = (stroke: Stroke, id = 's'): StrokeEntity => ({
  kind: 'stroke',
  id,
  layerId: 'inks',
  order: 'a0',
  ...stroke,
});

/** A line as a line that fills its outer edge: blots of old pages are such. */
export function asBlot<S extends Stroke>(line: S): S {
  const [spine] = inkAsArea(line).rings;
  const { edge: _edge, tip: _tip, profile: _profile, ...nib } = line.nib;
  const { origin: _gone, guide: _left, copy: _alone, grain: _grain, ...rest } = line;
  // Everything but these, which may be missing on any line, is still there.
  return { ...(rest as S), nib, spine, ends: ['round', 'round'], fills: true };
}

export const raw: Calm = { way: 'raw' };
export const even = (strength: number): Calm => ({ way: 'even', strength });

const steady = (_t: number): number => 0.6;

/** Samples along a course, `count` of them, shaken by up to `tremor` page px. */
export function drawn(
  course: (t: number) => readonly [number, number],
  { count = 120, tremor = 0, seed = 1, pressure = steady } = {},
): PenSample[] {
  const random = seededRandom(seed);
  return Array.from({ length: count }, (_, k) => {
    const t = k / (count - 1);
    const [x, y] = course(t);
    return {
      x: x + (random() - 0.5) * 2 * tremor,
      y: y + (random() - 0.5) * 2 * tremor,
      pressure: pressure(t),
      time: k * 8,
    };
  });
}

export const straight = (t: number) => [20 + 400 * t, 50 + 60 * t] as const;
export const wave = (t: number) => [20 + 500 * t, 200 + 80 * Math.sin(9 * t)] as const;
export const zigzag = (t: number) => [20 + 400 * t, 100 + 90 * Math.abs(((t * 6) % 2) - 1)] as const;
export const ring = (t: number) => [200 + 90 * Math.cos(6.2 * t), 200 + 90 * Math.sin(6.2 * t)] as const;

/** The area inside a closed polygon of x, y pairs (Gauss's area formula). */
export function areaOf(points: ArrayLike<number>): number {
  let twice = 0;
  for (let i = 0, j = points.length - 2; i < points.length; j = i, i += 2)
    twice += points[j] * points[i + 1] - points[i] * points[j + 1];
  return twice / 2;
}

/**
 * The greatest angle, radians, by which the edges of a line turn at nodes where its course goes on smoothly, for the width
 * alone; of a closed line also where it begins.
 */
export function edgeKinkOf({ points: p, closed }: Spine): number {
  const last = p.length - STRIDE;
  let worst = 0;
  for (let i = closed ? 0 : SEGMENT; i < last; i += SEGMENT) {
    const [before, node] = [(i || last) - STRIDE, i || last];
    const [ax, ay] = [p[node] - p[before], p[node + 1] - p[before + 1]];
    const [bx, by] = [p[i + 3] - p[i], p[i + 4] - p[i + 1]];
    const [a, b] = [Math.hypot(ax, ay), Math.hypot(bx, by)];
    if (ax * bx + ay * by < 0.9999 * a * b) continue;
    const widening = Math.abs((p[node + 2] - p[before + 2]) / a - (p[i + 5] - p[i + 2]) / b);
    worst = Math.max(worst, Math.atan(widening / 2));
  }
  return worst;
}
