import type { Box } from '@true-nib/core/math';
import {
  byOrder,
  layersOf,
  ofKind,
  type Edit,
  type EntityId,
  type LayerEntity,
  type Page,
  type StrokeEntity,
} from '@true-nib/core/page';
import RBush from 'rbush';
import { strokeBox } from './inkPaint';

interface Leaf extends Box {
  readonly stroke: StrokeEntity;
}

/** Where the strokes of a page lie, and in which order they are painted. Kept up to date edit by edit. */
export class StrokeIndex {
  private readonly tree = new RBush<Leaf>();
  private readonly leaves = new Map<EntityId, Leaf>();
  private readonly tops = new Map<EntityId, string>();
  private layers = new Map<EntityId, { readonly layer: LayerEntity; readonly rank: number }>();

  constructor(page: Page) {
    this.rank(page);
    const leaves = ofKind(page, 'stroke').map(leafOf);
    for (const leaf of leaves) this.note(leaf);
    this.tree.load(leaves);
  }

  get size(): number {
    return this.leaves.size;
  }

  /** Takes over edits that led to `page`. */
  update(page: Page, edits: readonly Edit[]): void {
    if (edits.some(({ before, after }) => before?.kind === 'layer' || after?.kind === 'layer')) this.rank(page);
    for (const { before, after } of edits) {
      if (before?.kind === 'stroke') this.remove(before.id);
      if (after?.kind === 'stroke') this.insert(after);
    }
  }

  /** Visible strokes whose boxes meet `box`, in painting order. */
  within(box: Box): StrokeEntity[] {
    return this.tree
      .search(box)
      .map(({ stroke }) => stroke)
      .filter((stroke) => this.isVisible(stroke))
      .sort((a, b) => this.rankOf(a) - this.rankOf(b) || byOrder(a, b));
  }

  /** Strokes of one layer whose boxes meet `box`, in no order. */
  onLayer(layerId: EntityId, box: Box): StrokeEntity[] {
    return this.tree.search(box).flatMap(({ stroke }) => (stroke.layerId === layerId ? [stroke] : []));
  }

  /** Whether nothing visible that touches the stroke's box is painted after it. */
  isTopmost(stroke: StrokeEntity): boolean {
    const later = (other: StrokeEntity) => this.rankOf(other) - this.rankOf(stroke) || byOrder(other, stroke);
    return this.tree
      .search(strokeBox(stroke))
      .every(({ stroke: other }) => later(other) <= 0 || !this.isVisible(other));
  }

  /** An order key at least as high as any that a stroke of the layer has; nothing for a layer that never had one. */
  topOrder(layerId: EntityId): string | undefined {
    return this.tops.get(layerId);
  }

  isVisible(stroke: StrokeEntity): boolean {
    const place = this.layers.get(stroke.layerId);
    return place !== undefined && !place.layer.hidden;
  }

  private rankOf(stroke: StrokeEntity): number {
    return this.layers.get(stroke.layerId)?.rank ?? -1;
  }

  private rank(page: Page): void {
    this.layers = new Map(layersOf(page).map((layer, rank) => [layer.id, { layer, rank }]));
  }

  private insert(stroke: StrokeEntity): void {
    this.remove(stroke.id);
    const leaf = leafOf(stroke);
    this.note(leaf);
    this.tree.insert(leaf);
  }

  private note(leaf: Leaf): void {
    const { id, layerId, order } = leaf.stroke;
    this.leaves.set(id, leaf);
    const top = this.tops.get(layerId);
    if (top === undefined || order > top) this.tops.set(layerId, order);
  }

  private remove(id: EntityId): void {
    const leaf = this.leaves.get(id);
    if (!leaf) return;
    this.leaves.delete(id);
    this.tree.remove(leaf);
  }
}

const leafOf = (stroke: StrokeEntity): Leaf => ({ ...strokeBox(stroke), stroke });
