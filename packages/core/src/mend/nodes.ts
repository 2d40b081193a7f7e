import { endOf, moveNode, nodeAt, nodeCount, removeNode, startedAt, type Spine } from '../curve';
import type { Box, Point } from '../math';
import type { Stroke } from '../stroke';
import { pieceOf } from './cut';
import { stopsOf } from './meetings';

const inOrder = (nodes: ReadonlySet<number>): number[] => [...nodes].sort((a, b) => a - b);

/** The nodes of a line that lie in a box. */
export const nodesWithin = (spine: Spine, { minX, minY, maxX, maxY }: Box): number[] =>
  Array.from({ length: nodeCount(spine) }, (_, node) => node).filter((node) => {
    const { x, y } = nodeAt(spine, node);
    return x >= minX && x <= maxX && y >= minY && y <= maxY;
  });

/** The line with some of its nodes moved by a step, page px, and their handles with them. */
export const moveNodes = (spine: Spine, nodes: ReadonlySet<number>, step: Point): Spine =>
  inOrder(nodes).reduce((moved, node) => moveNode(moved, node, step), spine);

/** The line with some of its nodes on one level, or one upright: the middle of where they were. */
export function alignNodes(spine: Spine, nodes: ReadonlySet<number>, along: 'level' | 'upright'): Spine {
  const axis = along === 'level' ? 'y' : 'x';
  const places = inOrder(nodes).map((node) => ({ node, at: nodeAt(spine, node) }));
  if (places.length < 2) return spine;
  const middle = places.reduce((sum, { at }) => sum + at[axis], 0) / places.length;
  return places.reduce(
    (moved, { node, at }) =>
      moveNode(moved, node, axis === 'y' ? { x: 0, y: middle - at.y } : { x: middle - at.x, y: 0 }),
    spine,
  );
}

/** The line with some of its nodes evenly on the straight way from the first of them to the last. */
export function distributeNodes(spine: Spine, nodes: ReadonlySet<number>): Spine {
  const order = inOrder(nodes);
  if (order.length < 3) return spine;
  const [first, last] = [nodeAt(spine, order[0]), nodeAt(spine, order[order.length - 1])];
  return order.reduce((moved, node, k) => {
    const share = k / (order.length - 1);
    const at = nodeAt(spine, node);
    return moveNode(moved, node, {
      x: first.x + share * (last.x - first.x) - at.x,
      y: first.y + share * (last.y - first.y) - at.y,
    });
  }, spine);
}

/** The line without some of its nodes, its shape kept as well as may be. Throws a RangeError where too few would be left. */
export function removeNodes(spine: Spine, nodes: ReadonlySet<number>): Spine {
  if (nodeCount(spine) - nodes.size < 2) throw new RangeError('A line needs two nodes at least.');
  return inOrder(nodes).reduceRight((left, node) => removeNode(left, node), spine);
}

/** A line in two at a place, which look as it did; a ring is opened there. Nothing at the ends of an open line. */
export function brokenAt<S extends Stroke>(stroke: S, place: number): S[] | undefined {
  const { spine, ends } = stroke;
  const last = endOf(spine);
  if (spine.closed) {
    const whole = { ...stroke, spine: { ...startedAt(spine, place), closed: false } };
    return [pieceOf(whole, { at: 0, end: 'flat' }, { at: endOf(whole.spine), end: 'flat' })];
  }
  if (place <= 1e-9 || place >= last - 1e-9) return undefined;
  return [
    pieceOf(stroke, { at: 0, end: ends[0] }, { at: place, end: 'flat' }),
    pieceOf(stroke, { at: place, end: 'flat' }, { at: last, end: ends[1] }),
  ];
}

/** The crossing of a line with others, or with itself, that is nearest to a place on it. */
export function crossingNear<S extends Stroke>(stroke: S, place: number, others: Iterable<S>): number | undefined {
  return stopsOf(stroke, others)
    .map(({ at }) => at)
    .sort((a, b) => Math.abs(a - place) - Math.abs(b - place))[0];
}
