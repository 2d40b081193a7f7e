import { sameValue } from '@true-nib/core/gate';
import type { EntityId } from '@true-nib/core/kind';
import type { Vector } from '@true-nib/core/math';
import { find, ofKind, type Edit, type Page } from '@true-nib/core/page';
import { blocksOf, windowOf } from '@true-nib/core/staging';
import { Touching, type BlockEntity, type CameraEntity, type Eye, type SetEntity } from '@true-nib/core/set';
import { isInHand, workbench, type Board } from '../../board';
import type { SetPicture, ShownSets } from '../../render';
import { cameraInHand, standingOn } from './inHand';

/** What a hand is doing to a set, beside what the page keeps of it. */
export interface Held {
  readonly camera?: { readonly id: EntityId; readonly eye: Eye };
  /** Blocks as they are while they are dragged, and a new one. */
  readonly blocks?: readonly BlockEntity[];
}

/** The tools for sets, by their ids. */
export const SET_TOOLS = ['blocks', 'camera', 'pull-lines', 'set-library'] as const;

const isSetEdit = ({ before, after }: Edit): boolean =>
  [before, after].some((entity) => entity !== null && SET_KINDS.has(entity.kind));
const SET_KINDS: ReadonlySet<string> = new Set(['set', 'block', 'camera', 'panel']);

/** Shows the sets of the open page under its inks. */
export class SetView {
  private held: Held = {};
  private readonly stops: readonly (() => void)[];
  private blocks: readonly BlockEntity[] = [];
  private shown: ShownSets | undefined;

  constructor(private readonly board: Board) {
    this.stops = [board.session.onEdits((_page, edits) => edits.some(isSetEdit) && this.show())];
  }

  dispose(): void {
    this.stops.forEach((stop) => stop());
  }

  /** Shows what a hand is doing. */
  hold(held: Held): void {
    this.held = held;
    this.show();
  }

  show(): void {
    const { picture, session } = this.board;
    const { page } = session;
    const desk = this.board.desk();
    const isWorking = SET_TOOLS.some((tool) => isInHand(desk, tool));
    const inHand = isWorking ? cameraInHand(page)?.id : undefined;
    const cameras = ofKind(page, 'camera').filter(({ id, seen }) => seen || id === inHand);
    if (cameras.length === 0 || workbench.isPlain(desk)) return picture.besides.sets.set(undefined);
    const isQuick = this.held.camera !== undefined || this.held.blocks !== undefined;
    const blocks = this.shownBlocks(page);
    const pictures = cameras.flatMap((camera) => this.pictureOf(page, camera, !isQuick, camera.id === inHand));
    // The very same value where nothing changed: it is not painted anew then.
    if (this.shown?.blocks !== blocks || !sameValue(this.shown.pictures, pictures)) this.shown = { blocks, pictures };
    picture.besides.sets.set(this.shown);
  }

  /** All blocks of the page, with those that are in hand as they are now. */
  private shownBlocks(page: Page): readonly BlockEntity[] {
    const held = new Map((this.held.blocks ?? []).map((block) => [block.id, block]));
    const blocks = ofKind(page, 'block').map((block) => held.get(block.id) ?? block);
    for (const block of held.values()) if (!find(page, 'block', block.id)) blocks.push(block);
    const isSame = blocks.length === this.blocks.length && blocks.every((block, k) => block === this.blocks[k]);
    if (!isSame) this.blocks = blocks;
    return this.blocks;
  }

  private pictureOf(page: Page, camera: CameraEntity, isSharp: boolean, isInHand: boolean): SetPicture[] {
    const set = find(page, 'set', camera.setId);
    if (!set) return [];
    const panel = camera.panelId === undefined ? undefined : find(page, 'panel', camera.panelId);
    const { eye, look } = this.eyeOf(camera);
    return [
      {
        ...{ setId: set.id, camera: { eye, look }, light: lightOf(set), window: windowOf(page, camera), isSharp },
        opacity: isInHand ? Math.max(0.35, camera.opacity) : camera.opacity,
        ...(panel && { clip: panel.ring }),
      },
    ];
  }

  /** A camera as it is shown now. */
  eyeOf(camera: CameraEntity): Eye {
    return this.held.camera?.id === camera.id ? this.held.camera.eye : camera;
  }

  /** What lies under a hand, as a camera sees it. */
  touching(camera: CameraEntity): Touching {
    return new Touching(standingOn(this.board, blocksOf(this.board.session.page, camera.setId)), camera);
  }
}

/** Where the light of a set comes from. */
export const lightOf = ({ light: { round, above } }: SetEntity): Vector => [
  Math.cos(above) * Math.cos(round),
  Math.cos(above) * Math.sin(round),
  Math.sin(above),
];
