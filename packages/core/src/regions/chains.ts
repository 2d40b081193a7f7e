import { evenlyWide, fitSpine, makeSpine, reversedSpine, SEGMENT, STRIDE, type Spine } from '../curve';
import type { Point } from '../math';
import type { Patch } from './spread';

/** Times that the steps of a border are evened out, and how far its curve may stray from that, px. */
const PASSES = 10;
const STRAY = 0.5;

/** A border between two regions, from one place where three meet to the next, or all round. */
interface Chain {
  readonly vertices: readonly number[];
  readonly isRing: boolean;
}

/**
 * The borders of what has one number in a patch, as closed curves in px of the patch's raster; holes wind the other way. What
 * lies on either side of a border gets the very same curve, so that neighbours neither part nor overlap.
 */
export function ringsOfLabel(patch: Patch, label: number): Spine[] {
  return traced(patch, label).map((ring) => joined(chainsOf(patch, ring).map((chain) => curveOf(patch, chain))));
}

/** Borders as rings of corners of px: the number lies on the right hand, seen with y down. */
function traced({ width, height, labels }: Patch, label: number): number[][] {
  const across = width + 1;
  const at = (x: number, y: number) => (x < 0 || y < 0 || x >= width || y >= height ? -1 : labels[y * width + x]);
  /** From each corner the corners that a border goes on to. */
  const next = new Map<number, number[]>();
  const add = (from: number, to: number) => {
    const known = next.get(from);
    if (known) known.push(to);
    else next.set(from, [to]);
  };
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      if (labels[y * width + x] !== label) continue;
      const corner = y * across + x;
      if (at(x, y - 1) !== label) add(corner, corner + 1);
      if (at(x + 1, y) !== label) add(corner + 1, corner + 1 + across);
      if (at(x, y + 1) !== label) add(corner + 1 + across, corner + across);
      if (at(x - 1, y) !== label) add(corner + across, corner);
    }
  const rings: number[][] = [];
  for (const [start, ways] of next)
    while (ways.length > 0) {
      const ring = [start];
      let from = start;
      let to = ways.pop();
      while (to !== undefined && to !== start) {
        ring.push(to);
        const step: number = to - from;
        const choices: number[] = next.get(to) ?? [];
        // Where two corners of px touch, the border turns right: px that touch by corners alone do not hang together.
        const right = choices.indexOf(to + turnedRight(step, across));
        from = to;
        to = choices.splice(right >= 0 ? right : choices.length - 1, 1)[0];
      }
      rings.push(ring);
    }
  return rings;
}

/** A step from corner to corner, turned right, seen with y down. */
function turnedRight(step: number, across: number): number {
  if (step === 1) return across;
  if (step === across) return -1;
  return step === -1 ? -across : 1;
}

/** A ring in parts, each between two regions alone. */
function chainsOf(patch: Patch, ring: readonly number[]): Chain[] {
  const nodes = ring.flatMap((vertex, k) => (isNode(patch, vertex) ? [k] : []));
  if (nodes.length === 0) return [{ vertices: fromLowest(ring), isRing: true }];
  return nodes.map((start, k) => {
    const end = nodes[(k + 1) % nodes.length];
    const length = end > start ? end - start : end - start + ring.length;
    return { vertices: Array.from({ length: length + 1 }, (_, i) => ring[(start + i) % ring.length]), isRing: false };
  });
}

const fromLowest = (ring: readonly number[]): number[] => {
  const lowest = ring.reduce((best, vertex, k) => (vertex < ring[best] ? k : best), 0);
  return [...ring.slice(lowest), ...ring.slice(0, lowest)];
};

/** Whether three regions meet at a corner, or two cross there, or it is a corner of the raster. */
function isNode({ width, height, labels }: Patch, vertex: number): boolean {
  const across = width + 1;
  const [x, y] = [vertex % across, Math.floor(vertex / across)];
  const at = (u: number, v: number) => (u < 0 || v < 0 || u >= width || v >= height ? -1 : labels[v * width + u]);
  const [a, b, c, d] = [at(x - 1, y - 1), at(x, y - 1), at(x, y), at(x - 1, y)];
  const count = new Set([a, b, c, d]).size;
  return count > 2 || (count === 2 && a === c && b === d) || ((x === 0 || x === width) && (y === 0 || y === height));
}

/** A border as a curve in px of the raster, the way it was traced: fitted the same way round from either side. */
function curveOf(patch: Patch, { vertices, isRing }: Chain): Spine {
  const isForward = isRing ? vertices[1] < vertices[vertices.length - 1] : isAscending(vertices);
  const ordered = isForward
    ? vertices
    : isRing
      ? [vertices[0], ...vertices.slice(1).reverse()]
      : [...vertices].reverse();
  const points = evened(placesOf(patch, ordered, isRing), isRing);
  const spine = fitSpine(isRing ? [...points, points[0]] : points, STRAY);
  return isForward ? spine : reversedSpine(spine);
}

function isAscending(vertices: readonly number[]): boolean {
  const [first, last] = [vertices[0], vertices[vertices.length - 1]];
  if (first !== last) return first < last;
  return vertices[1] <= vertices[vertices.length - 2];
}

/** The middles between corners, which step less, with the very ends. */
function placesOf({ x, y, width }: Patch, vertices: readonly number[], isRing: boolean): Point[] {
  const across = width + 1;
  const corners = vertices.map((vertex) => ({ x: x + (vertex % across), y: y + Math.floor(vertex / across) }));
  const middles = corners.flatMap((corner, k) => {
    const other = corners[(k + 1) % corners.length];
    return k + 1 < corners.length || isRing ? [{ x: (corner.x + other.x) / 2, y: (corner.y + other.y) / 2 }] : [];
  });
  return isRing ? middles : [corners[0], ...middles, corners[corners.length - 1]];
}

/** Places of which each is a mean of itself and its neighbours (1 2 1), some times; ends stay. */
function evened(places: readonly Point[], isRing: boolean): Point[] {
  let points = [...places];
  const count = points.length;
  if (count < 4) return points;
  for (let pass = 0; pass < PASSES; pass++) {
    const old = points;
    points = old.map((p, k) => {
      if (!isRing && (k === 0 || k === count - 1)) return p;
      const [a, b] = [old[(k + count - 1) % count], old[(k + 1) % count]];
      return { x: (a.x + 2 * p.x + b.x) / 4, y: (a.y + 2 * p.y + b.y) / 4 };
    });
  }
  return points;
}

/** Curves that follow one another as one ring without a weight. */
function joined(curves: readonly Spine[]): Spine {
  const total = curves.reduce((sum, { points }) => sum + points.length - STRIDE, STRIDE);
  const points = new Float64Array(Math.max(total, SEGMENT + STRIDE));
  let end = 0;
  for (const curve of curves) {
    points.set(curve.points, end);
    end += curve.points.length - STRIDE;
  }
  // It ends on the very numbers that it began with.
  points.set(points.subarray(0, STRIDE), points.length - STRIDE);
  return evenlyWide(makeSpine(points, true), 0);
}
