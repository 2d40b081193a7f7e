import { nodeAt, nodeCount, partOf, segmentCount, startedAt, type Spine } from '../curve';
import { PageError } from '../gate';
import { asPanelRing, type Panel } from '../panel';
import { distance, type Point } from '../math';
import { facingSides } from './borders';
import { besideLine, closedSpine, endOf, isStraight, lineThrough, sideEnds, startOf, wayBetween } from './sides';

/** Page px within which two corners are one. */
const SAME = 0.01;

/**
 * The ring round two panels and the gutter between them. Throws a PageError for panels that do not lie side by side along one
 * gutter.
 */
export function joinedRing(a: Panel, b: Panel, widest: number): Spine {
  const sides = facingSides(a.ring, b.ring, widest);
  if (!sides) throw new PageError('Only panels that lie side by side, with a gutter between them, can be joined.');
  const [first, second] = [withoutSide(a.ring, sides[0]), withoutSide(b.ring, sides[1])];
  const [own, other] = [sideEnds(a.ring, sides[0]), sideEnds(b.ring, sides[1])];
  const parts = [
    first,
    ...between(endOf(first), startOf(second), other, own),
    second,
    ...between(endOf(second), startOf(first), own, other),
  ];
  return asPanelRing(straightened(closedSpine(parts)));
}

/** All of a ring but one side, from that side's end round to its start. */
function withoutSide(ring: Spine, side: number): Spine {
  const turned = startedAt(ring, (side + 1) % segmentCount(ring));
  return partOf(turned, 0, segmentCount(turned) - 1);
}

/**
 * The way over the gutter from a corner of one panel to one of the other: straight, and where one side is longer than the other
 * along the longer one.
 */
function between(from: Point, to: Point, own: readonly [Point, Point], other: readonly [Point, Point]): Spine[] {
  const foot = footOn(from, own) ?? footOn(to, other);
  const corners = [from, ...(foot && distance(foot, from) > SAME && distance(foot, to) > SAME ? [foot] : []), to];
  if (distance(from, to) <= SAME) return [];
  return corners.slice(1).map((corner, k) => wayBetween(corners[k], corner));
}

/** The foot of a corner on a side, where it lies within it. */
function footOn(at: Point, [from, to]: readonly [Point, Point]): Point | undefined {
  const line = lineThrough(from, to);
  if (!line) return undefined;
  const along = (at.x - line.x) * line.dx + (at.y - line.y) * line.dy;
  const length = distance(from, to);
  if (along < SAME || along > length - SAME) return undefined;
  return { x: line.x + along * line.dx, y: line.y + along * line.dy };
}

/** A ring without the corners on its straight sides. */
function straightened(ring: Spine): Spine {
  const count = nodeCount(ring);
  const isCorner = (node: number) => {
    const before = (node + count - 1) % count;
    if (!isStraight(ring, before) || !isStraight(ring, node)) return true;
    const line = lineThrough(nodeAt(ring, before), nodeAt(ring, (node + 1) % count));
    return !line || Math.abs(besideLine(line, nodeAt(ring, node))) > SAME;
  };
  const nodes = Array.from({ length: count }, (_, node) => node).filter(isCorner);
  const parts = nodes.map((node, k) => {
    const next = nodes[(k + 1) % nodes.length];
    const isWhole = (node + 1) % count === next;
    if (isWhole) return partOf(ring, node, node + 1);
    return wayBetween(nodeAt(ring, node), nodeAt(ring, next));
  });
  return closedSpine(parts);
}
