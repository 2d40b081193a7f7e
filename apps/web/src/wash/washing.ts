import PQueue from 'p-queue';
import { draftChange, find, washEdits, washTileId, WASH_TYPE, type Change, type Page } from '@true-nib/core/page';
import type { EntityId } from '@true-nib/core/kind';
import { isDrawn, type DrawnEntity } from '@true-nib/core/drawn';
import type { Board, PageSlot } from '../board';
import type { WashDeed, ReworkedTile } from '../render';

/** What other tabs have changed meanwhile is painted on once more. */
const ATTEMPTS = 3;
const KEPT_AT_ONCE = 8;

/**
 * Makes deeds on pixels part of the page, one after the other: a worker paints the tiles, their bytes are kept, then the
 * change is made. Undo waits for what is under way.
 */
export class Washing {
  private readonly queue = new PQueue({ concurrency: 1 });

  constructor(private readonly ground: Pick<Board, 'picture' | 'session' | 'notice'>) {}

  /** Settles when all that is under way now is done. */
  settled(): Promise<unknown> {
    return this.queue.add(() => undefined);
  }

  /** Turns marks that the board shows on a wash layer into its pixels. Until then they are kept as they were drawn. */
  turn(label: string, layerId: EntityId, marks: readonly DrawnEntity[]): Promise<boolean> {
    return this.turnKept(this.ground.session.keepMarks(label, layerId, marks), label, layerId, marks);
  }

  /** Takes up marks that an earlier session had no time for. */
  takeUp(left: readonly Change[]): void {
    const { picture, session, notice } = this.ground;
    for (const { id, label, needs, edits } of left) {
      const marks = edits.flatMap(({ after }) => (isDrawn(after) ? [after] : []));
      const [layerId] = needs;
      if (find(session.page, 'layer', layerId)?.medium === 'wash') {
        picture.addMarks(marks);
        void this.turnKept(id, label, layerId, marks);
      } else {
        session.forgetMarks(id);
        notice(`"${label}", which was still to become pixels, has lost its layer meanwhile.`);
      }
    }
  }

  private turnKept(id: string, label: string, layerId: EntityId, marks: readonly DrawnEntity[]): Promise<boolean> {
    return this.enqueue(async () => {
      const ids = marks.map((mark) => mark.id);
      try {
        for (let attempt = 0; attempt < ATTEMPTS; attempt++) {
          const tiles = await this.painted(layerId, { deed: 'marks', ids });
          if (isAbreast(this.ground.session.page, tiles))
            return this.ground.picture.endMarks(marks, () => this.make((page) => changeOf(label)(page, tiles), id));
        }
        throw new Error('Another tab keeps painting here. Draw this once more when it rests.');
      } catch (error) {
        this.ground.picture.endMarks(marks, () => false);
        throw error;
      } finally {
        this.ground.session.forgetMarks(id);
      }
    });
  }

  /**
   * Does something to a layer's pixels. `draft` makes the change of the tiles, where it is more than that. Answers whether
   * it is done.
   */
  do(
    label: string,
    layerId: EntityId,
    deed: WashDeed,
    draft: (page: Page, tiles: readonly ReworkedTile[]) => Change = changeOf(label),
  ): Promise<boolean> {
    return this.enqueue(async () => {
      const tiles = await this.painted(layerId, deed);
      return this.make((page) => draft(page, tiles));
    });
  }

  private enqueue(work: () => Promise<boolean>): Promise<boolean> {
    const { session, notice } = this.ground;
    const done = this.queue.add(work).catch((error: unknown) => {
      notice(error instanceof Error ? error.message : 'This could not be done. The page is as it was.');
      return false;
    });
    session.waitFor(done);
    return done;
  }

  private async painted(layerId: EntityId, deed: WashDeed): Promise<readonly ReworkedTile[]> {
    const { picture, session } = this.ground;
    const tiles = await picture.inks.wash.work(layerId, deed);
    const fresh = new Map(tiles.flatMap(({ blob, bytes }) => (blob !== undefined && bytes ? [[blob, bytes]] : [])));
    const blobs = [...fresh];
    // A few at a time, so that the screen can breathe.
    for (let from = 0; from < blobs.length; from += KEPT_AT_ONCE)
      await Promise.all(
        blobs.slice(from, from + KEPT_AT_ONCE).map(async ([blob, bytes]) => {
          const kept = new Blob([bytes], { type: WASH_TYPE });
          await session.keepBlob(blob, kept).catch(() => session.sendBlob(blob, kept));
        }),
      );
    return tiles;
  }

  private make(draft: (page: Page) => Change, id?: string): boolean {
    return this.ground.session.attempt(draft, id);
  }
}

const changeOf =
  (label: string) =>
  (page: Page, tiles: readonly ReworkedTile[]): Change => {
    const layerIds = [...new Set(tiles.map(({ layerId }) => layerId))];
    const edits = layerIds.flatMap((id) =>
      washEdits(
        page,
        id,
        tiles.filter(({ layerId }) => layerId === id),
      ),
    );
    return draftChange(label, edits, layerIds);
  };

/** Whether the tiles were painted on what the page holds. */
const isAbreast = (page: Page, tiles: readonly ReworkedTile[]): boolean =>
  tiles.every((tile) => find(page, 'wash', washTileId(tile.layerId, tile))?.blob === tile.base);

/** What is done to pixels on the open page. */
export const washingSlot: PageSlot<Washing> = { open: (board) => new Washing(board) };
