import { boundsRegions, type Mark } from '@true-nib/core/drawn';
import type { EntityId } from '@true-nib/core/kind';
import { apply, asPart, growBox, invert, withinRings, type Box, type Matrix, type Point } from '@true-nib/core/math';
import { byOrder } from '@true-nib/core/page';
import {
  areaOf,
  basinsAfter,
  basinsOf,
  colourRegions,
  exactWidths,
  flatPage,
  leaksOf,
  reachesEdge,
  regionAt,
  regionCount,
  regionsAt,
  saidOf,
  WIDEST_GAP,
  type Basins,
  type Coverage,
  type Leak,
  type Opening,
  type RegionMap,
  type Said,
  type Under,
} from '@true-nib/core/regions';
import type { Spine } from '@true-nib/core/curve';
import { inSlices } from '../base/breath';
import { ground } from './ground';
import { paintMarks, smallPathOf } from './inkPaint';
import type { InkDesk } from './inkDesk';

/** Px that regions are looked for in at most. */
const MOST_PX = 16e6;
/** Rows of ink that are painted at once. */
const BAND = 512;
/** Page px that outlines may stray where openings are measured. */
const EXACT = 0.05;
/** Boxes of changes up to which regions are mended rather than found as a whole. */
const MOST_BOXES = 400;

/** What bounds regions, and how. Page px. */
export interface RegionSettings {
  readonly layerIds: readonly EntityId[];
  /** Openings up to this width are closed. */
  readonly gap: number;
  readonly under: Under;
  /** What was said of openings. */
  readonly said: readonly Said[];
}

/** A region as it can be filled. */
export interface PouredRegion {
  readonly region: number;
  readonly rings: readonly Spine[];
  readonly at: Point;
}

/** A region before it is filled: where it lies on the screen, and what was closed round it. */
export interface ShownRegion {
  readonly region: number;
  /** White where it is, in px of the view. */
  readonly mask: ImageBitmap;
  readonly closed: readonly Leak[];
}

/** A flat of a page: which of the flats that were known it was, and a number for its colour, other than its neighbours'. */
export interface PageFlat extends PouredRegion {
  readonly was?: number;
  readonly colour: number;
}

/** Where a region would run out of the page. */
export type Leaking = readonly Leak[];

/** Finds the regions between the lines of a page, in a worker. They are known until a line that bounds them changes. */
export class RegionWork {
  private known:
    { readonly key: string; readonly layers: string; readonly changes: number; readonly basins: Basins } | undefined;
  private map: { readonly key: string; readonly map: RegionMap } | undefined;
  private asked = 0;
  private looked: { readonly key: string; readonly done: Promise<boolean> } | undefined;
  /** Settles when what is being mended is whole again. */
  private mended: Promise<unknown> | undefined;

  constructor(private readonly desk: InkDesk) {}

  /** Looks at the page. Answers whether it is known now: not where another was asked for meanwhile. */
  async know(settings: RegionSettings, tell?: (share: number) => void): Promise<boolean> {
    while (this.mended) await this.mended;
    const key = this.keyOf(settings);
    if (this.known?.key === key) return true;
    // Whoever asks for what is being looked at waits for that.
    if (this.looked?.key !== key) this.looked = { key, done: this.lookAt(key, settings, tell) };
    const { looked } = this;
    const isKnown = await looked.done;
    if (this.looked === looked) this.looked = undefined;
    return isKnown;
  }

  private async lookAt(key: string, settings: RegionSettings, tell?: (share: number) => void): Promise<boolean> {
    const own = ++this.asked;
    const layers = settings.layerIds.join(' ');
    const changes = this.desk.bounds.count;
    const { known } = this;
    const changed = known?.layers === layers ? this.desk.bounds.since(known.changes) : undefined;
    const isSmall = known && changed && changed.length <= MOST_BOXES;
    // What is mended is written over: nothing is known until it is done, and it is gone through to its end.
    if (isSmall) this.known = undefined;
    const found = isSmall
      ? inSlices(this.mending(known.basins, settings, changed), { tell })
      : inSlices(this.looking(settings), { isWanted: () => own === this.asked, tell });
    if (isSmall) this.mended = found.finally(() => (this.mended = undefined));
    const basins = await found;
    if (!basins) return false;
    this.known = { key, layers, changes, basins };
    this.map = undefined;
    return true;
  }

  private keyOf({ layerIds }: RegionSettings): string {
    return `${this.desk.bounds.count} ${layerIds.join(' ')}`;
  }

  private mapAt({ gap, said }: RegionSettings): RegionMap | undefined {
    const { known } = this;
    if (!known) return undefined;
    const inRaster = Math.min(WIDEST_GAP, gap * known.basins.coverage.scale);
    const key = JSON.stringify([inRaster, said]);
    if (this.map?.key !== key || this.map.map.basins !== known.basins)
      this.map = { key, map: regionsAt(known.basins, inRaster, decided(known.basins, said)) };
    return this.map.map;
  }

  private underOf({ under }: RegionSettings, { basins }: RegionMap): Under {
    return under === 'middle' ? under : under * basins.coverage.scale;
  }

  /** The region at a place, as a view shows it; nothing on a line, or where nothing is known. */
  show(
    at: Point,
    view: Matrix,
    size: { readonly width: number; readonly height: number },
    settings: RegionSettings,
  ): ShownRegion | undefined {
    const map = this.mapAt(settings);
    const region = map ? regionAt(map, at) : 0;
    if (!map || region === 0) return undefined;
    const closed = leaksOf(map, 0).filter(({ regions }) => regions.includes(region));
    return { region, mask: maskOf(map, region, view, size), closed };
  }

  /** The regions at some places, each once. Leaking where one runs out of the page through an opening that could be closed. */
  pour(
    places: readonly Point[],
    settings: RegionSettings,
    isMeant: boolean,
  ): PouredRegion[] | { readonly leaks: Leaking } {
    const map = this.mapAt(settings);
    if (!map) return [];
    const found = new Map<number, Point>();
    for (const at of places) {
      const region = regionAt(map, at);
      if (region > 0 && !found.has(region)) found.set(region, at);
    }
    if (!isMeant)
      for (const [region, at] of found) {
        const leaks = reachesEdge(map, region) ? this.leaksAt(map, at, settings.said) : [];
        if (leaks.length > 0) return { leaks };
      }
    const under = this.underOf(settings, map);
    return [...found].map(([region, at]) => ({ region, at, rings: areaOf(map, region, { under }) }));
  }

  /** Openings that are wider than the gap, through which a place hangs together with the edge of the page. */
  private leaksAt({ basins, gap }: RegionMap, at: Point, said: readonly Said[]): Leaking {
    const wide = regionsAt(basins, WIDEST_GAP, decided(basins, said));
    const region = regionAt(wide, at);
    if (region === 0 || reachesEdge(wide, region)) return [];
    const { scale } = basins.coverage;
    return leaksOf(wide, 0).filter(({ regions, width }) => regions.includes(region) && width * scale > gap);
  }

  /** Every region as a flat, with a number for its colour so that no two neighbours are alike. */
  async flats(
    settings: RegionSettings & { readonly least: number },
    kept: readonly Point[],
    known: readonly Point[],
    tell?: (share: number) => void,
  ): Promise<{ readonly flats: readonly PageFlat[] } | undefined> {
    const map = this.mapAt(settings);
    if (!map) return undefined;
    const own = ++this.asked;
    const taken = new Set(kept.map((at) => regionAt(map, at)));
    const { scale } = map.basins.coverage;
    const work = flatPage(
      map,
      { under: this.underOf(settings, map), least: settings.least * scale * scale },
      (region) => taken.has(region),
    );
    const done = await inSlices(work, { isWanted: () => own === this.asked, tell });
    if (!done) return undefined;
    const colours = colourRegions(done.neighbours);
    const before = new Map(known.map((at, k) => [regionAt(map, at), k]));
    return {
      flats: done.flats.map(({ region, rings, at }): PageFlat => {
        const was = before.get(region);
        return { region, rings, at, colour: colours.get(region) ?? 0, ...(was !== undefined && { was }) };
      }),
    };
  }

  /** Where colour would run, for the gap that is set. */
  leaks(settings: RegionSettings): { readonly leaks: readonly Leak[]; readonly regions: number } | undefined {
    const map = this.mapAt(settings);
    if (!map) return undefined;
    const known = saidOf(map.basins.coverage, settings.said);
    return { leaks: leaksOf(map, undefined, (opening) => known(opening) !== undefined), regions: regionCount(map) };
  }

  private *looking({ layerIds }: RegionSettings): Generator<number, Basins> {
    const { desk } = this;
    const { maxX, maxY } = desk.pageBox;
    const scale = Math.min(1, Math.sqrt(MOST_PX / (maxX * maxY)));
    const [width, height] = [Math.max(1, Math.round(maxX * scale)), Math.max(1, Math.round(maxY * scale))];
    const coverage: Coverage = { width, height, ink: new Uint8Array(width * height), scale, x: 0, y: 0 };
    for (let row = 0; row < height; row += BAND) {
      yield (0.2 * row) / height;
      this.paintPart(coverage, layerIds, { x0: 0, y0: row, x1: width, y1: Math.min(height, row + BAND) });
    }
    return yield* asPart(basinsOf(coverage, this.widthsOf(coverage, layerIds)), 0.2, 1);
  }

  /** The regions anew where lines have changed in some boxes of the page. */
  private *mending(basins: Basins, { layerIds }: RegionSettings, boxes: readonly Box[]): Generator<number, Basins> {
    const { coverage } = basins;
    const { width, height, scale } = coverage;
    const changed: Box[] = [];
    for (const box of boxes) {
      const x0 = Math.max(0, Math.floor(box.minX * scale) - 1);
      const y0 = Math.max(0, Math.floor(box.minY * scale) - 1);
      const x1 = Math.min(width, Math.ceil(box.maxX * scale) + 1);
      const y1 = Math.min(height, Math.ceil(box.maxY * scale) + 1);
      if (x0 >= x1 || y0 >= y1) continue;
      this.paintPart(coverage, layerIds, { x0, y0, x1, y1 });
      changed.push({ minX: x0, minY: y0, maxX: x1, maxY: y1 });
      yield 0.2;
    }
    return yield* basinsAfter(basins, changed, this.widthsOf(coverage, layerIds));
  }

  private widthsOf(coverage: Coverage, layerIds: readonly EntityId[]) {
    return exactWidths(coverage, (box) => this.ringsNear(layerIds, box));
  }

  /** What bounds regions in a box, layer by layer, lowest first. */
  private boundsIn(layerIds: readonly EntityId[], box: Box): Mark[][] {
    return layerIds.map((layerId) =>
      this.desk.index
        .onLayer(layerId, box)
        .sort(byOrder)
        .filter(boundsRegions)
        .flatMap((entity) => this.desk.index.marks([this.desk.index.shown(entity)]))
        .map((mark) => ({ ...mark, opacity: 1 })),
    );
  }

  /** Paints a part of a coverage, px. */
  private paintPart(
    { ink, width, scale }: Coverage,
    layerIds: readonly EntityId[],
    { x0, y0, x1, y1 }: { readonly x0: number; readonly y0: number; readonly x1: number; readonly y1: number },
  ): void {
    const [columns, rows] = [x1 - x0, y1 - y0];
    const map: Matrix = [scale, 0, 0, scale, -x0, -y0];
    const box = growBox({ minX: x0 / scale, minY: y0 / scale, maxX: x1 / scale, maxY: y1 / scale }, 2 / scale);
    const whole = ground(columns, rows);
    for (const marks of this.boundsIn(layerIds, box)) {
      // What is cut out of a layer is cut out of that alone.
      const own = marks.some(({ cuts }) => cuts) ? ground(columns, rows) : whole;
      paintMarks(own, marks, map, smallPathOf);
      whole.setTransform(1, 0, 0, 1, 0, 0);
      if (own !== whole) whole.drawImage(own.canvas, 0, 0);
    }
    const { data } = whole.getImageData(0, 0, columns, rows);
    for (let y = 0, i = 3; y < rows; y++)
      for (let x = 0, to = (y0 + y) * width + x0; x < columns; x++, i += 4, to++) ink[to] = data[i];
  }

  private ringsNear(layerIds: readonly EntityId[], box: Box): Float64Array[] {
    return this.boundsIn(layerIds, box).flat().flatMap(seenRings);
  }
}

/** Which openings stay open or closed, since it was said of them. */
function decided({ coverage }: Basins, said: readonly Said[]): (opening: Opening) => 'open' | 'closed' | undefined {
  const known = saidOf(coverage, said);
  return (opening) => {
    const one = known(opening);
    return one && (one.as === 'meant' ? 'open' : 'closed');
  };
}

/** Where a region lies in a view, white. */
function maskOf(
  map: RegionMap,
  region: number,
  view: Matrix,
  { width, height }: { readonly width: number; readonly height: number },
): ImageBitmap {
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d');
  if (!context) throw new Error('This browser cannot paint off the screen.');
  const image = context.createImageData(width, height);
  const px = new Uint32Array(image.data.buffer);
  const back = invert(view);
  const { basins, regionOf } = map;
  const { coverage, labels } = basins;
  const [o, u, v] = [
    { x: 0, y: 0 },
    { x: 1, y: 0 },
    { x: 0, y: 1 },
  ].map((p) => apply(back, p));
  const inRaster = (p: Point) => ({ x: (p.x - coverage.x) * coverage.scale, y: (p.y - coverage.y) * coverage.scale });
  const [from, right, down] = [inRaster(o), inRaster(u), inRaster(v)];
  const [dx, dy, ex, ey] = [right.x - from.x, right.y - from.y, down.x - from.x, down.y - from.y];
  for (let row = 0, i = 0; row < height; row++) {
    let x = from.x + (row + 0.5) * ex + 0.5 * dx;
    let y = from.y + (row + 0.5) * ey + 0.5 * dy;
    for (let column = 0; column < width; column++, i++, x += dx, y += dy) {
      if (x < 0 || y < 0 || x >= coverage.width || y >= coverage.height) continue;
      if (regionOf[labels[Math.floor(y) * coverage.width + Math.floor(x)]] === region) px[i] = 0xffffffff;
    }
  }
  context.putImageData(image, 0, 0);
  return canvas.transferToImageBitmap();
}

/** The rings of a mark, as far as it is seen. */
function seenRings({ rings, clip }: Mark): readonly Float64Array[] {
  const all = rings(EXACT);
  return clip ? withinRings(all, clip.rings(EXACT)) : all;
}
