import type { WashDeed } from './washDeed';
import { growBox, type Box } from '@true-nib/core/math';
import { tileBox } from '@true-nib/core/page';
import type { EntityId } from '@true-nib/core/kind';
import type { Joining } from '@true-nib/core/select';
import { transfer } from 'comlink';
import type { InkWorker } from './startedInks';
import type { InkIndex } from './inkIndex';
import type { AreaQuery, ReworkedTile, SelectedArea, TakenPixels } from './washWork';

/** Where a tile's bytes come from: the outbox or the server. */
export type TileBytes = (blob: string) => Promise<Blob>;

/** What the pixels of wash layers are shown with. */
interface Surroundings {
  readonly worker: InkWorker;
  readonly index: InkIndex;
  readonly tileBytes: TileBytes;
  /** Settles when the worker has heard of every edit so far. */
  readonly told: () => Promise<unknown>;
  /** Shows places anew, page px. */
  readonly repaint: (boxes: readonly Box[]) => void;
  readonly onError: (message: string) => void;
}

/** Tiles that are fetched at the same time: more than a browser has connections, since each is unpacked and shown, too. */
const AT_ONCE = 16;

/** The pixels of the wash layers on the screen: fetches those that are missing, and hands work on them to the worker. */
export class WashSurface {
  private readonly wanted: string[] = [];
  private readonly fetching = new Map<string, Promise<void>>();
  private arrived: Box[] = [];
  private arrivalFrame = 0;

  constructor(private readonly around: Surroundings) {
    this.fetchMissing([...around.index.wash.blobs()]);
  }

  dispose(): void {
    cancelAnimationFrame(this.arrivalFrame);
    this.wanted.length = 0;
  }

  /** Settles when nothing is on its way. */
  async loaded(): Promise<void> {
    while (this.fetching.size > 0) await Promise.allSettled(this.fetching.values());
  }

  /** Fetches the pixels of these bytes where they are missing; they are shown when they are there. */
  fetchMissing(blobs: readonly string[]): void {
    for (const blob of blobs)
      if (!this.around.index.wash.hasBitmap(blob) && !this.fetching.has(blob) && !this.wanted.includes(blob))
        this.wanted.push(blob);
    while (this.fetching.size < AT_ONCE && this.wanted.length > 0) {
      const blob = this.wanted.shift() ?? '';
      const done = this.fetch(blob).finally(() => {
        this.fetching.delete(blob);
        this.fetchMissing([]);
      });
      this.fetching.set(blob, done);
    }
  }

  private async fetch(blob: string): Promise<void> {
    const { index, worker, tileBytes, onError } = this.around;
    try {
      const bytes = await (await tileBytes(blob)).arrayBuffer();
      index.wash.addBitmap(blob, await worker.service.addTile(blob, transfer(bytes, [bytes])));
      this.arrived.push(...index.wash.tilesWith(blob).map((tile) => growBox(tileBox(tile), 1)));
      this.showArrived();
    } catch {
      onError('Some pixels could not be shown. They are safe on the server; reload the page to try again.');
    }
  }

  /** Settles when the worker knows all edits so far and has all pixels there are, those that did not come before included. */
  private async ready(): Promise<void> {
    this.fetchMissing([...this.around.index.wash.blobs()]);
    await this.loaded();
    await this.around.told();
  }

  /** Tiles come in bursts: they are shown once a frame. */
  private showArrived(): void {
    if (this.arrivalFrame !== 0) return;
    this.arrivalFrame = requestAnimationFrame(() => {
      this.arrivalFrame = 0;
      const boxes = this.arrived;
      this.arrived = [];
      this.around.repaint(boxes);
    });
  }

  /**
   * Has pixels worked on. Answers the tiles that change, whose pixels are at hand from now on; none is part of the page yet.
   * Throws when it cannot be done, with a sentence.
   */
  async work(layerId: EntityId, deed: WashDeed): Promise<readonly ReworkedTile[]> {
    const { index, worker } = this.around;
    await this.ready();
    const tiles = await worker.service.work(layerId, deed);
    for (const { blob, bitmap } of tiles) if (blob !== undefined && bitmap) index.wash.addBitmap(blob, bitmap);
    const spare = index.wash.spare();
    index.wash.dropBitmaps(spare);
    void worker.service.dropTiles(spare);
    return tiles;
  }

  async select(layerId: EntityId, query: AreaQuery, joining: Joining): Promise<SelectedArea | undefined> {
    await this.ready();
    return this.around.worker.service.select(layerId, query, joining);
  }

  /** What is selected, once more. */
  selected(): Promise<SelectedArea | undefined> {
    return this.around.worker.service.selected();
  }

  selectNothing(): void {
    void this.around.worker.service.selectNothing();
  }

  take(layerId: EntityId): Promise<TakenPixels> {
    return this.around.worker.service.take(layerId);
  }

  /** Takes the selected pixels off their layer on the screen, for as long as they are shown elsewhere. */
  async lift(layerId: EntityId, box: Box): Promise<TakenPixels> {
    const { index, worker, repaint } = this.around;
    const { cover, taken } = await worker.service.lift(layerId);
    const { bitmap: _shown, ...place } = taken;
    index.wash.lifted = { layerId, ...place, cover };
    repaint([box]);
    return taken;
  }

  putBack(box: Box): void {
    const { index, worker, repaint } = this.around;
    if (!index.wash.lifted) return;
    index.wash.lifted = undefined;
    void worker.service.putBack();
    repaint([box]);
  }
}
