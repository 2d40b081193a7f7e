import type { Spine } from '../curve';
import { onPage, regionCount, type RegionMap } from './regionMap';
import { ringsOnPage } from './pour';
import { spreadUnder, type Under } from './spread';
import type { Point } from '../math';

/** Which regions lie beside one another, and along how many px. */
export type Neighbours = ReadonlyMap<number, ReadonlyMap<number, number>>;

export interface FlatSettings {
  readonly under: Under;
  /** Regions of fewer px of the coverage join their largest neighbour. */
  readonly least: number;
}

/** A region of a page that is flatted. */
export interface Flat {
  readonly region: number;
  readonly rings: readonly Spine[];
  /** A place within it, page px. */
  readonly at: Point;
  readonly area: number;
}

export interface FlattedPage {
  readonly flats: readonly Flat[];
  readonly neighbours: Neighbours;
}

/**
 * Every region of a page as a flat, the small ones joined to others; they meet under the middle of the lines. `isKept` leaves
 * out regions that are poured already. Yields the share that is done.
 */
export function* flatPage(
  map: RegionMap,
  { under, least }: FlatSettings,
  isKept: (region: number) => boolean = () => false,
): Generator<number, FlattedPage> {
  const { coverage, labels } = map.basins;
  const whole = { x: 0, y: 0, width: coverage.width, height: coverage.height };
  const spread = spreadUnder(map, whole, under);
  yield 0.4;
  const joined = joinSmall(map, neighboursIn(spread.labels, whole.width), least, isKept);
  const meant = spread.labels.map((region) => joined[region]);
  const patch = { ...whole, labels: meant };
  yield 0.5;
  const seeds = new Int32Array(regionCount(map) + 1).fill(-1);
  const totals = new Float64Array(seeds.length);
  for (let i = 0; i < labels.length; i++) {
    const region = joined[map.regionOf[labels[i]]];
    if (region === 0) continue;
    totals[region]++;
    if (seeds[region] < 0 && map.regionOf[labels[i]] === region) seeds[region] = i;
  }
  const flats: Flat[] = [];
  const tracing = tracedIn(patch);
  for (let region = 1; region < seeds.length; region++) {
    if (joined[region] !== region || isKept(region) || seeds[region] < 0) continue;
    if (region % 64 === 0) yield 0.5 + (0.5 * region) / seeds.length;
    const box = tracing.get(region);
    if (!box) continue;
    const rings = ringsOnPage(map, cut(patch, box), region);
    const at = onPage(map, {
      x: (seeds[region] % whole.width) + 0.5,
      y: Math.floor(seeds[region] / whole.width) + 0.5,
    });
    flats.push({ region, rings, at, area: totals[region] });
  }
  return { flats, neighbours: neighboursIn(meant, whole.width) };
}

type Raster = {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly labels: Int32Array;
};

/** The columns and rows that each number reaches. */
function tracedIn({ width, labels }: Raster): Map<number, [number, number, number, number]> {
  const boxes = new Map<number, [number, number, number, number]>();
  for (let i = 0; i < labels.length; i++) {
    const label = labels[i];
    if (label === 0) continue;
    const [x, y] = [i % width, Math.floor(i / width)];
    const box = boxes.get(label);
    if (!box) boxes.set(label, [x, y, x, y]);
    else {
      if (x < box[0]) box[0] = x;
      if (x > box[2]) box[2] = x;
      if (y > box[3]) box[3] = y;
    }
  }
  return boxes;
}

/** A part of a raster with a px round it, as far as there is one: borders are told by what lies beyond them. */
function cut(
  { width, height, labels }: Raster,
  [minX, minY, maxX, maxY]: readonly [number, number, number, number],
): Raster {
  const [x, y] = [Math.max(0, minX - 1), Math.max(0, minY - 1)];
  const [u, v] = [Math.min(width - 1, maxX + 1), Math.min(height - 1, maxY + 1)];
  const part = new Int32Array((u - x + 1) * (v - y + 1));
  for (let row = y; row <= v; row++)
    part.set(labels.subarray(row * width + x, row * width + u + 1), (row - y) * (u - x + 1));
  return { x, y, width: u - x + 1, height: v - y + 1, labels: part };
}

/** Which numbers of a raster lie beside one another. */
export function neighboursIn(labels: Int32Array, width: number): Neighbours {
  const all = new Map<number, Map<number, number>>();
  const count = (a: number, b: number) => {
    const own = all.get(a) ?? new Map<number, number>();
    own.set(b, (own.get(b) ?? 0) + 1);
    all.set(a, own);
  };
  for (let i = 0; i < labels.length; i++) {
    const a = labels[i];
    if (a === 0) continue;
    if (!all.has(a)) all.set(a, new Map());
    const right = (i + 1) % width === 0 ? 0 : labels[i + 1];
    const below = i + width < labels.length ? labels[i + width] : 0;
    for (const b of [right, below])
      if (b !== 0 && b !== a) {
        count(a, b);
        count(b, a);
      }
  }
  return all;
}

/** By region: the one that it is a part of. The small ones join outward from the large, along the longest border. */
function joinSmall(
  { areas }: RegionMap,
  neighbours: Neighbours,
  least: number,
  isKept: (region: number) => boolean,
): Int32Array {
  const meant = Int32Array.from(areas, (_, region) => region);
  const isLarge = (region: number) => areas[region] >= least || isKept(region);
  let edge = [...meant].filter((region) => region > 0 && isLarge(region) && !isKept(region));
  const settled = new Set([...meant].filter((region) => region === 0 || isLarge(region)));
  while (edge.length > 0) {
    const next = new Map<number, { readonly to: number; readonly along: number }>();
    for (const region of edge)
      for (const [beside, along] of neighbours.get(region) ?? []) {
        if (settled.has(beside) || along <= (next.get(beside)?.along ?? 0)) continue;
        next.set(beside, { to: meant[region], along });
      }
    for (const [region, { to }] of next) {
      meant[region] = to;
      settled.add(region);
    }
    edge = [...next.keys()];
  }
  return meant;
}

/**
 * A number from 0 for each region so that no two neighbours have the same: the fewest neighbours last, so that a plane map takes
 * six at most (Matula & Beck 1983). `given` are numbers that are there already.
 */
export function colourRegions(
  neighbours: Neighbours,
  given: ReadonlyMap<number, number> = new Map(),
): Map<number, number> {
  const degrees = new Map([...neighbours].map(([region, beside]) => [region, beside.size]));
  const buckets: Set<number>[] = [];
  const put = (region: number, degree: number) => (buckets[degree] ??= new Set()).add(region);
  for (const [region, degree] of degrees) put(region, degree);
  const order: number[] = [];
  while (order.length < neighbours.size) {
    const degree = buckets.findIndex((bucket) => bucket !== undefined && bucket.size > 0);
    const [region] = buckets[degree];
    buckets[degree].delete(region);
    degrees.delete(region);
    order.push(region);
    for (const [beside] of neighbours.get(region) ?? []) {
      const left = degrees.get(beside);
      if (left === undefined) continue;
      buckets[left].delete(beside);
      degrees.set(beside, left - 1);
      put(beside, left - 1);
    }
  }
  const colours = new Map(given);
  for (const region of order.reverse()) {
    if (colours.has(region)) continue;
    const taken = new Set([...(neighbours.get(region)?.keys() ?? [])].map((beside) => colours.get(beside)));
    let colour = 0;
    while (taken.has(colour)) colour++;
    colours.set(region, colour);
  }
  return colours;
}
