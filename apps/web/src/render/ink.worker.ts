import type { FieldShape, GuideEntity, GuideShape } from '@true-nib/core/guides';
import { rake, type RakeSettings } from '@true-nib/core/texture';
import { tetheredEdits, type Following } from '@true-nib/core/tethers';
import type { Matrix, Point } from '@true-nib/core/math';
import { entitiesIn, type PackedParts } from '@true-nib/core/wire';
import { PageError } from '@true-nib/core/gate';
import { styledStroke, type Stroke, type StrokeEntity } from '@true-nib/core/stroke';
import { byOrder, type Edit, type Entity, type PageSize } from '@true-nib/core/page';
import type { EntityId } from '@true-nib/core/kind';
import type { Joining } from '@true-nib/core/select';
import { hullsOf } from '@true-nib/core/curve';
import type { LeftOf } from '@true-nib/core/tools';
import { planning, type MendDeed, type MendMark } from '@true-nib/core/mend';
import { expose, transfer } from 'comlink';
import { breath, inSlices } from '../base/breath';
import type { StackLook } from './stackLook';
import { hasInk, InkDesk, unpackedList, type FirstLook } from './inkDesk';
import type { PictureOfInks } from './keptPicture';
import { PieceWork } from './pieceWork';
import { PressWork } from './pressWork';
import { RegionWork, type RegionSettings, type ShownRegion } from './regionWork';
import { TextureWork, type LaidTexture, type ShownTexture } from './textureWork';
import type { WashDeed } from './washDeed';
import { WashWork, type AreaQuery, type ReworkedTile, type SelectedArea, type TakenPixels } from './washWork';

let desk: InkDesk | undefined;
let wash: WashWork | undefined;
let regions: RegionWork | undefined;
let pieceWork: PieceWork | undefined;
let pressWork: PressWork | undefined;
const textureWork = new TextureWork();
let tethered: readonly Entity[] = [];
let mended: readonly Edit[] = [];
/** Counts what was asked for to be mended: an older request gives way to a newer one. */
let mending = 0;
let pieces = 0;
/** Ids of new pieces until whoever asked for them gives them their own. */
const pieceId = () => `piece-${++pieces}`;
/** Lines that are looked at between two breaths. */
const READY = 50;

/** What a canvas shows, given away. */
function shownOn(canvas: OffscreenCanvas | undefined): ImageBitmap | undefined {
  const bitmap = canvas?.transferToImageBitmap();
  return bitmap && transfer(bitmap, [bitmap]);
}

/** A line as its layer shows it. */
const shownAs = (stroke: StrokeEntity): StrokeEntity => styledStroke(stroke, desk?.layer(stroke.layerId)?.style);

const service = {
  load(size: PageSize, parts: PackedParts, look?: FirstLook): void {
    desk = new InkDesk(size, [...entitiesIn(parts, hasInk)]);
    if (look) void desk.warm(look);
    wash = new WashWork(desk);
    regions = new RegionWork(desk);
    pieceWork = new PieceWork(desk);
    pressWork = new PressWork(desk);
  },

  edit(edits: Uint8Array): void {
    desk?.edit(unpackedList<Edit>(edits));
  },

  setLook(look: StackLook): void {
    desk?.setLook(look);
  },

  setAside(ids: readonly EntityId[]): void {
    desk?.setAside(ids);
  },

  /** The inks of a view of the page; nothing before a page is loaded. */
  view(of: PictureOfInks): ImageBitmap | undefined {
    return shownOn(desk?.view(of));
  },

  /** A square piece of the inks; nothing before a page is loaded. */
  tile(map: Matrix, side: number): ImageBitmap | undefined {
    return shownOn(desk?.tile(map, side));
  },

  /** A small picture of the inks beside the board's; nothing before a page is loaded. */
  smallPicture(of: PictureOfInks): ImageBitmap | undefined {
    return shownOn(desk?.smallPicture(of));
  },

  /** A picture of one layer alone, as it shows its lines. */
  layerPicture(layerId: EntityId, of: PictureOfInks): ImageBitmap | undefined {
    return shownOn(desk?.layerPicture(layerId, of));
  },

  /** Lines along a field in a loop. */
  rake(field: FieldShape, loop: readonly Point[], settings: RakeSettings, seed: number): Stroke[] {
    return rake(field, loop, settings, seed);
  },

  /** Works out where lines go that are tethered to a guide; answers how many entities that changes. */
  tether(guides: readonly GuideEntity[], guide: GuideEntity, shape: GuideShape, following: Following): number {
    const edits = desk ? tetheredEdits(desk.pageWith(guides), guide, shape, following) : [];
    tethered = edits.flatMap(({ after }) => after ?? []);
    return tethered.length;
  },

  /** Some of what was worked out last. */
  tethered(from: number, to: number): Entity[] {
    return tethered.slice(from, to);
  },

  /** Looks at the lines of layers before anything is asked of them, so that it is answered sooner; a deed goes first. */
  async readyToMend(layerIds: readonly EntityId[]): Promise<void> {
    const own = mending;
    const strokes = layerIds.flatMap((layerId) => desk?.index.linesOn(layerId) ?? []);
    for (const [k, stroke] of strokes.entries()) {
      if (k % READY === 0) await breath();
      if (own !== mending) return;
      hullsOf(shownAs(stroke).spine);
    }
  },

  /**
   * Works out what is done to many lines; nothing when a newer request came in between. `ids` are the lines that may change:
   * all of the layers `changing` where none are given.
   */
  async mend(
    { deed, changing, met, ids }: MendRequest,
    tell?: (share: number) => void,
  ): Promise<MendAnswer | undefined> {
    const own = ++mending;
    if (!desk) return undefined;
    const strokes = met.flatMap((layerId) => desk?.index.linesOn(layerId).sort(byOrder) ?? []);
    const layers = new Set(changing);
    const only = ids && new Set(ids);
    const mayChange = ({ id, layerId }: StrokeEntity) => layers.has(layerId) && (!only || only.has(id));
    const work = planning(strokes, mayChange, deed, pieceId, shownAs);
    const plan = await inSlices(work, { isWanted: () => own === mending, tell });
    if (!plan) return undefined;
    const { edits, marks, nodes } = plan;
    mended = edits;
    return { count: edits.length, marks, nodes };
  },

  stopMending(): void {
    mending++;
  },

  /** Some of what was worked out last. */
  mended(from: number, to: number): Edit[] {
    return mended.slice(from, to);
  },

  // The pixels of wash layers.

  async addTile(blob: string, bytes: ArrayBuffer): Promise<ImageBitmap> {
    const bitmap = await washing().addTile(blob, bytes);
    return transfer(bitmap, [bitmap]);
  },

  dropTiles(blobs: readonly string[]): void {
    wash?.dropTiles(blobs);
  },

  async work(layerId: EntityId, deed: WashDeed): Promise<ReworkedTile[]> {
    const tiles = await done(washing(), layerId, deed);
    return transfer(
      tiles,
      tiles.flatMap(({ bytes, bitmap }) => (bytes && bitmap ? [bytes, bitmap] : [])),
    );
  },

  async select(layerId: EntityId, query: AreaQuery, joining: Joining): Promise<SelectedArea | undefined> {
    return handed(await washing().select(layerId, query, joining));
  },

  async selected(): Promise<SelectedArea | undefined> {
    return handed(await washing().area());
  },

  selectNothing(): void {
    wash?.selectNothing();
  },

  async take(layerId: EntityId): Promise<TakenPixels> {
    const taken = await washing().take(layerId);
    return transfer(taken, [taken.bitmap]);
  },

  async lift(layerId: EntityId): Promise<{ readonly cover: ImageBitmap; readonly taken: TakenPixels }> {
    const lifted = await washing().lift(layerId);
    return transfer(lifted, [lifted.cover, lifted.taken.bitmap]);
  },

  putBack(): void {
    wash?.putBack();
  },

  // Rows and dots under way.

  showTexture(...asked: Parameters<TextureWork['show']>): ShownTexture {
    const shown = textureWork.show(...asked);
    return shown.bitmap ? transfer(shown, [shown.bitmap]) : shown;
  },

  layTexture(...asked: Parameters<TextureWork['lay']>): LaidTexture {
    return textureWork.lay(...asked);
  },

  texturePart(...asked: Parameters<TextureWork['part']>): ReturnType<TextureWork['part']> {
    return textureWork.part(...asked);
  },

  // The regions between lines.

  async knowRegions(settings: RegionSettings, tell?: (share: number) => void): Promise<boolean> {
    return (await regions?.know(settings, tell)) ?? false;
  },

  showRegion(...asked: Parameters<RegionWork['show']>): ShownRegion | undefined {
    const shown = regions?.show(...asked);
    return shown && transfer(shown, [shown.mask]);
  },

  pour(...asked: Parameters<RegionWork['pour']>): ReturnType<RegionWork['pour']> {
    return regions?.pour(...asked) ?? [];
  },

  async flats(...asked: Parameters<RegionWork['flats']>) {
    return regions?.flats(...asked);
  },

  leaks(settings: RegionSettings) {
    return regions?.leaks(settings);
  },

  // The pieces that overlapping ink makes.

  inkPieces(...asked: Parameters<PieceWork['pieces']>): ReturnType<PieceWork['pieces']> {
    return pieceWork?.pieces(...asked) ?? [];
  },

  withoutInk(...asked: Parameters<PieceWork['without']>): ReturnType<PieceWork['without']> {
    return pieceWork?.without(...asked) ?? [];
  },

  async inkAreas(ids: readonly EntityId[]): Promise<LeftOf[]> {
    return (await pieceWork?.areas(ids)) ?? [];
  },

  async inkSpecks(...asked: Parameters<PieceWork['specks']>) {
    return pieceWork?.specks(...asked);
  },

  washSpecks(...asked: Parameters<WashWork['specks']>): ReturnType<WashWork['specks']> {
    return washing().specks(...asked);
  },

  // What is wrong with the page before it is printed.

  async pressCheck(...asked: Parameters<PressWork['check']>) {
    return pressWork?.check(...asked);
  },

  async weights(scale: number) {
    return pressWork?.weights(scale);
  },
};

/** What is to be done to which lines: those of the layers `changing`, or only some of them, among all of the layers `met`. */
export interface MendRequest {
  readonly deed: MendDeed;
  readonly changing: readonly EntityId[];
  readonly met: readonly EntityId[];
  readonly ids?: readonly EntityId[];
}

export interface MendAnswer {
  /** Edits to be fetched by `mended`. */
  readonly count: number;
  readonly marks: readonly MendMark[];
  readonly nodes: readonly [before: number, after: number];
}

function washing(): WashWork {
  if (!wash) throw new PageError('The page is not open yet.');
  return wash;
}

const handed = (area: SelectedArea | undefined) => area && transfer(area, [area.shape]);

function done(work: WashWork, layerId: EntityId, deed: WashDeed): Promise<ReworkedTile[]> {
  switch (deed.deed) {
    case 'marks':
      return work.layMarks(layerId, deed.ids);
    case 'fill':
      return work.fill(layerId, deed.color);
    case 'clear':
      return work.clear(layerId);
    case 'move':
      return work.move(layerId, deed.map, deed.targetId);
    case 'paste':
      return work.paste(layerId, deed.taken);
    case 'merge':
      return work.merge(deed.layerIds);
    case 'drop-specks':
      return work.dropSpecks(layerId, deed.most);
    case 'ink':
      return work.inked(layerId, deed.from);
  }
}

export type InkService = typeof service;

expose(service);
