import { distance, hullOf, pointToLeg, ringArea, ringPoints, type Point } from '../math';
import type { Quad } from '../select';
import type { Picture } from './paper';

/** Px of the long side of the small picture in which the sheet is looked for. */
const SMALL = 360;
/** Px of the long side of the one in which its edges are measured. */
const FINE = 1_600;
/** Px of the small picture by which dark lines on the sheet are closed: they would part it. */
const LINE = 4;
/** Steps of brightness that are tried for where paper ends. */
const STEPS = 14;
/** A sheet takes up this share of the picture at least, and its outline fills its corners at least so far. */
const LEAST_SHARE = 0.12;
const LEAST_FILL = 0.93;
/** Places along an edge of the sheet that are measured, and how far to either side, as a share of the long side. */
const PLACES = 120;
const REACH = 0.016;

/** One number for each px, the higher the more it looks like paper. */
interface Field {
  readonly width: number;
  readonly height: number;
  readonly value: Float32Array;
  /** Px of the picture to one of these. */
  readonly by: number;
}

/**
 * The corners of a sheet of paper in a photo, from its upper left one clockwise, px of the picture; nothing where none is
 * found, as in a scan that is paper all over. What is bright and has little colour is parted from the rest at many
 * brightnesses; the best outline with four straight sides wins, and each side is then put where brightness changes most, by
 * the line that most of its places agree on.
 */
export function sheetCorners(picture: Picture): Quad | undefined {
  const small = closed(fieldOf(picture, SMALL));
  let best: { readonly quad: Quad; readonly score: number } | undefined;
  const [low, high] = rangeOf(small.value);
  for (let step = 1; step < STEPS; step++) {
    const found = outlineFrom(small, low + ((high - low) * step) / STEPS);
    if (!found) continue;
    const score = scoreOf(small, found.quad) * found.fill ** 4;
    if (!best || score > best.score) best = { quad: found.quad, score };
  }
  if (!best || best.score <= 0) return undefined;
  const fine = fieldOf(picture, FINE);
  const scale = small.by / fine.by;
  const quad = best.quad.map(({ x, y }) => ({ x: x * scale, y: y * scale }));
  const sides = quad.map((corner, k) => sideNear(fine, corner, quad[(k + 1) % 4]));
  const corners = sides.map((side, k) => {
    const before = sides[(k + 3) % 4];
    const place = (side && before && crossing(before, side)) ?? quad[k];
    const kept = distance(place, quad[k]) < 3 * REACH * FINE ? place : quad[k];
    return { x: kept.x * fine.by, y: kept.y * fine.by };
  });
  return fromUpperLeft(corners);
}

/** A picture made small, with how bright each px is less how much colour it has. */
function fieldOf({ width, height, data }: Picture, long: number): Field {
  const by = Math.max(1, Math.max(width, height) / long);
  const [w, h] = [Math.max(1, Math.floor(width / by)), Math.max(1, Math.floor(height / by))];
  const value = new Float32Array(w * h);
  const step = Math.max(1, Math.floor(by / 3));
  for (let y = 0, to = 0; y < h; y++)
    for (let x = 0; x < w; x++, to++) {
      let [sum, count] = [0, 0];
      for (let v = Math.floor(y * by); v < Math.min(height, (y + 1) * by); v += step)
        for (let u = Math.floor(x * by); u < Math.min(width, (x + 1) * by); u += step) {
          const i = 4 * (v * width + u);
          const [r, g, b] = [data[i], data[i + 1], data[i + 2]];
          const bright = 0.299 * r + 0.587 * g + 0.114 * b;
          sum += bright - 0.8 * (Math.max(r, g, b) - Math.min(r, g, b));
          count++;
        }
      value[to] = sum / Math.max(1, count);
    }
  return { width: w, height: h, value, by };
}

/** Without dark lines: each px as the brightest near it, then as the darkest of those (a morphological closing). */
function closed(field: Field): Field {
  const brightest = extreme(extreme(field, 1, true), 1, false);
  return extreme(extreme(brightest, -1, true), -1, false);
}

/** Each px as the greatest near it along rows or columns, or for −1 the least. */
function extreme({ width, height, value, by }: Field, sign: 1 | -1, isAcross: boolean): Field {
  const found = new Float32Array(value.length);
  const [count, step] = isAcross ? [width, 1] : [height, width];
  for (let i = 0; i < value.length; i++) {
    const at = isAcross ? i % width : Math.floor(i / width);
    let best = value[i];
    for (let k = -Math.min(LINE, at); k <= LINE && at + k < count; k++) {
      const other = value[i + k * step];
      if (sign * other > sign * best) best = other;
    }
    found[i] = best;
  }
  return { width, height, value: found, by };
}

function rangeOf(value: Float32Array): readonly [number, number] {
  const sorted = Float32Array.from(value).sort();
  return [sorted[Math.floor(0.02 * sorted.length)], sorted[Math.floor(0.98 * (sorted.length - 1))]];
}

/** The largest patch brighter than a level, its ink and holes filled by its hull, as a figure of four corners. */
function outlineFrom(
  { width, height, value }: Field,
  level: number,
): { readonly quad: Quad; readonly fill: number } | undefined {
  const seen = new Uint8Array(value.length);
  let largest: number[] = [];
  for (let i = 0; i < value.length; i++) {
    if (seen[i] || value[i] < level) continue;
    const patch = [i];
    seen[i] = 1;
    for (let head = 0; head < patch.length; head++) {
      const at = patch[head];
      const x = at % width;
      for (const next of [x > 0 ? at - 1 : -1, x + 1 < width ? at + 1 : -1, at - width, at + width])
        if (next >= 0 && next < value.length && !seen[next] && value[next] >= level) {
          seen[next] = 1;
          patch.push(next);
        }
    }
    if (patch.length > largest.length) largest = patch;
  }
  if (largest.length < LEAST_SHARE * value.length) return undefined;
  // Only the first and the last px of each row can lie on the hull.
  const rows = new Map<number, [number, number]>();
  for (const i of largest) {
    const [x, y] = [i % width, Math.floor(i / width)];
    const row = rows.get(y);
    if (!row) rows.set(y, [x, x]);
    else [row[0], row[1]] = [Math.min(row[0], x), Math.max(row[1], x)];
  }
  const edge = [...rows].flatMap(([y, [from, to]]) => [from, y, to + 1, y, from, y + 1, to + 1, y + 1]);
  const hull = hullOf(edge, 2);
  const quad = largestQuad(hull);
  if (!quad) return undefined;
  const area = Math.abs(ringArea(quad.flatMap(({ x, y }) => [x, y])));
  const whole = Math.abs(ringArea(hull));
  const covered = [...rows.values()].reduce((sum, [from, to]) => sum + to + 1 - from, 0);
  const fill = Math.min(area / whole, covered / whole);
  const isAll = area > 0.97 * width * height;
  return fill < LEAST_FILL || isAll ? undefined : { quad, fill };
}

/** The largest figure of four corners of a hull. */
function largestQuad(hull: Float64Array): Quad | undefined {
  const all = ringPoints(hull);
  const corners = thinnedOut(all, 28);
  const n = corners.length;
  if (n < 4) return undefined;
  let best: Quad | undefined;
  let most = 0;
  const area = (a: Point, b: Point, c: Point) => Math.abs((b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x)) / 2;
  for (let i = 0; i < n; i++)
    for (let k = i + 2; k < n; k++) {
      let [one, two] = [0, 0];
      let [p, q] = [corners[i], corners[k]];
      for (let j = i + 1; j < k; j++) {
        const own = area(corners[i], corners[j], corners[k]);
        if (own > one) [one, p] = [own, corners[j]];
      }
      for (let j = k + 1; j < n + i; j++) {
        const own = area(corners[i], corners[j % n], corners[k]);
        if (own > two) [two, q] = [own, corners[j % n]];
      }
      if (one > 0 && two > 0 && one + two > most) [most, best] = [one + two, [corners[i], p, corners[k], q]];
    }
  return best;
}

/** The corners of a hull that matter most: again and again the one goes that cuts off least. */
function thinnedOut(hull: readonly Point[], most: number): Point[] {
  const left = [...hull];
  while (left.length > most) {
    let [least, at] = [Infinity, 0];
    left.forEach((p, k) => {
      const [a, b] = [left[(k + left.length - 1) % left.length], left[(k + 1) % left.length]];
      const cut = Math.abs((p.x - a.x) * (b.y - a.y) - (p.y - a.y) * (b.x - a.x));
      if (cut < least) [least, at] = [cut, k];
    });
    left.splice(at, 1);
  }
  return left;
}

/** How much brighter it is inside than outside, for the worst side of a figure; sides along the edge of the picture count as even. */
function scoreOf(field: Field, quad: Quad): number {
  const middle = { x: quad.reduce((sum, { x }) => sum + x, 0) / 4, y: quad.reduce((sum, { y }) => sum + y, 0) / 4 };
  const steps = quad.map((from, k) => {
    const to = quad[(k + 1) % 4];
    const long = distance(from, to) || 1;
    let [nx, ny] = [-(to.y - from.y) / long, (to.x - from.x) / long];
    if ((middle.x - from.x) * nx + (middle.y - from.y) * ny < 0) [nx, ny] = [-nx, -ny];
    const answers: number[] = [];
    for (let k2 = 2; k2 <= 28; k2++) {
      const [x, y] = [from.x + ((to.x - from.x) * k2) / 30, from.y + ((to.y - from.y) * k2) / 30];
      const outside = valueAt(field, x - 4 * nx, y - 4 * ny);
      const inside = valueAt(field, x + 4 * nx, y + 4 * ny);
      if (outside !== undefined && inside !== undefined) answers.push(inside - outside);
    }
    // A side that the picture cuts off has nothing outside.
    return answers.length < 8 ? undefined : answers.sort((a, b) => a - b)[answers.length >> 2];
  });
  const told = steps.filter((step) => step !== undefined);
  return told.length < 3 ? 0 : Math.max(0, Math.min(...told));
}

function valueAt({ width, height, value }: Field, x: number, y: number): number | undefined {
  const [u, v] = [Math.floor(x), Math.floor(y)];
  return u < 0 || v < 0 || u >= width || v >= height ? undefined : value[v * width + u];
}

/** A line: a point of it and its direction. */
interface Side {
  readonly at: Point;
  readonly dx: number;
  readonly dy: number;
}

/** The straight edge near a side: where brightness changes most, at many places, and the line that most of them agree on. */
function sideNear(field: Field, from: Point, to: Point): Side | undefined {
  const reach = REACH * FINE;
  const long = distance(from, to);
  if (long < 4 * reach) return undefined;
  const [dx, dy] = [(to.x - from.x) / long, (to.y - from.y) / long];
  const [nx, ny] = [-dy, dx];
  const found: Point[] = [];
  for (let k = 0; k < PLACES; k++) {
    const along = long * (0.04 + (0.92 * (k + 0.5)) / PLACES);
    const [x, y] = [from.x + along * dx, from.y + along * dy];
    let [most, place] = [6, NaN];
    const step = (s: number) => {
      // A few px to either side, so that a grain of wood is no edge.
      let [one, two, count] = [0, 0, 0];
      for (let w = 1; w <= 4; w++) {
        const [a, b] = [
          valueAt(field, x + (s - w + 0.5) * nx, y + (s - w + 0.5) * ny),
          valueAt(field, x + (s + w - 0.5) * nx, y + (s + w - 0.5) * ny),
        ];
        if (a === undefined || b === undefined) continue;
        one += a;
        two += b;
        count++;
      }
      return count < 4 ? 0 : (two - one) / count;
    };
    for (let s = -reach; s <= reach; s += 0.5) {
      const size = Math.abs(step(s));
      if (size > most) [most, place] = [size, s];
    }
    if (!Number.isNaN(place)) found.push({ x: x + place * nx, y: y + place * ny });
  }
  if (found.length < PLACES / 4) return undefined;
  return agreed(found);
}

/** The line that most places agree on, then drawn through those by least squares; every pair of far places is asked. */
function agreed(places: readonly Point[]): Side | undefined {
  const within = 1.5;
  let best: Point[] = [];
  const half = places.length >> 1;
  for (let i = 0; i < half; i++)
    for (let k = half; k < places.length; k += 3) {
      const [a, b] = [places[i], places[k]];
      const long = distance(a, b);
      if (long < 20) continue;
      const on = places.filter(
        ({ x, y }) => Math.abs((x - a.x) * (b.y - a.y) - (y - a.y) * (b.x - a.x)) / long < within,
      );
      if (on.length > best.length) best = on;
    }
  if (best.length < 8) return undefined;
  const at = { x: 0, y: 0 };
  for (const { x, y } of best) {
    at.x += x / best.length;
    at.y += y / best.length;
  }
  let [xx, xy, yy] = [0, 0, 0];
  for (const { x, y } of best) {
    xx += (x - at.x) ** 2;
    xy += (x - at.x) * (y - at.y);
    yy += (y - at.y) ** 2;
  }
  const angle = Math.atan2(2 * xy, xx - yy) / 2;
  return { at, dx: Math.cos(angle), dy: Math.sin(angle) };
}

function crossing(one: Side, two: Side): Point | undefined {
  const d = one.dx * two.dy - one.dy * two.dx;
  if (Math.abs(d) < 0.05) return undefined;
  const s = ((two.at.x - one.at.x) * two.dy - (two.at.y - one.at.y) * two.dx) / d;
  return { x: one.at.x + s * one.dx, y: one.at.y + s * one.dy };
}

/** Corners clockwise, seen with y down, from the one nearest to the upper left. */
function fromUpperLeft(corners: readonly Point[]): Quad | undefined {
  const ringed = ringArea(corners.flatMap(({ x, y }) => [x, y])) < 0 ? [...corners].reverse() : [...corners];
  const first = ringed.reduce((best, { x, y }, k) => (x + y < ringed[best].x + ringed[best].y ? k : best), 0);
  const at = (k: number) => ringed[(first + k) % 4];
  const quad: Quad = [at(0), at(1), at(2), at(3)];
  const isFolded = quad.some(
    (corner, k) => pointToLeg(corner.x, corner.y, at(k + 1).x, at(k + 1).y, at(k + 2).x, at(k + 2).y) < 4,
  );
  return isFolded ? undefined : quad;
}
