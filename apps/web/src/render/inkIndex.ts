import {
  allMarks,
  framesOf,
  isDrawn,
  isFraming,
  markBox,
  marksOf,
  reachOf,
  shownUnder,
  type DrawnEntity,
  type Frames,
  type Mark,
} from '@true-nib/core/drawn';
import { sameValue } from '@true-nib/core/gate';
import type { EntityId } from '@true-nib/core/kind';
import { boxesMeet, growBox, type Box } from '@true-nib/core/math';
import { mendableLines } from '@true-nib/core/mend';
import type { InkStyle } from '@true-nib/core/nib';
import {
  byOrder,
  editedId,
  nodesOf,
  ofKind,
  shownStyle,
  stackOf,
  type Edit,
  type Page,
  type StackNode,
} from '@true-nib/core/page';
import { styledStroke, type StrokeEntity } from '@true-nib/core/stroke';
import { breath } from '../base/breath';
import { leafOf, LeafTree, type Leaf } from './leafTree';
import { isShownUnder, plainLook, type StackLook } from './stackLook';
import { WashIndex } from './washIndex';

/** Things taken up in one go: some ms. */
const PART = 800;

interface Standing {
  readonly node: StackNode;
  readonly rank: number;
  readonly isShown: boolean;
  readonly style: InkStyle | undefined;
}

/**
 * Where what was drawn on a page lies, in which order it is painted, and how its layers show it. Kept up to date edit by edit.
 * Things go in as they are kept and come out as they are shown, except where it says otherwise.
 */
export class InkIndex {
  private readonly tree = new LeafTree();
  private readonly leaves = new Map<EntityId, Leaf>();
  private readonly tops = new Map<EntityId, string>();
  private layers = new Map<EntityId, Standing>();
  private roots: readonly StackNode[] = [];
  /** The panels of the page: what is begun in one shows only within it. */
  frames: Frames;
  /** The pixels of its wash layers. */
  readonly wash = new WashIndex();
  /** What is shown elsewhere, while it is being transformed. */
  aside: ReadonlySet<EntityId> = new Set();
  /** By how much anything reaches beside its course at most, page px. */
  private widest = 0;

  /** Settles when everything is in; `inParts` lets the screen breathe between them. */
  loading: Promise<void> | undefined;

  constructor(
    private page: Page,
    private look: StackLook = plainLook,
    private readonly inParts = false,
  ) {
    this.frames = framesOf(page);
    this.rank();
    this.wash.load(ofKind(page, 'wash'));
    const drawn = [...page.entities].filter(isDrawn);
    if (inParts) this.loading = this.loadInParts(drawn);
    else this.loadSome(drawn);
  }

  get size(): number {
    return this.leaves.size;
  }

  /** Whether things that are gone are still being swept out. */
  get isSweeping(): boolean {
    return this.tree.isSweeping;
  }

  /** The stack, lowest first. */
  get stack(): readonly StackNode[] {
    return this.roots;
  }

  /** Takes over edits that led to `page`. */
  update(page: Page, edits: readonly Edit[]): void {
    this.page = page;
    this.frames = framesOf(page);
    if (edits.some(({ before, after }) => before?.kind === 'layer' || after?.kind === 'layer')) this.rank();
    this.wash.update(edits);
    const gone: Leaf[] = [];
    const come: DrawnEntity[] = [];
    for (const edit of edits) {
      const { before, after } = edit;
      if (!isDrawn(before) && !isDrawn(after)) continue;
      const leaf = this.leaves.get(editedId(edit));
      if (leaf) gone.push(leaf);
      if (leaf) this.leaves.delete(leaf.entity.id);
      if (isDrawn(after)) come.push(after);
    }
    this.tree.remove(gone);
    if (this.inParts && come.length > PART) this.loading = breath().then(() => this.loadInParts(come));
    else this.loadSome(come);
  }

  /** Shows the stack in another way. Answers whether any layer looks different now. */
  setLook(look: StackLook): boolean {
    const before = this.layers;
    this.look = look;
    this.rank();
    return [...this.layers].some(([id, { isShown, style }]) => {
      const was = before.get(id);
      return was?.isShown !== isShown || !sameValue(was.style, style);
    });
  }

  /** What is visible and whose box meets `box`, as it is shown, in painting order, layer by layer. */
  within(box: Box, aboveRank = -1): Map<EntityId, DrawnEntity[]> {
    const found = new Map<EntityId, DrawnEntity[]>();
    for (const entity of this.tree.search(growBox(box, this.slack))) {
      const standing = this.layers.get(entity.layerId);
      if (!standing?.isShown || standing.rank <= aboveRank || this.aside.has(entity.id)) continue;
      const shown = shownUnder(entity, standing.style);
      if (shown !== entity && !boxesMeet(markBox(shown), box)) continue;
      const list = found.get(entity.layerId);
      if (list) list.push(shown);
      else found.set(entity.layerId, [shown]);
    }
    for (const list of found.values()) list.sort(byOrder);
    return found;
  }

  /** What lies on one layer and whose box meets `box`, as it is kept, in no order. */
  onLayer(layerId: EntityId, box: Box): DrawnEntity[] {
    return this.tree.search(growBox(box, this.slack)).filter((entity) => entity.layerId === layerId);
  }

  /** All that lies on one layer, as it is kept, in no order. */
  unorderedOn(layerId: EntityId): DrawnEntity[] {
    const found: DrawnEntity[] = [];
    for (const { entity } of this.leaves.values()) if (entity.layerId === layerId) found.push(entity);
    return found;
  }

  /** The lines of one layer and the edges of its areas, as they are kept, in no order. */
  linesOn(layerId: EntityId): StrokeEntity[] {
    return this.unorderedOn(layerId).flatMap(mendableLines);
  }

  /** What has that id, as it is kept, if it is there. */
  get(id: EntityId): DrawnEntity | undefined {
    return this.leaves.get(id)?.entity;
  }

  /** What is seen of things that are as their layers show them: parts of marks, where panels frame them. */
  marks(entities: Iterable<DrawnEntity>): Mark[] {
    return allMarks(entities, this.frames);
  }

  /** Something as its layer shows it. */
  shown(entity: DrawnEntity): DrawnEntity {
    return shownUnder(entity, this.styleOf(entity.layerId));
  }

  /** A line as its layer shows it. */
  styled(stroke: StrokeEntity): StrokeEntity {
    return styledStroke(stroke, this.styleOf(stroke.layerId));
  }

  /** Whether something is laid down as it is: ink on a layer that shows it whole. */
  isPlain(entity: DrawnEntity): boolean {
    return this.isWhole(entity.layerId) && !isFraming(entity) && !marksOf(entity).some(({ cuts }) => cuts);
  }

  /** Whether nothing visible that touches its box is painted after it. */
  isTopmost(entity: DrawnEntity): boolean {
    const later = (other: DrawnEntity) =>
      this.rankOf(other.layerId) - this.rankOf(entity.layerId) || byOrder(other, entity);
    const box = markBox(this.shown(entity));
    for (const [id, { node, rank, isShown }] of this.layers)
      if (node.layer.medium === 'wash' && isShown && rank > this.rankOf(entity.layerId))
        if (this.wash.within(id, box).length > 0) return false;
    return this.tree
      .search(growBox(box, this.slack))
      .every((other) => later(other) <= 0 || !this.isShown(other.layerId));
  }

  /** An order key at least as high as any that a stroke of the layer has; nothing for a layer that never had one. */
  topOrder(layerId: EntityId): string | undefined {
    return this.tops.get(layerId);
  }

  styleOf(layerId: EntityId): InkStyle | undefined {
    return this.layers.get(layerId)?.style;
  }

  isShown(layerId: EntityId): boolean {
    return this.layers.get(layerId)?.isShown === true;
  }

  /** How high a layer is painted; −1 for one that is not there. */
  rankOf(layerId: EntityId): number {
    return this.layers.get(layerId)?.rank ?? -1;
  }

  /**
   * Whether anything of a stroke of this layer shows as it is drawn: no fade and no hard edge, of it or its groups, and no
   * pixels that it depends on.
   */
  isWhole(layerId: EntityId): boolean {
    const standing = this.layers.get(layerId);
    if (!standing || standing.node.layer.opacity < 1 || standing.style?.edge === 'hard') return false;
    if (standing.node.layer.medium === 'wash' && (standing.node.layer.holdsShape || standing.style)) return false;
    return nodesOf(this.roots).every(
      ({ layer, children }) => layer.opacity === 1 || !nodesOf(children).some((node) => node.layer.id === layerId),
    );
  }

  private rank(): void {
    this.roots = stackOf(this.page);
    this.layers = new Map(
      nodesOf(this.roots).map((node, rank) => [
        node.layer.id,
        {
          node,
          rank,
          isShown: isShownUnder(this.look, node, this.roots),
          style: shownStyle(node.layer, this.look.standIns),
        },
      ]),
    );
  }

  /** By how much styles may make lines reach beyond the boxes they are kept under, page px. */
  private get slack(): number {
    let slack = 0;
    for (const { style } of this.layers.values())
      if (style && (style.nib || style.widthFactor > 1))
        slack = Math.max(slack, style.widthFactor * (style.nib ? style.nib.size / 2 : this.widest));
    return slack;
  }

  /** Some at a time: tens of thousands of boxes at once would hold up the hand. */
  private async loadInParts(drawn: readonly DrawnEntity[]): Promise<void> {
    const { leaves } = this;
    for (let from = 0; from < drawn.length; from += PART) {
      if (from > 0) await breath();
      // What was edited meanwhile is there already, or gone.
      const now = this.page.entities;
      this.loadSome(drawn.slice(from, from + PART).filter((one) => !leaves.has(one.id) && now.get(one.id) === one));
    }
  }

  private loadSome(drawn: readonly DrawnEntity[]): void {
    const leaves = drawn.map(leafOf);
    for (const leaf of leaves) this.note(leaf);
    this.tree.add(leaves);
  }

  private note(leaf: Leaf): void {
    const { id, layerId, order } = leaf.entity;
    const old = this.leaves.get(id);
    if (old) this.tree.remove([old]);
    this.widest = Math.max(this.widest, reachOf(leaf.entity));
    this.leaves.set(id, leaf);
    const top = this.tops.get(layerId);
    if (top === undefined || order > top) this.tops.set(layerId, order);
  }
}
