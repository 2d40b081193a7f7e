import PQueue from 'p-queue';
import type { Finding, PressSettings, WeightShare } from '@true-nib/core/audit';
import type { FieldShape, GuideEntity, GuideShape } from '@true-nib/core/guides';
import type { RakeSettings } from '@true-nib/core/texture';
import type { Thing } from '@true-nib/core/drawn';
import type { EntityId } from '@true-nib/core/kind';
import type { Point } from '@true-nib/core/math';
import type { Edit, Entity, Page } from '@true-nib/core/page';
import type { Speck } from '@true-nib/core/regions';
import type { PixelSpeck } from '@true-nib/core/select';
import type { Stroke } from '@true-nib/core/stroke';
import type { LeftOf } from '@true-nib/core/tools';
import type { Following } from '@true-nib/core/tethers';
import { isLarge, joinParts, pack } from '@true-nib/core/wire';
import { proxy, transfer } from 'comlink';
import { breath } from '../base/breath';
import type { MendAnswer, MendRequest } from './ink.worker';
import { isInk } from './inkDesk';
import type { PieceWork, ShownPiece } from './pieceWork';
import type { RegionSettings, RegionWork } from './regionWork';
import type { ShownTexture, TextureWork } from './textureWork';
import type { PictureOfInks } from './keptPicture';
import { takeInkWorker, type InkWorker, type StartedInks } from './startedInks';

/** A worker that has a page as it was loaded, and what was done to it since. */
export interface PageInWorker {
  readonly inks: StartedInks;
  readonly edits: readonly Edit[];
}

/** Edits handed to the worker in one go: some ms of packing. */
const PART = 100;

/** Edits that come over from the worker in one go. */
const MENDED_PART = 400;

/** The worker that has the inks of a page, too: what takes long is asked of it. */
export class InkBeside {
  readonly worker: InkWorker;
  /** Edits on their way to the worker, in their order. */
  private readonly telling = new PQueue({ concurrency: 1 });

  constructor(page: Page, opened?: PageInWorker) {
    const started = opened?.inks.take();
    this.worker = started ?? takeInkWorker();
    if (!started) this.load(page);
    else if (opened) this.tell(opened.edits.filter(({ before, after }) => isInk(before) || isInk(after)));
  }

  /** What can be asked of the worker. */
  get service(): InkWorker['service'] {
    return this.worker.service;
  }

  /** When the worker knows all that was done so far. */
  get told(): Promise<unknown> {
    return this.telling.add(() => undefined);
  }

  end(): void {
    this.worker.end();
  }

  /** Gives the worker a page that it has not taken up itself. */
  private load(page: Page): void {
    const { lengths, bytes } = joinParts([...page.entities].filter(isInk).map(pack));
    void this.service.load(page.size, transfer({ lengths, bytes }, [bytes.buffer as ArrayBuffer]));
  }

  /** Hands edits to the worker, in parts: packing thousands at once would hold up the hand. */
  tell(edits: readonly Edit[]): void {
    for (let from = 0; from < edits.length; from += PART) {
      const part = edits.slice(from, from + PART);
      void this.telling.add(async () => {
        if (isLarge(edits)) await breath();
        const packed = pack(part.map(told));
        void this.service.edit(transfer(packed, [packed.buffer as ArrayBuffer]));
      });
    }
  }

  /** A small picture of the inks beside the board, painted by the worker. */
  smallPicture(of: PictureOfInks): Promise<ImageBitmap | undefined> {
    return this.service.smallPicture(of);
  }

  /** A small picture of one layer alone, painted by the worker. */
  layerPicture(layerId: EntityId, of: PictureOfInks): Promise<ImageBitmap | undefined> {
    return this.service.layerPicture(layerId, of);
  }

  /** Lines along a field in a loop, worked out beside the main thread. Throws what `rake` throws. */
  raked(field: FieldShape, loop: readonly Point[], settings: RakeSettings, seed: number): Promise<Stroke[]> {
    return this.service.rake(field, loop, settings, seed);
  }

  /** Rows or dots under way, as a view shows them. Throws what the core throws. */
  showTexture(...asked: Parameters<TextureWork['show']>): Promise<ShownTexture> {
    return this.service.showTexture(...asked);
  }

  /** Rows, or the one thing of dots, to be laid down; they come over part by part. Throws what the core throws. */
  async textureOf(
    asked: Parameters<TextureWork['lay']>[0],
  ): Promise<{ readonly things: readonly Thing[]; readonly count: number }> {
    const { id, count } = await this.service.layTexture(asked);
    const things: Thing[] = [];
    for (;;) {
      const part = await this.service.texturePart(id, things.length, things.length + MENDED_PART);
      things.push(...part);
      if (part.length < MENDED_PART) return { things, count };
      await breath();
    }
  }

  /** Lets the worker look at the lines of layers before anything is asked of them. */
  readyToMend(layerIds: readonly EntityId[]): void {
    void this.telling.add(() => void this.service.readyToMend(layerIds));
  }

  /** Works out beside the main thread what is done to many lines; nothing when a newer request came in between. */
  mend(request: MendRequest, tell: (share: number) => void): Promise<MendAnswer | undefined> {
    return this.service.mend(request, proxy(tell));
  }

  /** The `count` edits that were worked out last; they come over part by part. */
  async mended(count: number): Promise<Edit[]> {
    const edits: Edit[] = [];
    for (let from = 0; from < count; from += MENDED_PART) {
      edits.push(...(await this.service.mended(from, from + MENDED_PART)));
      await breath();
    }
    return edits;
  }

  /** Finds the regions of the page as it is now. Answers whether they are known: not where others were asked for meanwhile. */
  async knowRegions(settings: RegionSettings, tell: (share: number) => void): Promise<boolean> {
    await this.told;
    return this.service.knowRegions(settings, proxy(tell));
  }

  /** Every region as a flat (see `RegionWork.flats`); nothing where they are not known, or others were asked for meanwhile. */
  flats(
    settings: Parameters<RegionWork['flats']>[0],
    kept: readonly Point[],
    known: readonly Point[],
    tell: (share: number) => void,
  ): ReturnType<RegionWork['flats']> {
    return this.service.flats(settings, kept, known, proxy(tell));
  }

  /** The pieces that the ink of a layer makes in a loop, as the page is now. */
  async inkPieces(layerId: EntityId, loop: readonly Point[]): Promise<ShownPiece[]> {
    await this.told;
    return this.service.inkPieces(layerId, loop);
  }

  /** What is left where ink is taken off (see `PieceWork.without`). */
  async withoutInk(...asked: Parameters<PieceWork['without']>): Promise<LeftOf[]> {
    await this.told;
    return this.service.withoutInk(...asked);
  }

  /** Lines of the page as it is now, as areas of the same ink. */
  async inkAreas(ids: readonly EntityId[]): Promise<LeftOf[]> {
    await this.told;
    return this.service.inkAreas(ids);
  }

  /** Ink of a layer that touches no other and has fewer page px² (px of a wash); nothing where it was asked for anew meanwhile. */
  async specks(layerId: EntityId, most: number, isWash: boolean): Promise<readonly (Speck | PixelSpeck)[] | undefined> {
    await this.told;
    return isWash ? this.service.washSpecks(layerId, most) : this.service.inkSpecks(layerId, most);
  }

  /** What is wrong with the page as it is now (see `PressWork.check`); `besides` is what the check asks for that is no ink. */
  async pressCheck(
    besides: readonly Entity[],
    settings: PressSettings,
    tell: (some: readonly Finding[]) => void,
  ): Promise<readonly Finding[] | undefined> {
    await this.told;
    return this.service.pressCheck(besides, settings, proxy(tell));
  }

  /** How the weights of lines are spread, at a share of the page's size. */
  async weights(scale: number): Promise<readonly WeightShare[] | undefined> {
    await this.told;
    return this.service.weights(scale);
  }

  stopMending(): void {
    void this.service.stopMending();
  }

  /** Works out in the worker where tethered lines go; answers how many entities that changes, to be fetched by `tethered`. */
  tether(guides: readonly GuideEntity[], guide: GuideEntity, shape: GuideShape, following: Following): Promise<number> {
    return this.service.tether(guides, guide, shape, following);
  }

  tethered(from: number, to: number): Promise<Entity[]> {
    return this.service.tethered(from, to);
  }
}

/** What the worker needs of an edit: of what was before, only which it was. */
const told = ({ before, after }: Edit): Edit => (after ? { before: null, after } : { before, after });
