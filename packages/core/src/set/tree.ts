import type { Vector } from '../math';

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
   * Calls back for items whose box the ray from the origin through `way` meets before `way` times `reach`, which each call
   * answers anew: 0 ends it.
   */
  alongRay(way: Vector, reach: number, found: (item: number, reach: number) => number): void {
    if (this.used === 0) return;
    const { nodes, kids, items, stack } = this;
    const [ix, iy, iz] = [1 / way[0], 1 / way[1], 1 / way[2]];
    let depth = 0;
    stack[depth++] = 0;
    while (depth > 0) {
      const node = stack[--depth];
      if (!rayMeets(nodes, BOX * node, ix, iy, iz, reach)) continue;
      const count = kids[2 * node + 1];
      if (count === 0) {
        stack[depth++] = kids[2 * node];
        stack[depth++] = node + 1;
        continue;
      }
      for (let k = kids[2 * node]; k < kids[2 * node] + count; k++) {
        reach = found(items[k], reach);
        if (reach === 0) return;
      }
    }
  }
}

const boxesTouch = (boxes: Float64Array, at: number, box: ArrayLike<number>): boolean =>
  boxes[at] <= box[3] &&
  boxes[at + 3] >= box[0] &&
  boxes[at + 1] <= box[4] &&
  boxes[at + 4] >= box[1] &&
  boxes[at + 2] <= box[5] &&
  boxes[at + 5] >= box[2];

/* eslint-disable max-params -- plain numbers for the inner loop */
/** Whether a ray from the origin passes a box before `reach` (slabs; Kay & Kajiya 1986). */
function rayMeets(boxes: Float64Array, at: number, ix: number, iy: number, iz: number, reach: number): boolean {
  // A ray along a slab that goes through its very border gives 0 · ∞, which is neither above nor below anything: let be.
  let near = 0;
  let far = reach;
  let a = boxes[at] * ix;
  let b = boxes[at + 3] * ix;
  if (a < b) {
    if (a > near) near = a;
    if (b < far) far = b;
  } else {
    if (b > near) near = b;
    if (a < far) far = a;
  }
  if (near > far) return false;
  a = boxes[at + 1] * iy;
  b = boxes[at + 4] * iy;
  if (a < b) {
    if (a > near) near = a;
    if (b < far) far = b;
  } else {
    if (b > near) near = b;
    if (a < far) far = a;
  }
  if (near > far) return false;
  a = boxes[at + 2] * iz;
  b = boxes[at + 5] * iz;
  if (a < b) {
    if (a > near) near = a;
    if (b < far) far = b;
  } else {
    if (b > near) near = b;
    if (a < far) far = a;
  }
  return near <= far;
}
