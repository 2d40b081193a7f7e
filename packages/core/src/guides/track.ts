import type { EllipsePath, LinePath } from '../curve';
import { clamp, type Point } from '../math';
import { ellipseSlope, nearestOnEllipse, onEllipse } from './ellipse';

/**
 * A path made ready to be ridden. Its measure rises along it, in about page px: the length of a line, the eccentric angle
 * times the larger half axis, the length of a curve cubic by cubic.
 */
export interface Track {
  /** After so much measure it comes round to where it was; 0 for a path with ends. */
  readonly period: number;
  readonly from: number;
  readonly to: number;
  place(at: number): Point;
  /** The direction in which the measure rises, a unit vector. */
  direction(at: number): Point;
  /** The measure nearest to `p`; near `near`, within `window`, where that is given. */
  nearest(p: Point, near?: number, window?: number): number;
  /** Measures between `from` and `to` where a cubic must end, rising. */
  breaks(from: number, to: number): number[];
  /** The x, y of the four control points of the cubic between two neighbouring measures. */
  cubic(from: number, to: number): Float64Array;
}

/** The track of a straight line: its measure is the length along it. */
export function lineTrack({ x, y, dx, dy, from = -Infinity, to = Infinity }: LinePath): Track {
  const place = (at: number): Point => ({ x: x + at * dx, y: y + at * dy });
  return {
    period: 0,
    from,
    to,
    place,
    direction: () => ({ x: dx, y: dy }),
    nearest: (p) => clamp((p.x - x) * dx + (p.y - y) * dy, from, to),
    breaks: () => [],
    cubic: (a, b) => {
      const points = new Float64Array(8);
      for (let k = 0; k < 4; k++) {
        const at = a + ((b - a) * k) / 3;
        points[2 * k] = x + at * dx;
        points[2 * k + 1] = y + at * dy;
      }
      return points;
    },
  };
}

/** Page px that the cubics of an arc may stray from it: well under the 0.05 px that riding promises. */
const ARC_TOLERANCE = 0.01;
/** How far four cubics stray from a circle, as a share of its radius; the sixth power of the angle tells of smaller arcs. */
const QUARTER_ERROR = 2.73e-4;

/** The track of an ellipse: its measure is the eccentric angle times the larger half axis. */
export function ellipseTrack(ellipse: EllipsePath): Track {
  const unit = Math.max(ellipse.rx, ellipse.ry);
  const period = 2 * Math.PI * unit;
  const quarter = Math.PI / 2;
  const arc = Math.min(quarter, quarter * (ARC_TOLERANCE / (QUARTER_ERROR * unit)) ** (1 / 6));
  const step = quarter / Math.ceil(quarter / arc - 1e-9);
  return {
    ...{ period, from: -Infinity, to: Infinity },
    place: (at) => onEllipse(ellipse, at / unit),
    direction: (at) => unitVector(ellipseSlope(ellipse, at / unit)),
    nearest: (p, near) => unwrapped(nearestOnEllipse(ellipse, p) * unit, period, near),
    breaks: (from, to) => multiples(from / unit, to / unit, step).map((angle) => angle * unit),
    cubic: (from, to) => {
      const [a, b] = [from / unit, to / unit];
      const reach = (4 / 3) * Math.tan((b - a) / 4);
      const [p, q] = [onEllipse(ellipse, a), onEllipse(ellipse, b)];
      const [u, v] = [ellipseSlope(ellipse, a), ellipseSlope(ellipse, b)];
      return Float64Array.of(
        ...[p.x, p.y, p.x + reach * u.x, p.y + reach * u.y],
        ...[q.x - reach * v.x, q.y - reach * v.y, q.x, q.y],
      );
    },
  };
}

/** Whole multiples of `step` strictly between two values. */
function multiples(from: number, to: number, step: number): number[] {
  const found: number[] = [];
  for (let k = Math.floor(from / step + 1e-9) + 1; k * step < to - 1e-9 * step; k++) found.push(k * step);
  return found;
}

/** The value that is `value` but for whole periods and lies nearest to `near`. */
export function unwrapped(value: number, period: number, near: number | undefined): number {
  return near === undefined ? value : value + period * Math.round((near - value) / period);
}

export function unitVector({ x, y }: Point): Point {
  const length = Math.hypot(x, y) || 1;
  return { x: x / length, y: y / length };
}
