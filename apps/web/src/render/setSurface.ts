import type { EntityId } from '@true-nib/core/kind';
import type { Matrix } from '@true-nib/core/math';
import { unpackModel, type BlockEntity, type Light, type Model, type PulledLine } from '@true-nib/core/set';
import { proxy } from 'comlink';
import { breath } from '../base/breath';
import { Hired } from '../base/hired';
import type { PictureBytes } from './pictures';
import { PaintedBeside } from './paintedBeside';
import type { PullAsked, SetPicture, SetService } from './set.worker';
import type { SetGround } from './setPaint';
import type { View } from './view';

/** The sets that are seen: all their blocks, and the pictures that cameras have of them. */
export interface ShownSets {
  readonly blocks: readonly BlockEntity[];
  readonly pictures: readonly SetPicture[];
}

interface Wanted {
  readonly shown: ShownSets;
  readonly ground: SetGround;
}

/** Lines that come over from the worker in one go. */
const PART = 300;

/** The canvas of the sets, under the inks; and the worker that has their blocks, which pulls their lines. */
export class SetSurface {
  private shown: ShownSets | undefined;
  private readonly beside: PaintedBeside<Wanted>;
  private worker: Hired<SetService> | undefined;
  /** The blocks that the worker has. */
  private held: ReadonlyMap<EntityId, BlockEntity> = new Map();

  private isPeeking = false;
  /** Models that have come, by the SHA-256 of their bytes, and those that are asked for. */
  readonly models = new Map<string, Model>();
  private readonly asked = new Map<string, Promise<void>>();

  /** `bytes` fetches those of models; `changed` is called when something else is to be shown. */
  constructor(
    private readonly canvas: HTMLCanvasElement,
    private readonly bytes: PictureBytes,
    private readonly changed: () => void,
  ) {
    this.beside = new PaintedBeside(canvas, (wanted) => this.painted(wanted), isSame);
  }

  dispose(): void {
    this.beside.dispose();
    this.worker?.end();
  }

  set(shown: ShownSets | undefined): void {
    if (shown === this.shown) return;
    this.shown = shown;
    this.changed();
  }

  /** While one peeks at the inks alone, nothing is shown. */
  setPeek(isPeeking: boolean): void {
    this.isPeeking = isPeeking;
    this.changed();
  }

  /** Shows them in a view, of which `map` takes page px to device px. */
  show(map: Matrix, ratio: number, view: View): void {
    const { shown, canvas } = this;
    if (!shown || shown.pictures.length === 0 || this.isPeeking) return this.beside.hide();
    this.beside.want({ shown, ground: { map, ratio, width: canvas.width, height: canvas.height } }, view);
  }

  carry(view: View): void {
    this.beside.carry(view);
  }

  forget(): void {
    this.beside.forget();
  }

  /** The lines of blocks that a camera sees; nothing where others were asked for meanwhile. */
  async pull(
    blocks: readonly BlockEntity[],
    asked: PullAsked,
    tell: (share: number) => void,
  ): Promise<PulledLine[] | undefined> {
    const worker = this.hired();
    await this.fetch(blocks);
    this.hold(worker, blocks);
    const count = await worker.ask((service) => service.pull(asked, proxy(tell)));
    if (count === undefined) return undefined;
    const lines: PulledLine[] = [];
    while (lines.length < count) {
      lines.push(...(await worker.ask((service) => service.pulledPart(lines.length, lines.length + PART))));
      await breath();
    }
    return lines;
  }

  /** The rings of shade that a light leaves on blocks; nothing where others were asked for meanwhile. */
  async shade(
    blocks: readonly BlockEntity[],
    asked: Omit<PullAsked, 'settings'>,
    light: Light,
    tell: (share: number) => void,
  ): Promise<Float64Array[] | undefined> {
    const worker = this.hired();
    await this.fetch(blocks);
    this.hold(worker, blocks);
    return worker.ask((service) => service.shade(asked, light, proxy(tell)));
  }

  stopPulling(): void {
    void this.worker?.service.stop();
  }

  private painted({ shown, ground }: Wanted): Promise<ImageBitmap> {
    const worker = this.hired();
    void this.fetch(shown.blocks);
    this.hold(worker, shown.blocks);
    return worker.ask((service) => service.picture(shown.pictures, ground));
  }

  /** Fetches the models of blocks that are not here yet; one that does not come is asked for again with the next wish. */
  private async fetch(blocks: readonly BlockEntity[]): Promise<void> {
    const wanted = new Set(blocks.flatMap(({ shape }) => (shape.kind === 'mesh' ? [shape.blob] : [])));
    await Promise.all([...wanted].filter((sha256) => !this.models.has(sha256)).map((sha256) => this.asking(sha256)));
  }

  /** One that is asked for already is waited for, not asked for twice. */
  private asking(sha256: string): Promise<void> {
    const asked = this.asked.get(sha256) ?? this.fetchOne(sha256);
    this.asked.set(sha256, asked);
    return asked;
  }

  private async fetchOne(sha256: string): Promise<void> {
    try {
      const blob = await this.bytes(sha256);
      this.takeModel(sha256, new Uint8Array(await blob.arrayBuffer()));
    } catch {
      // It is asked for again with the next wish.
    } finally {
      this.asked.delete(sha256);
    }
  }

  /** Takes the bytes of a model: what is made of it can be seen from now on. */
  takeModel(sha256: string, bytes: Uint8Array): void {
    this.models.set(sha256, unpackModel(bytes));
    this.hired()
      .service.takeModel(sha256, bytes)
      .catch(() => undefined);
    this.changed();
    this.beside.forget();
  }

  /** Hands the worker what it does not have yet of some blocks. */
  private hold(worker: Hired<SetService>, blocks: readonly BlockEntity[]): void {
    const now = new Map(blocks.map((block) => [block.id, block]));
    const changed = blocks.filter((block) => this.held.get(block.id) !== block);
    const gone = [...this.held.keys()].filter((id) => !now.has(id));
    if (changed.length + gone.length === 0) return;
    worker.service.hold(changed, gone).catch(() => undefined);
    this.held = now;
  }

  private hired(): Hired<SetService> {
    if (this.worker) return this.worker;
    const worker = new Hired<SetService>(new Worker(new URL('./set.worker.ts', import.meta.url)));
    // Whatever is wanted next hires another one.
    worker.onBroken(() => {
      worker.end();
      this.worker = undefined;
      this.held = new Map();
      this.models.clear();
      this.asked.clear();
    });
    this.worker = worker;
    return worker;
  }
}

const isSame = (a: Wanted, b: Wanted): boolean =>
  a.shown === b.shown &&
  a.ground.width === b.ground.width &&
  a.ground.height === b.ground.height &&
  a.ground.map.every((value, k) => value === b.ground.map[k]);
