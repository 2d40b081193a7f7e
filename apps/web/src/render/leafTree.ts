import type { Box } from '@true-nib/core/math';
import { markBox, type DrawnEntity } from '@true-nib/core/drawn';
import RBush from 'rbush';
import { breath } from '../base/breath';

/** Leaves that come or go one by one; more are loaded in one go, and taken out a few at a time. */
const FEW = 40;
/** Leaves taken out of the tree between two breaths: a few ms. */
const SWEPT = 150;

export interface Leaf extends Box {
  readonly entity: DrawnEntity;
  /** Whether it is only still in the tree because nobody has swept it out yet. */
  isGone: boolean;
}

export const leafOf = (entity: DrawnEntity): Leaf => ({ ...markBox(entity), entity, isGone: false });

/** The boxes of what was drawn in an R-tree (rbush), of which thousands may come or go at once without holding up the hand. */
export class LeafTree {
  private readonly tree = new RBush<Leaf>();
  private readonly gone: Leaf[] = [];
  private sweeping: Promise<void> | undefined;

  /** What lies in boxes that meet a box, in no order. */
  search(box: Box): DrawnEntity[] {
    const found: DrawnEntity[] = [];
    for (const leaf of this.tree.search(box)) if (!leaf.isGone) found.push(leaf.entity);
    return found;
  }

  add(leaves: readonly Leaf[]): void {
    if (leaves.length > FEW) this.tree.load(leaves);
    else for (const leaf of leaves) this.tree.insert(leaf);
  }

  remove(leaves: readonly Leaf[]): void {
    for (const leaf of leaves) {
      leaf.isGone = true;
      if (leaves.length <= FEW) this.tree.remove(leaf);
    }
    if (leaves.length <= FEW) return;
    this.gone.push(...leaves);
    this.sweeping ??= this.sweep();
  }

  /** Whether leaves are left that are gone. */
  get isSweeping(): boolean {
    return this.sweeping !== undefined;
  }

  private async sweep(): Promise<void> {
    while (this.gone.length > 0) {
      await breath();
      for (const leaf of this.gone.splice(-SWEPT)) this.tree.remove(leaf);
    }
    this.sweeping = undefined;
  }
}
