import { carriedBy, cross, dot, quaternionOf, scaled, sum, turnedBy, unit, type Rigid, type Vector } from '../math';
import { BLOCK_LIMITS, rowOf } from './blocks/table';
import { placeMap } from './standing';
import type { BlockEntity, BlockPlace, BlockShape, Size } from './types';

export const sizeOf = (shape: BlockShape): Size => rowOf(shape.kind).size(shape);

/** One of the six sides of the box about a block: which axis of the block it faces, and which way. */
export interface Side {
  readonly axis: 0 | 1 | 2;
  readonly sign: 1 | -1;
  /** Its middle, and the way out, in the set. */
  readonly at: Vector;
  readonly out: Vector;
}

/** The sides of the box about a block by which it is sized. */
export function sidesOf(block: BlockEntity): Side[] {
  const size = sizeOf(block.shape);
  const map = placeMap(block);
  const axes = ([0, 1, 2] as const).filter((axis) => size[axis] > 0);
  return axes.flatMap((axis) =>
    ([1, -1] as const).map((sign): Side => {
      const middle: [number, number, number] = [0, 0, size[2] / 2];
      middle[axis] += (sign * size[axis]) / 2;
      const out: [number, number, number] = [0, 0, 0];
      out[axis] = sign;
      return { axis, sign, at: carriedBy(map, middle), out: turnedBy(map, out) };
    }),
  );
}

/** A block with a side pulled out by so many m; the opposite side stays where it is. */
export function sizedBySide(block: BlockEntity, { axis, sign, out }: Side, by: number): BlockEntity {
  const size = sizeOf(block.shape);
  const { least, most } = BLOCK_LIMITS.length;
  const next = Math.min(most, Math.max(least * 10, size[axis] + by));
  const asked: Size = [axis === 0 ? next : size[0], axis === 1 ? next : size[1], axis === 2 ? next : size[2]];
  const shape = rowOf(block.shape.kind).sized(block.shape, asked);
  const gained = sizeOf(shape)[axis] - size[axis];
  // It stands about the middle of its foot: pulled upwards it stays, pulled down it goes all the way.
  const share = axis === 2 ? (sign > 0 ? 0 : 1) : 0.5;
  return { ...block, shape, at: sum(block.at, scaled(out, gained * share)) };
}

/** Where a block stands that is put on a surface: on a floor it keeps its turn round z, on a wall its x is level. */
export function placedOn(at: Vector, normal: Vector): BlockPlace {
  const level = Math.hypot(normal[0], normal[1]);
  const x: Vector = level < 1e-6 ? [1, 0, 0] : unit([-normal[1], normal[0], 0]);
  const map: Rigid = { axes: [x, cross(normal, x), normal], at };
  return { at, turn: quaternionOf(map) };
}

/** A block turned by radians about its own upright through the middle of its foot. */
export function turnedBlock(block: BlockEntity, angle: number): BlockEntity {
  const [x, y, z, w] = block.turn;
  const [s, c] = [Math.sin(angle / 2), Math.cos(angle / 2)];
  return { ...block, turn: [x * c + y * s, y * c - x * s, z * c + w * s, w * c - z * s] };
}

/** m by which a block's sides are parallel to another's to be snapped to. */
const PARALLEL = 1e-6;

/** What stands along an axis: the nearer side, the farther one. */
type Reach = readonly [low: number, high: number];

/** How a block reaches along a direction, or nothing where none of its sides faces it. */
function reachAlong(block: BlockEntity, way: Vector): Reach | undefined {
  const size = sizeOf(block.shape);
  const map = placeMap(block);
  const isSquare = map.axes.some((axis) => Math.abs(dot(axis, way)) > 1 - PARALLEL);
  if (!isSquare) return undefined;
  const middle = dot(carriedBy(map, [0, 0, size[2] / 2]), way);
  const half = map.axes.reduce((whole, axis, k) => whole + (Math.abs(dot(axis, way)) * size[k]) / 2, 0);
  return [middle - half, middle + half];
}

/** What a block has come upon, for the word beside the hand. */
export type SnappedTo = 'side' | 'middle' | 'equal';

/**
 * By how much a side of a block, or both where it is moved, must go along a direction to lie in one plane with a side or a
 * middle of another block, or as far from its neighbour as that one is from the next; nothing where nothing is within `reach`, m.
 */
export function snapAlong(
  block: BlockEntity,
  others: readonly BlockEntity[],
  way: Vector,
  reach: number,
  sides: 'both' | 'far' = 'both',
): { readonly by: number; readonly to: SnappedTo } | undefined {
  const own = reachAlong(block, way);
  if (!own) return undefined;
  const reaches = others.flatMap((other) => reachAlong(other, way) ?? []);
  let best: { readonly by: number; readonly to: SnappedTo } | undefined;
  const offer = (from: number, to: number, what: SnappedTo) => {
    const by = to - from;
    if (Math.abs(by) <= reach && (!best || Math.abs(by) < Math.abs(best.by))) best = { by, to: what };
  };
  const moving = sides === 'far' ? [own[1]] : own;
  for (const other of pairsOf(reaches)) for (const side of other) for (const mine of moving) offer(mine, side, 'side');
  if (sides === 'both') {
    for (const [low, high] of pairsOf(reaches)) offer((own[0] + own[1]) / 2, (low + high) / 2, 'middle');
    for (const [first, next] of neighbours(pairsOf(reaches))) {
      const gap = next[0] - first[1];
      offer(own[0], next[1] + gap, 'equal');
      offer(own[1], first[0] - gap, 'equal');
    }
  }
  return best;
}

const pairsOf = (flat: readonly number[]): Reach[] =>
  Array.from({ length: flat.length / 2 }, (_, k) => [flat[2 * k], flat[2 * k + 1]] as const);

/** Those that follow each other without overlapping. */
function neighbours(reaches: readonly Reach[]): (readonly [Reach, Reach])[] {
  const sorted = [...reaches].sort((a, b) => a[0] - b[0]);
  return sorted.flatMap((reach, k) => {
    const next = sorted.slice(k + 1).find(([low]) => low > reach[1]);
    return next ? [[reach, next] as const] : [];
  });
}

/** Blocks repeated in a row: each the step further along the first one's own x. */
export function inRow(blocks: readonly BlockEntity[], count: number, step: number): readonly Omit<BlockEntity, 'id'>[] {
  const [first] = blocks;
  if (!first) return [];
  const way = turnedBy(placeMap(first), [1, 0, 0]);
  return Array.from({ length: count }, (_, k) => k + 1).flatMap((k) =>
    blocks.map(({ id: _id, ...block }) => ({ ...block, at: sum(block.at, scaled(way, k * step)) })),
  );
}
