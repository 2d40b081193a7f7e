import { SAME_OPENING, isOneRoom, WIDE, WIDE_SQUARE } from './widths';

/** A place where two basins meet. */
export interface Saddle {
  readonly a: number;
  readonly b: number;
  /** The px where they meet first, and the squared distance of that from ink. */
  readonly at: number;
  readonly square: number;
  /** All px along which they meet. */
  readonly contacts: readonly number[];
}

/** A rectangle of a raster: from one px up to another that is no more in it. */
export interface Tile {
  readonly x0: number;
  readonly y0: number;
  readonly x1: number;
  readonly y1: number;
}

/** The basins of one tile, as if nothing were beyond it. */
export interface TileBasins extends Tile {
  /** They are numbered from this on; `room` numbers are kept for them. */
  readonly first: number;
  readonly room: number;
  /**
   * By basin: the half-width of its widest place, how many px it has, and four numbers each of the columns and rows that it
   * reaches.
   */
  readonly peaks: Float32Array;
  readonly areas: Int32Array;
  readonly boxes: Int32Array;
  readonly saddles: readonly Saddle[];
}

/** Open px of a coverage: how far each is from ink (see `squaredDistances`), and its basin. */
export interface Raster {
  readonly width: number;
  readonly height: number;
  readonly distances: Uint16Array;
  readonly labels: Int32Array;
}

/** Which numbers are free for so many basins. */
export type RoomFor = (count: number) => Pick<TileBasins, 'first' | 'room'>;

/** Half-widths by squared distances. */
const HALF_WIDTHS = Float64Array.from({ length: WIDE_SQUARE + 1 }, (_, square) =>
  square === WIDE_SQUARE ? WIDE : Math.sqrt(square) - 0.5,
);

export const halfWidthOf = (square: number): number => HALF_WIDTHS[square < WIDE_SQUARE ? square : WIDE_SQUARE];

/**
 * Parts the open px of a tile into basins and numbers them in `labels`: what a wide ball can go between hangs together, all else is
 * taken in falling distance from ink and belongs to the basin that it touches. Two that meet are one where that is certain whatever
 * lies beyond the tile; every other meeting is kept as a saddle. `roomFor` says which numbers are free.
 */
export function floodTile(raster: Raster, tile: Tile, roomFor: RoomFor): TileBasins {
  const flood = new Flood(raster, tile);
  flood.takeWide();
  flood.takeNarrow();
  return flood.finished(roomFor);
}

class Flood {
  private readonly parents: number[] = [0];
  private readonly peaks: number[] = [0];
  /** By basin: whether it reaches a border of the tile with something beyond, so that its widest place may lie there. */
  private readonly goesOn: boolean[] = [false];
  private readonly found: { a: number; b: number; at: number; square: number; contacts: number[] }[] = [];
  /** The saddles that a px on the border of two basins belongs to. */
  private readonly contacts = new Map<number, number[]>();
  private readonly labels: Int32Array;
  private readonly distances: Uint16Array;
  private readonly width: number;

  constructor(
    private readonly raster: Raster,
    private readonly tile: Tile,
  ) {
    this.labels = raster.labels;
    this.distances = raster.distances;
    this.width = raster.width;
    for (let y = tile.y0; y < tile.y1; y++) this.labels.fill(0, y * this.width + tile.x0, y * this.width + tile.x1);
  }

  /** Whatever lies farther from ink than any gap reaches, each part that hangs together as a basin (four neighbours). */
  takeWide(): void {
    const { labels, distances, width, tile } = this;
    const stack: number[] = [];
    for (let y = tile.y0; y < tile.y1; y++)
      for (let x = tile.x0; x < tile.x1; x++) {
        const start = y * width + x;
        if (distances[start] < WIDE_SQUARE || labels[start] !== 0) continue;
        const basin = this.begin(WIDE);
        stack.push(start);
        for (let from = stack.pop(); from !== undefined; from = stack.pop()) {
          if (labels[from] !== 0) continue;
          // A run of a row at once.
          const row = Math.floor(from / width);
          const rowStart = row * width;
          let a = from;
          while (a > rowStart + tile.x0 && distances[a - 1] >= WIDE_SQUARE && labels[a - 1] === 0) a--;
          let b = from;
          while (b + 1 < rowStart + tile.x1 && distances[b + 1] >= WIDE_SQUARE && labels[b + 1] === 0) b++;
          labels.fill(basin, a, b + 1);
          for (const step of [-width, width]) {
            if (step < 0 ? row === tile.y0 : row === tile.y1 - 1) continue;
            let isRun = false;
            for (let i = a + step; i <= b + step; i++) {
              const isOpen = distances[i] >= WIDE_SQUARE && labels[i] === 0;
              if (isOpen && !isRun) stack.push(i);
              isRun = isOpen;
            }
          }
        }
      }
  }

  takeNarrow(): void {
    const order = this.byDistance();
    const { distances } = this;
    for (const at of order) this.take(at, distances[at]);
  }

  /** Px that belong to no basin yet, the farthest from ink first. */
  private byDistance(): Int32Array {
    const { labels, distances, width, tile } = this;
    const starts = new Int32Array(WIDE_SQUARE + 1);
    const each = (visit: (at: number) => void) => {
      for (let y = tile.y0; y < tile.y1; y++)
        for (let at = y * width + tile.x0, end = y * width + tile.x1; at < end; at++)
          if (distances[at] > 0 && labels[at] === 0) visit(at);
    };
    let total = 0;
    each((at) => {
      starts[distances[at]]++;
      total++;
    });
    for (let square = WIDE_SQUARE, sum = 0; square >= 0; square--) {
      const own = starts[square];
      starts[square] = sum;
      sum += own;
    }
    const order = new Int32Array(total);
    each((at) => (order[starts[distances[at]]++] = at));
    return order;
  }

  /** A px: it goes to a basin beside it, or is the middle of a new one. */
  private take(at: number, square: number): void {
    const { labels, width, tile } = this;
    const y = Math.floor(at / width);
    const x = at - y * width;
    // Most px touch one basin alone.
    let own = x > tile.x0 ? labels[at - 1] : 0;
    const right = x < tile.x1 - 1 ? labels[at + 1] : 0;
    const above = y > tile.y0 ? labels[at - width] : 0;
    const below = y < tile.y1 - 1 ? labels[at + width] : 0;
    if (right !== 0 && right !== own) own = own === 0 ? right : this.oneOf(own, right, at, square);
    if (above !== 0 && above !== own) own = own === 0 ? above : this.oneOf(own, above, at, square);
    if (below !== 0 && below !== own) own = own === 0 ? below : this.oneOf(own, below, at, square);
    if (own === 0) own = this.begin(HALF_WIDTHS[square]);
    labels[at] = own;
    if (x === tile.x0 || x === tile.x1 - 1 || y === tile.y0 || y === tile.y1 - 1)
      if (this.isOpenAt(x, y)) this.goesOn[this.root(own)] = true;
  }

  /** Whether something lies beyond the tile at a px of its edge. */
  private isOpenAt(x: number, y: number): boolean {
    const { tile, raster } = this;
    return (
      (x === tile.x0 && x > 0) ||
      (x === tile.x1 - 1 && tile.x1 < raster.width) ||
      (y === tile.y0 && y > 0) ||
      (y === tile.y1 - 1 && tile.y1 < raster.height)
    );
  }

  /** The basin of a px between two, which may be the same under another name. */
  private oneOf(one: number, other: number, at: number, square: number): number {
    const [a, b] = [this.root(one), this.root(other)];
    return a === b ? a : this.meet(a, b, at, square);
  }

  /** Two basins meet at a px. Answers the one that it belongs to. */
  private meet(a: number, b: number, at: number, square: number): number {
    const { peaks } = this;
    const [high, low] = peaks[a] >= peaks[b] ? [a, b] : [b, a];
    const s = HALF_WIDTHS[square];
    // Where the lower peak is certain to be so low, however the other goes on.
    const isOne = [low, high].some((basin) => this.isKnown(basin) && isOneRoom(peaks[basin], s));
    if (isOne) {
      this.parents[low] = high;
      this.goesOn[high] ||= this.goesOn[low];
      return high;
    }
    this.open(a, b, at, square);
    return high;
  }

  /** Whether the widest place of a basin is known, whatever lies beyond the tile. */
  private isKnown(basin: number): boolean {
    return !this.goesOn[basin] || this.peaks[basin] === WIDE;
  }

  private open(a: number, b: number, at: number, square: number): void {
    const { width, contacts, found } = this;
    for (let dy = -SAME_OPENING; dy <= SAME_OPENING; dy++)
      for (let dx = -SAME_OPENING; dx <= SAME_OPENING; dx++)
        for (const k of contacts.get(at + dy * width + dx) ?? []) {
          const [p, q] = [this.root(found[k].a), this.root(found[k].b)];
          if ((p === a && q === b) || (p === b && q === a)) {
            this.note(at, k);
            return;
          }
        }
    found.push({ a, b, at, square, contacts: [] });
    this.note(at, found.length - 1);
  }

  private note(at: number, saddle: number): void {
    this.found[saddle].contacts.push(at);
    const known = this.contacts.get(at);
    if (known) known.push(saddle);
    else this.contacts.set(at, [saddle]);
  }

  private begin(peak: number): number {
    const { parents, peaks, goesOn } = this;
    parents.push(parents.length);
    peaks.push(peak);
    goesOn.push(false);
    return parents.length - 1;
  }

  private root(label: number): number {
    const { parents } = this;
    let root = label;
    while (parents[root] !== root) root = parents[root];
    while (parents[label] !== root) [parents[label], label] = [root, parents[label]];
    return root;
  }

  /** Numbers the basins, and says of each how wide and how large it is. */
  finished(roomFor: RoomFor): TileBasins {
    const { parents, labels, width, tile } = this;
    const roots = parents.flatMap((parent, label) => (label > 0 && parent === label ? [label] : []));
    const { first, room } = roomFor(roots.length);
    const places = new Int32Array(parents.length).fill(-1);
    roots.forEach((root, k) => (places[root] = k));
    for (let label = 1; label < parents.length; label++) places[label] = places[this.root(label)];
    const areas = new Int32Array(roots.length);
    const boxes = new Int32Array(4 * roots.length);
    for (let k = 0; k < boxes.length; k += 4) boxes.set([0x7fffffff, 0x7fffffff, -1, -1], k);
    for (let y = tile.y0; y < tile.y1; y++)
      for (let x = tile.x0, i = y * width + tile.x0; x < tile.x1; x++, i++) {
        if (labels[i] === 0) continue;
        const place = places[labels[i]];
        labels[i] = first + place;
        areas[place]++;
        const k = 4 * place;
        if (x < boxes[k]) boxes[k] = x;
        if (y < boxes[k + 1]) boxes[k + 1] = y;
        if (x > boxes[k + 2]) boxes[k + 2] = x;
        if (y > boxes[k + 3]) boxes[k + 3] = y;
      }
    const saddles = this.found.flatMap(({ a, b, ...saddle }): Saddle[] => {
      const [p, q] = [places[a], places[b]];
      return p === q ? [] : [{ ...saddle, a: first + p, b: first + q }];
    });
    return { ...tile, first, room, peaks: Float32Array.from(roots, (root) => this.peaks[root]), areas, boxes, saddles };
  }
}
