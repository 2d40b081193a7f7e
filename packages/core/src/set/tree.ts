import type { Ray } from './blocker';

/** Numbers of a box in space: least x, y, z, then most. */
export const BOX = 6;

/** Items under which nothing is parted any more. */
const LEAF = 4;

/**
 * Boxes in space, found by what they may meet: a tree that halves them along the longest side at the median of their
 * middles. Flat arrays: a node is its box, and where its items, or its second child, lie.
 */
export class BoxTree {
  private readonly items: Uint32Array;
  private readonly nodes: Float64Array;
  /** Of a leaf its items, first and count; of any other the number of its second child, and 0. */
  private readonly kids: Int32Array;
  private used = 0;
  private readonly stack = new Int32Array(128);
  private readonly ray = new Float64Array(6);

  constructor(private readonly boxes: Float64Array) {
    const count = boxes.length / BOX;
    this.items = Uint32Array.from({ length: count }, (_, k) => k);
    const most = Math.max(1, 2 * count);
    this.nodes = new Float64Array(BOX * most);
    this.kids = new Int32Array(2 * most);
    if (count > 0) this.build(0, count);
  }

  private build(from: number, to: number): number {
    const node = this.used++;
    const { boxes, items, nodes, kids } = this;
    const at = BOX * node;
    const middle = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
    for (let axis = 0; axis < 3; axis++) {
      let low = Infinity;
      let high = -Infinity;
      for (let k = from; k < to; k++) {
        const box = BOX * items[k] + axis;
        const [a, b] = [boxes[box], boxes[box + 3]];
        if (a < low) low = a;
        if (b > high) high = b;
        const m = a + b;
        if (m < middle[axis]) middle[axis] = m;
        if (m > middle[axis + 3]) middle[axis + 3] = m;
      }
      nodes[at + axis] = low;
      nodes[at + axis + 3] = high;
    }
    const spread = [0, 1, 2].map((axis) => middle[axis + 3] - middle[axis]);
    const axis = spread.indexOf(Math.max(...spread));
    if (to - from <= LEAF || !(spread[axis] > 0)) {
      kids[2 * node] = from;
      kids[2 * node + 1] = to - from;
      return node;
    }
    const half = (from + to) >> 1;
    items
      .subarray(from, to)
      .sort(
        (p, q) => boxes[BOX * p + axis] + boxes[BOX * p + axis + 3] - boxes[BOX * q + axis] - boxes[BOX * q + axis + 3],
      );
    this.build(from, half);
    kids[2 * node] = this.build(half, to);
    kids[2 * node + 1] = 0;
    return node;
  }

  /** Calls back for every item whose box meets another one. */
  inBox(box: ArrayLike<number>, found: (item: number) => void): void {
    if (this.used === 0) return;
    const { nodes, kids, items, stack, boxes } = this;
    let depth = 0;
    stack[depth++] = 0;
    while (depth > 0) {
      const node = stack[--depth];
      if (!boxesTouch(nodes, BOX * node, box)) continue;
      const count = kids[2 * node + 1];
      if (count === 0) {
        stack[depth++] = kids[2 * node];
        stack[depth++] = node + 1;
        continue;
      }
      for (let k = kids[2 * node]; k < kids[2 * node] + count; k++)
        if (boxesTouch(boxes, BOX * items[k], box)) found(items[k]);
    }
  }

  /**
   * Calls back for items whose box a ray meets before so great a share of its way, which each call answers anew: 0 ends it.
   * Answers the last one.
   */
  alongRay({ from, way }: Ray, reach: number, found: (item: number, reach: number) => number): number {
    if (this.used === 0) return reach;
    const { nodes, kids, items, stack, ray } = this;
    for (let axis = 0; axis < 3; axis++) {
      ray[axis] = from[axis];
      ray[axis + 3] = 1 / way[axis];
    }
    let depth = 0;
    stack[depth++] = 0;
    while (depth > 0) {
      const node = stack[--depth];
      if (!rayMeets(nodes, BOX * node, ray, reach)) continue;
      const count = kids[2 * node + 1];
      if (count === 0) {
        stack[depth++] = kids[2 * node];
        stack[depth++] = node + 1;
        continue;
      }
      for (let k = kids[2 * node]; k < kids[2 * node] + count; k++) {
        reach = found(items[k], reach);
        if (reach === 0) return 0;
      }
    }
    return reach;
  }
}

const boxesTouch = (boxes: Float64Array, at: number, box: ArrayLike<number>): boolean =>
  boxes[at] <= box[3] &&
  boxes[at + 3] >= box[0] &&
  boxes[at + 1] <= box[4] &&
  boxes[at + 4] >= box[1] &&
  boxes[at + 2] <= box[5] &&
  boxes[at + 5] >= box[2];

/** Whether a ray (its start, then one over its way) passes a box before `reach` (slabs; Kay & Kajiya 1986). */
function rayMeets(boxes: Float64Array, at: number, ray: Float64Array, reach: number): boolean {
  // A ray along a slab that goes through its very border gives 0 · ∞, which is neither above nor below anything: let be.
  let near = 0;
  let far = reach;
  for (let axis = 0; axis < 3; axis++) {
    const start = ray[axis];
    const inverse = ray[axis + 3];
    const a = (boxes[at + axis] - start) * inverse;
    const b = (boxes[at + axis + 3] - start) * inverse;
    const low = a < b ? a : b;
    const high = a < b ? b : a;
    if (low > near) near = low;
    if (high < far) far = high;
    if (near > far) return false;
  }
  return true;
}
