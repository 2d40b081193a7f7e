import type { Point } from '../math';
import type { Coverage } from './coverage';
import { squaredDistances } from './distance';

/** The widest gap that can be closed, px of the coverage. */
export const WIDEST_GAP = 32;
/** How far distances are told: half of that and more. */
const REACH = WIDEST_GAP / 2 + 4;
/** Half-widths from which everything hangs together whatever the gap. */
const WIDE = (WIDEST_GAP + 2.5) / 2;

/** A place where two basins meet: colour would run through it. */
export interface Opening {
  /** Its basins. */
  readonly a: number;
  readonly b: number;
  /** Its middle, px of the coverage. */
  x: number;
  y: number;
  /** How wide it is, px of the coverage. */
  width: number;
  /** The two places of the ink that it lies between, where they are known, px of the coverage. */
  ends?: readonly [Point, Point];
}

/** Open px in rooms, whatever the gap. */
export interface Basins {
  readonly coverage: Coverage;
  /** The basin of each px, from 1; 0 for ink. */
  readonly labels: Int32Array;
  /** By basin: the half-width of its widest place, px, and how many px it has. */
  readonly peaks: Float32Array;
  readonly areas: Int32Array;
  /** By basin, four numbers each: the first and last column and row that it reaches. */
  readonly boxes: Int32Array;
  readonly openings: readonly Opening[];
}

/** Tells how wide an opening is exactly, and between which places, about its middle (px of the coverage). */
export type ExactWidth = (
  middle: Point,
  about: number,
) => { readonly middle: Point; readonly ends: readonly [Point, Point] } | undefined;

/** Two basins that meet at half-width `s` are one room unless both are clearly wider than that. */
export const isOneRoom = (lowerPeak: number, s: number): boolean => lowerPeak <= 1.6 * s + 0.8;

/** Px that are worked on between two breaths. */
const PART = 1 << 20;

/**
 * Parts open px into basins: those that a wide ball can go between hang together, all others are taken in falling distance
 * from the ink and belong to the basin that they touch. Where two meet that are not one room there is an opening. Yields the
 * share that is done.
 */
export function* basinsOf(coverage: Coverage, exactWidth?: ExactWidth): Generator<number, Basins> {
  const { width, height } = coverage;
  const distances = squaredDistances(coverage, REACH);
  yield 0.3;
  const labels = new Int32Array(width * height);
  const flood = new Flood(labels, width, height);
  const wide = Math.ceil((WIDE + 0.5) ** 2);
  yield* flood.takeWide(distances, wide);
  yield 0.5;
  const order = byDistance(distances, labels, wide);
  const halfWidths = Float64Array.from({ length: wide }, (_, square) => Math.sqrt(square) - 0.5);
  for (let k = 0; k < order.length; k++) {
    if (k % PART === PART - 1) yield 0.5 + (0.45 * k) / order.length;
    const at = order[k];
    flood.take(at, halfWidths[distances[at]]);
  }
  const openings = flood.openings();
  if (exactWidth)
    for (const [k, opening] of openings.entries()) {
      if (k % 256 === 255) yield 0.95;
      const found = exactWidth({ x: opening.x + 0.5, y: opening.y + 0.5 }, opening.width);
      if (!found) continue;
      const [p, q] = found.ends;
      Object.assign(opening, { ...found.middle, width: Math.hypot(p.x - q.x, p.y - q.y), ends: found.ends });
    }
  else for (const opening of openings) Object.assign(opening, { x: opening.x + 0.5, y: opening.y + 0.5 });
  return { coverage, labels, ...flood.basins(), openings };
}

/** Px that belong to no basin yet, the farthest from ink first. */
function byDistance(distances: Uint16Array, labels: Int32Array, below: number): Int32Array {
  const counts = new Int32Array(below + 1);
  for (let i = 0; i < distances.length; i++) if (distances[i] > 0 && labels[i] === 0) counts[distances[i]]++;
  const starts = new Int32Array(below + 1);
  for (let d = below - 1; d >= 0; d--) starts[d] = starts[d + 1] + counts[d + 1];
  const order = new Int32Array(starts[0] + counts[0]);
  for (let i = 0; i < distances.length; i++) if (distances[i] > 0 && labels[i] === 0) order[starts[distances[i]]++] = i;
  return order;
}

/** Basins while they grow. */
class Flood {
  private readonly parents: number[] = [0];
  private readonly peaks: number[] = [0];
  private readonly found: Opening[] = [];
  /** The opening that a px on the border of two basins belongs to. */
  private readonly contacts = new Map<number, Opening[]>();

  constructor(
    private readonly labels: Int32Array,
    private readonly width: number,
    private readonly height: number,
  ) {}

  /** Whatever lies farther from ink than any gap reaches, each part that hangs together as a basin (four neighbours). */
  *takeWide(distances: Uint16Array, wide: number): Generator<number, void> {
    const { labels, width } = this;
    const stack: number[] = [];
    for (let start = 0; start < distances.length; start++) {
      if (start % PART === PART - 1) yield 0.3 + (0.2 * start) / distances.length;
      if (distances[start] < wide || labels[start] !== 0) continue;
      const basin = this.begin(WIDE);
      const spread = (from: number) => {
        // A run of a row at once.
        const rowStart = from - (from % width);
        let a = from;
        while (a > rowStart && distances[a - 1] >= wide && labels[a - 1] === 0) a--;
        let b = from;
        while (b + 1 < rowStart + width && distances[b + 1] >= wide && labels[b + 1] === 0) b++;
        labels.fill(basin, a, b + 1);
        for (const step of [-width, width]) {
          let isRun = false;
          for (let i = a + step; i <= b + step; i++) {
            const isOpen = i >= 0 && i < distances.length && distances[i] >= wide && labels[i] === 0;
            if (isOpen && !isRun) stack.push(i);
            isRun = isOpen;
          }
        }
      };
      spread(start);
      for (let from = stack.pop(); from !== undefined; from = stack.pop()) if (labels[from] === 0) spread(from);
    }
  }

  /** A px at half-width `s`: it goes to a basin beside it, or is the middle of a new one. */
  take(at: number, s: number): void {
    const { labels, width, height } = this;
    const x = at % width;
    // Most px touch one basin alone.
    let own = x > 0 ? labels[at - 1] : 0;
    const right = x < width - 1 ? labels[at + 1] : 0;
    const above = at >= width ? labels[at - width] : 0;
    const below = at < width * (height - 1) ? labels[at + width] : 0;
    if (right !== 0 && right !== own) own = own === 0 ? right : this.oneOf(own, right, at, s);
    if (above !== 0 && above !== own) own = own === 0 ? above : this.oneOf(own, above, at, s);
    if (below !== 0 && below !== own) own = own === 0 ? below : this.oneOf(own, below, at, s);
    labels[at] = own === 0 ? this.begin(s) : own;
  }

  /** The basin of a px between two, which may be the same under another name. */
  private oneOf(one: number, other: number, at: number, s: number): number {
    const [a, b] = [this.root(one), this.root(other)];
    return a === b ? a : this.meet(a, b, at, s);
  }

  /** Two basins meet at a px. Answers the one that it belongs to. */
  private meet(a: number, b: number, at: number, s: number): number {
    const { peaks } = this;
    const [high, low] = peaks[a] >= peaks[b] ? [a, b] : [b, a];
    if (isOneRoom(peaks[low], s)) {
      this.parents[low] = high;
      return high;
    }
    this.open(a, b, at, s);
    return high;
  }

  private open(a: number, b: number, at: number, s: number): void {
    const { width, contacts } = this;
    for (let dy = -2; dy <= 2; dy++)
      for (let dx = -2; dx <= 2; dx++)
        for (const opening of contacts.get(at + dy * width + dx) ?? []) {
          const [p, q] = [this.root(opening.a), this.root(opening.b)];
          if ((p === a && q === b) || (p === b && q === a)) {
            this.note(at, opening);
            return;
          }
        }
    const opening: Opening = { a, b, x: at % width, y: Math.floor(at / width), width: 2 * s };
    this.found.push(opening);
    this.note(at, opening);
  }

  private note(at: number, opening: Opening): void {
    const known = this.contacts.get(at);
    if (known) known.push(opening);
    else this.contacts.set(at, [opening]);
  }

  private begin(peak: number): number {
    const { parents, peaks } = this;
    parents.push(parents.length);
    peaks.push(peak);
    return parents.length - 1;
  }

  private root(label: number): number {
    const { parents } = this;
    let root = label;
    while (parents[root] !== root) root = parents[root];
    while (parents[label] !== root) [parents[label], label] = [root, parents[label]];
    return root;
  }

  /** Numbers basins from 1 on, and says of each how wide and how large it is. */
  basins(): Pick<Basins, 'peaks' | 'areas' | 'boxes'> {
    const { labels, parents, width, height } = this;
    const peaks = Float32Array.from([0, ...this.names.map((root) => this.peaks[root])]);
    const areas = new Int32Array(peaks.length);
    const numbers = Int32Array.from(parents, (_, label) => this.numbers.get(this.root(label)) ?? 0);
    const boxes = new Int32Array(4 * peaks.length);
    for (let k = 0; k < boxes.length; k += 4) boxes.set([width, height, -1, -1], k);
    for (let y = 0, i = 0; y < height; y++)
      for (let x = 0; x < width; x++, i++) {
        const number = numbers[labels[i]];
        labels[i] = number;
        areas[number]++;
        const k = 4 * number;
        if (x < boxes[k]) boxes[k] = x;
        if (y < boxes[k + 1]) boxes[k + 1] = y;
        if (x > boxes[k + 2]) boxes[k + 2] = x;
        if (y > boxes[k + 3]) boxes[k + 3] = y;
      }
    areas[0] = 0;
    return { peaks, areas, boxes };
  }

  private readonly names: number[] = [];
  private readonly numbers = new Map<number, number>();

  openings(): Opening[] {
    for (let label = 1; label < this.parents.length; label++)
      if (this.parents[label] === label) {
        this.names.push(label);
        this.numbers.set(label, this.names.length);
      }
    return this.found.flatMap((opening) => {
      const [a, b] = [opening.a, opening.b].map((label) => this.numbers.get(this.root(label)) ?? 0);
      return a === b ? [] : [{ ...opening, a, b }];
    });
  }
}
