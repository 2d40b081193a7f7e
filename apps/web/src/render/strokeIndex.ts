import { boxesMeet, growBox, type Box } from '@true-nib/core/math';
import {
  byOrder,
  editedId,
  nodesOf,
  ofKind,
  sameValue,
  shownStyle,
  stackOf,
  styledStroke,
  type Edit,
  type EntityId,
  type InkStyle,
  type Page,
  type StackNode,
  type StrokeEntity,
} from '@true-nib/core/page';
import { breath } from '../breath';
import { strokeBox } from './inkPaint';
import { leafOf, LeafTree, type Leaf } from './leafTree';
import { isShownUnder, plainLook, type StackLook } from './stackLook';
import { WashIndex } from './washIndex';

/** Strokes taken up in one go: some ms. */
const PART = 800;

interface Standing {
  readonly node: StackNode;
  readonly rank: number;
  readonly isShown: boolean;
  readonly style: InkStyle | undefined;
}

/**
 * Where the strokes of a page lie, in which order they are painted, and how their layers show them. Kept up to date edit by
 * edit. Strokes go in as they are kept and come out as they are shown, except where it says otherwise.
 */
export class StrokeIndex {
  private readonly tree = new LeafTree();
  private readonly leaves = new Map<EntityId, Leaf>();
  private readonly tops = new Map<EntityId, string>();
  private layers = new Map<EntityId, Standing>();
  private roots: readonly StackNode[] = [];
  /** The pixels of its wash layers. */
  readonly wash = new WashIndex();
  /** Strokes that are shown elsewhere, while they are being transformed. */
  aside: ReadonlySet<EntityId> = new Set();
  /** The largest nib there is, page px. */
  private widest = 0;

  /** Settles when all strokes are in; `inParts` lets the screen breathe between them. */
  loading: Promise<void> | undefined;

  constructor(
    private page: Page,
    private look: StackLook = plainLook,
    private readonly inParts = false,
  ) {
    this.rank();
    this.wash.load(ofKind(page, 'wash'));
    const strokes = ofKind(page, 'stroke');
    if (inParts) this.loading = this.loadInParts(strokes);
    else this.loadSome(strokes);
  }

  get size(): number {
    return this.leaves.size;
  }

  /** Whether strokes that are gone are still being swept out. */
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
    if (edits.some(({ before, after }) => before?.kind === 'layer' || after?.kind === 'layer')) this.rank();
    this.wash.update(edits);
    const gone: Leaf[] = [];
    const come: StrokeEntity[] = [];
    for (const edit of edits) {
      const { before, after } = edit;
      if (before?.kind !== 'stroke' && after?.kind !== 'stroke') continue;
      const leaf = this.leaves.get(editedId(edit));
      if (leaf) gone.push(leaf);
      if (leaf) this.leaves.delete(leaf.stroke.id);
      if (after?.kind === 'stroke') come.push(after);
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

  /** Visible strokes whose boxes meet `box`, as they are shown, in painting order, layer by layer. */
  within(box: Box, aboveRank = -1): Map<EntityId, StrokeEntity[]> {
    const found = new Map<EntityId, StrokeEntity[]>();
    for (const stroke of this.tree.search(growBox(box, this.slack))) {
      const standing = this.layers.get(stroke.layerId);
      if (!standing?.isShown || standing.rank <= aboveRank || this.aside.has(stroke.id)) continue;
      const shown = styledStroke(stroke, standing.style);
      if (shown !== stroke && !boxesMeet(strokeBox(shown), box)) continue;
      const list = found.get(stroke.layerId);
      if (list) list.push(shown);
      else found.set(stroke.layerId, [shown]);
    }
    for (const list of found.values()) list.sort(byOrder);
    return found;
  }

  /** Strokes of one layer whose boxes meet `box`, as they are kept, in no order. */
  onLayer(layerId: EntityId, box: Box): StrokeEntity[] {
    return this.tree.search(growBox(box, this.slack)).filter((stroke) => stroke.layerId === layerId);
  }

  /** All strokes of one layer, as they are kept, in no order. */
  unorderedOn(layerId: EntityId): StrokeEntity[] {
    const found: StrokeEntity[] = [];
    for (const { stroke } of this.leaves.values()) if (stroke.layerId === layerId) found.push(stroke);
    return found;
  }

  /** The same, lowest first. */
  allOn(layerId: EntityId): StrokeEntity[] {
    return this.unorderedOn(layerId).sort(byOrder);
  }

  /** The stroke of that id as it is kept, if it is there. */
  get(id: EntityId): StrokeEntity | undefined {
    return this.leaves.get(id)?.stroke;
  }

  /** A stroke as its layer shows it. */
  shown(stroke: StrokeEntity): StrokeEntity {
    return styledStroke(stroke, this.layers.get(stroke.layerId)?.style);
  }

  /** Whether a stroke is laid down as it is: ink on a layer that shows it whole. */
  isPlain({ layerId, nib }: StrokeEntity): boolean {
    return nib.lays === undefined && this.isWhole(layerId);
  }

  /** Whether nothing visible that touches the stroke's box is painted after it. */
  isTopmost(stroke: StrokeEntity): boolean {
    const later = (other: StrokeEntity) =>
      this.rankOf(other.layerId) - this.rankOf(stroke.layerId) || byOrder(other, stroke);
    const box = strokeBox(this.shown(stroke));
    for (const [id, { node, rank, isShown }] of this.layers)
      if (node.layer.medium === 'wash' && isShown && rank > this.rankOf(stroke.layerId))
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

  /** By how much styles may make strokes reach beyond the boxes they are kept under, page px. */
  private get slack(): number {
    let slack = 0;
    for (const { style } of this.layers.values())
      if (style && (style.nib || style.widthFactor > 1))
        slack = Math.max(slack, (style.widthFactor * (style.nib?.size ?? this.widest)) / 2);
    return slack;
  }

  /** Some at a time: tens of thousands of boxes at once would hold up the hand. */
  private async loadInParts(strokes: readonly StrokeEntity[]): Promise<void> {
    const { leaves } = this;
    for (let from = 0; from < strokes.length; from += PART) {
      if (from > 0) await breath();
      // What was edited meanwhile is there already, or gone.
      const now = this.page.entities;
      this.loadSome(strokes.slice(from, from + PART).filter((one) => !leaves.has(one.id) && now.get(one.id) === one));
    }
  }

  private loadSome(strokes: readonly StrokeEntity[]): void {
    const leaves = strokes.map(leafOf);
    for (const leaf of leaves) this.note(leaf);
    this.tree.add(leaves);
  }

  private note(leaf: Leaf): void {
    const { id, layerId, order, nib } = leaf.stroke;
    const old = this.leaves.get(id);
    if (old) this.tree.remove([old]);
    this.widest = Math.max(this.widest, nib.size);
    this.leaves.set(id, leaf);
    const top = this.tops.get(layerId);
    if (top === undefined || order > top) this.tops.set(layerId, order);
  }
}
