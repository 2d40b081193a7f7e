import type { Spine } from '@true-nib/core/curve';
import type { EntityId } from '@true-nib/core/kind';
import type { Box } from '@true-nib/core/math';
import {
  pulling,
  shadedRings,
  solidsOf,
  unpackModel,
  viewOf,
  type BlockEntity,
  type Eye,
  type Light,
  type Model,
  type PulledLine,
  type PullSettings,
  type StandingBlock,
} from '@true-nib/core/set';
import { expose, transfer } from 'comlink';
import { inSlices } from '../base/breath';
import { paintSet, type SetGround, type SetLook } from './setPaint';

/** A camera's picture of a set, and whether its lines are to be sharp. */
export interface SetPicture extends SetLook {
  readonly setId: EntityId;
  readonly isSharp: boolean;
}

/** What lines are pulled from where. */
export interface PullAsked {
  readonly setId: EntityId;
  readonly camera: Eye;
  readonly settings: PullSettings;
  readonly window: Box;
}

const blocks = new Map<EntityId, BlockEntity>();
const models = new Map<string, Model>();
let standing = new Map<EntityId, readonly StandingBlock[]>();
let canvas: OffscreenCanvas | undefined;
/** Counts what was asked to be pulled: an older request gives way to a newer one. */
let pulls = 0;
let pulled: readonly PulledLine[] = [];
/** The lines of cameras as the board shows them. */
let sharp = new Map<string, { readonly of: readonly StandingBlock[]; readonly lines: readonly Spine[] }>();

const standingOf = (setId: EntityId): readonly StandingBlock[] => {
  const known = standing.get(setId);
  if (known) return known;
  const made = solidsOf(
    [...blocks.values()].filter((block) => block.setId === setId),
    models,
  );
  standing.set(setId, made);
  return made;
};

const NIB = { name: '', size: 1, thinnest: 1, taperIn: 0, taperOut: 0, color: '#000000' };
/** Lines as they are shown until they are pulled. */
const SHOWN: PullSettings = {
  nibs: { contour: NIB, crease: NIB, contact: NIB, mark: NIB },
  ...{ crease: 0.35, fall: 0, over: 0, halo: 0, dash: 10 },
};

function linesOf({ setId, camera, window }: SetPicture): readonly Spine[] {
  const of = standingOf(setId);
  const key = JSON.stringify([setId, window, camera.eye, camera.look]);
  const known = sharp.get(key);
  if (known?.of === of) return known.lines;
  const work = pulling(of, viewOf(camera), SHOWN, window);
  let step = work.next();
  while (!step.done) step = work.next();
  const lines = step.value.map(({ stroke }) => stroke.spine);
  if (sharp.size > 20) sharp = new Map();
  sharp.set(key, { of, lines });
  return lines;
}

const service = {
  /** Takes blocks that were added or changed, and lets go of others. */
  hold(changed: readonly BlockEntity[], gone: readonly EntityId[]): void {
    const before = [...changed.map(({ id }) => id), ...gone].flatMap((id) => blocks.get(id) ?? []);
    // Sets that nothing happened to keep their solids, and with them their sharp lines.
    for (const { setId } of [...before, ...changed]) standing.delete(setId);
    for (const block of changed) blocks.set(block.id, block);
    for (const id of gone) blocks.delete(id);
  },

  takeModel(sha256: string, bytes: Uint8Array): void {
    models.set(sha256, unpackModel(bytes));
    standing = new Map();
  },

  picture(pictures: readonly SetPicture[], ground: SetGround): ImageBitmap {
    const { width, height } = ground;
    if (canvas?.width !== width || canvas.height !== height) canvas = new OffscreenCanvas(width, height);
    const context = canvas.getContext('2d');
    if (!context) throw new Error('This browser cannot paint off the screen.');
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.clearRect(0, 0, width, height);
    for (const picture of pictures)
      paintSet(context, standingOf(picture.setId), picture, ground, picture.isSharp ? linesOf(picture) : undefined);
    const bitmap = canvas.transferToImageBitmap();
    return transfer(bitmap, [bitmap]);
  },

  /** Pulls lines; answers how many, to be fetched by `pulledPart`, or nothing where others were asked for meanwhile. */
  async pull(
    { setId, camera, settings, window }: PullAsked,
    tell: (share: number) => void,
  ): Promise<number | undefined> {
    const own = ++pulls;
    const work = pulling(standingOf(setId), viewOf(camera), settings, window);
    const lines = await inSlices(work, { isWanted: () => own === pulls, tell });
    if (!lines) return undefined;
    pulled = lines;
    return lines.length;
  },

  /** The rings of shade that a light leaves, as a camera sees them; nothing where others were asked for meanwhile. */
  async shade(
    { setId, camera, window }: Omit<PullAsked, 'settings'>,
    light: Light,
    tell: (share: number) => void,
  ): Promise<Float64Array[] | undefined> {
    const own = ++pulls;
    const work = shadedRings(standingOf(setId), viewOf(camera), light, window);
    return inSlices(work, { isWanted: () => own === pulls, tell });
  },

  pulledPart(from: number, to: number): readonly PulledLine[] {
    return pulled.slice(from, to);
  },

  stop(): void {
    pulls++;
  },
};

export type SetService = typeof service;

expose(service);
