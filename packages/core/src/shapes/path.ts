import { bendSegment, makeSpine, SEGMENT, type Spine, type SpinePlace } from '../curve';
import { distance, type Point } from '../math';

/** A node of a path that is being built, with its handles where it has any. */
export interface PathNode extends Point {
  readonly into?: Point;
  readonly out?: Point;
}

/** A course that is being built node by node. */
export interface Path {
  readonly nodes: readonly PathNode[];
  readonly closed: boolean;
}

export const emptyPath: Path = { nodes: [], closed: false };

/** The path with a corner more at its end. */
export const withCorner = ({ nodes }: Path, { x, y }: Point): Path => ({ nodes: [...nodes, { x, y }], closed: false });

/** The path whose last node is smooth: the hand drags its outgoing handle, the other one mirrors it. */
export function withHandle({ nodes, closed }: Path, out: Point): Path {
  const last = nodes[nodes.length - 1];
  const into = { x: 2 * last.x - out.x, y: 2 * last.y - out.y };
  return { nodes: [...nodes.slice(0, -1), { x: last.x, y: last.y, into, out }], closed };
}

/** The path whose last node goes on straight: its outgoing handle is dropped. */
export function withoutOut({ nodes, closed }: Path): Path {
  const { out: _dropped, ...last } = nodes[nodes.length - 1];
  return { nodes: [...nodes.slice(0, -1), last], closed };
}

/** The path run back into its first node; one of fewer than two nodes stays as it is. */
export const closedPath = (path: Path): Path => (path.nodes.length < 2 ? path : { ...path, closed: true });

/** The path whose first node, into which it was closed, is smooth. */
export function withClosingHandle({ nodes }: Path, into: Point): Path {
  const [first, ...rest] = nodes;
  return { nodes: [{ ...first, into }, ...rest], closed: true };
}

/** The path without its last node. */
export const withoutLast = ({ nodes }: Path): Path => ({ nodes: nodes.slice(0, -1), closed: false });

/** The path bent so that a place on it lies elsewhere; nodes through which it goes smoothly stay smooth. */
export function bentPath(path: Path, place: SpinePlace, to: Point): Path {
  const course = pathCourse(path);
  if (!course) return path;
  const { points } = bendSegment(course, place, to);
  const i = place.segment * SEGMENT;
  const next = (place.segment + 1) % path.nodes.length;
  const nodes = path.nodes.map((node, k) => {
    const leaving = k === place.segment ? withMoved(node, 'out', { x: points[i + 3], y: points[i + 4] }) : node;
    return k === next ? withMoved(leaving, 'into', { x: points[i + 6], y: points[i + 7] }) : leaving;
  });
  return { ...path, nodes };
}

/** A node with a handle elsewhere; the other one of a smooth node turns with it. */
function withMoved(node: PathNode, side: 'into' | 'out', to: Point): PathNode {
  const moved = { ...node, [side]: to };
  const other = side === 'out' ? node.into : node.out;
  const away = distance(node, to);
  if (!other || !isSmooth(node) || away < 1e-9) return moved;
  const share = distance(node, other) / away;
  const turned = { x: node.x - share * (to.x - node.x), y: node.y - share * (to.y - node.y) };
  return side === 'out' ? { ...moved, into: turned } : { ...moved, out: turned };
}

/** Whether both handles of a node lie on a line through it, on either side. */
function isSmooth({ x, y, into, out }: PathNode): boolean {
  if (!into || !out) return false;
  const [ax, ay, bx, by] = [x - into.x, y - into.y, out.x - x, out.y - y];
  return ax * bx + ay * by > 0 && Math.abs(ax * by - ay * bx) < 1e-6 * (ax * bx + ay * by);
}

/** The course of a path, of width 1; nothing while it has no two nodes. */
export function pathCourse({ nodes, closed }: Path): Spine | undefined {
  if (nodes.length < 2) return undefined;
  const points = [nodes[0].x, nodes[0].y, 1];
  const ends = closed ? [...nodes.slice(1), nodes[0]] : nodes.slice(1);
  ends.forEach((end, k) => {
    const start = nodes[k];
    const first = start.out ?? third(start, end, end.into ? 0 : 1 / 3);
    const second = end.into ?? third(end, start, start.out ? 0 : 1 / 3);
    points.push(first.x, first.y, 1, second.x, second.y, 1, end.x, end.y, 1);
  });
  return makeSpine(Float64Array.from(points), closed);
}

/** A handle that a straight stretch has a third of the way along, and a curved one not at all. */
const third = (from: Point, to: Point, share: number): Point => ({
  x: from.x + (to.x - from.x) * share,
  y: from.y + (to.y - from.y) * share,
});
