import { radiusAt } from './depths';
import { around, type Inked } from './inked';

/** An end of a branch: where it begins, and half the width of the ink there. */
export interface BranchEnd {
  node: number;
  radius: number;
  /** It was taken off at a black: the line runs into it. */
  isAtBlack: boolean;
}

/** A stretch of a thinned line between two nodes, or a ring that meets none. */
export interface Branch {
  readonly id: number;
  /** The px that it begins with: its name as long as the ink is the same. */
  readonly name: number;
  /** The middles of its px, x, y, from the first end to the second. */
  way: Float64Array;
  /** Half the width of the ink at each of them. */
  radii: Float64Array;
  readonly ends: [BranchEnd, BranchEnd];
  readonly isRing: boolean;
}

/** A place where branches end. */
export interface GraphNode {
  x: number;
  y: number;
  /** Half the width of the ink there. */
  radius: number;
  /** Branches that end here: twice the number of a branch, and 1 more for its second end. */
  ends: number[];
}

/** Thinned lines as a graph. Branches and nodes that are gone leave a gap in their list. */
export interface Graph {
  readonly nodes: (GraphNode | undefined)[];
  readonly branches: (Branch | undefined)[];
}

export const other = (end: number): number => end ^ 1;

/** The graph of lines thinned to one px; `depths` say how wide the ink was. */
export const graphOf = (thinned: Inked, depths: Uint16Array): Graph => new GraphMaker(thinned, depths).made();

/** Walks along thinned lines, from where they meet or end, and makes a graph of them. */
class GraphMaker {
  private readonly nodes: (GraphNode | undefined)[] = [];
  private readonly branches: (Branch | undefined)[] = [];
  private readonly steps: readonly number[];
  /** The px where lines meet or end: all that have not two neighbours. */
  private readonly joints: number[] = [];
  private readonly isJoint: Uint8Array;
  private readonly nodeAt = new Map<number, number>();
  private readonly passed: Uint8Array;

  constructor(
    private readonly thinned: Inked,
    private readonly depths: Uint16Array,
  ) {
    this.steps = around(thinned.width);
    this.isJoint = new Uint8Array(thinned.on.length);
    this.passed = new Uint8Array(thinned.on.length);
  }

  made(): Graph {
    const { on, width } = this.thinned;
    this.findJoints();
    for (const joint of this.joints) this.cluster(joint);
    for (const joint of this.joints)
      for (const first of this.neighbours(joint))
        if (!this.isJoint[first] && !this.passed[first]) this.walk(joint, first);
    for (let i = width; i < on.length - width; i++) if (on[i] && !this.passed[i] && !this.isJoint[i]) this.walkRound(i);
    return { nodes: this.nodes, branches: this.branches };
  }

  private findJoints(): void {
    const { on, width } = this.thinned;
    for (let i = width; i < on.length - width; i++) {
      if (!on[i]) continue;
      let count = 0;
      for (const step of this.steps) count += on[i + step];
      if (count === 2) continue;
      this.joints.push(i);
      this.isJoint[i] = 1;
    }
  }

  private neighbours(i: number): number[] {
    const found: number[] = [];
    for (const step of this.steps) if (this.thinned.on[i + step]) found.push(i + step);
    return found;
  }

  /** Joints that touch are one node. */
  private cluster(start: number): void {
    const { nodeAt, nodes, depths } = this;
    if (nodeAt.has(start)) return;
    const { width } = this.thinned;
    const cluster = [start];
    nodeAt.set(start, nodes.length);
    for (let head = 0; head < cluster.length; head++)
      for (const next of this.neighbours(cluster[head]))
        if (this.isJoint[next] && !nodeAt.has(next)) {
          nodeAt.set(next, nodes.length);
          cluster.push(next);
        }
    let [x, y, radius] = [0, 0, 0];
    for (const i of cluster) {
      x += i % width;
      y += Math.floor(i / width);
      radius = Math.max(radius, radiusAt(depths, i));
    }
    nodes.push({ x: x / cluster.length - 0.5, y: y / cluster.length - 0.5, radius, ends: [] });
  }

  /** Goes from a joint to the next one. */
  private walk(joint: number, first: number): void {
    const { passed, isJoint } = this;
    const px = [joint, first];
    passed[first] = 1;
    for (let last = joint, at = first; ;) {
      const next = this.onward(at, last, px.length <= 2 ? joint : -1);
      if (next < 0) break;
      px.push(next);
      if (isJoint[next]) break;
      passed[next] = 1;
      last = at;
      at = next;
    }
    const node = this.nodeAt.get(joint) ?? 0;
    this.add(px, [node, this.nodeAt.get(px[px.length - 1]) ?? node], false);
  }

  /** The px that a line goes on to; −1 where it goes nowhere. */
  private onward(at: number, last: number, joint: number): number {
    for (const step of this.steps) {
      const next = at + step;
      if (!this.thinned.on[next] || next === last || next === joint) continue;
      if (!this.passed[next] || this.isJoint[next]) return next;
    }
    return -1;
  }

  /** Goes round a ring that meets nothing. */
  private walkRound(start: number): void {
    const px = [start];
    this.passed[start] = 1;
    for (let at = start; ;) {
      const next = this.neighbours(at).find((i) => !this.passed[i]);
      if (next === undefined) break;
      this.passed[next] = 1;
      px.push(next);
      at = next;
    }
    this.add(px, [-1, -1], true);
  }

  private add(px: readonly number[], [a, b]: readonly [number, number], isRing: boolean): void {
    const { branches, nodes, depths } = this;
    const { width } = this.thinned;
    const id = branches.length;
    const way = new Float64Array(2 * px.length);
    px.forEach((i, k) => {
      way[2 * k] = (i % width) - 0.5;
      way[2 * k + 1] = Math.floor(i / width) - 0.5;
    });
    const radii = Float64Array.from(px, (i) => radiusAt(depths, i));
    const end = (node: number, radius: number): BranchEnd => ({ node, radius, isAtBlack: false });
    const name = Math.min(px[Math.min(1, px.length - 1)], px[Math.max(0, px.length - 2)]);
    branches.push({ id, name, way, radii, ends: [end(a, radii[0]), end(b, radii[px.length - 1])], isRing });
    if (isRing) return;
    nodes[a]?.ends.push(2 * id);
    nodes[b]?.ends.push(2 * id + 1);
  }
}

/** The length of a way, px. */
export function wayLength(way: Float64Array): number {
  let length = 0;
  for (let i = 2; i < way.length; i += 2) length += Math.hypot(way[i] - way[i - 2], way[i + 1] - way[i - 1]);
  return length;
}

/** Takes a branch out. */
export function dropBranch(graph: Graph, id: number): void {
  const branch = graph.branches[id];
  if (!branch) return;
  graph.branches[id] = undefined;
  for (const [k, { node }] of branch.ends.entries()) {
    const at = graph.nodes[node];
    if (!at) continue;
    at.ends = at.ends.filter((end) => end !== 2 * id + k);
    if (at.ends.length === 0) graph.nodes[node] = undefined;
  }
}

/** Where two branches alone meet, they become one; a branch whose ends meet becomes a ring. */
export function joinAt(graph: Graph, node: number): void {
  const at = graph.nodes[node];
  if (!at || at.ends.length !== 2) return;
  const [p, q] = at.ends;
  const [one, two] = [graph.branches[p >> 1], graph.branches[q >> 1]];
  if (!one || !two) return;
  graph.nodes[node] = undefined;
  if (one === two) {
    graph.branches[one.id] = {
      ...one,
      isRing: true,
      ends: [
        { ...one.ends[0], node: -1 },
        { ...one.ends[1], node: -1 },
      ],
    };
    return;
  }
  // The first runs to the node, the second away from it.
  const first = p & 1 ? one.way : reversedWay(one.way);
  const second = q & 1 ? reversedWay(two.way) : two.way;
  const way = new Float64Array(first.length + second.length);
  way.set(first);
  way.set(second, first.length);
  const radii = new Float64Array(way.length / 2);
  radii.set(p & 1 ? one.radii : one.radii.slice().reverse());
  radii.set(q & 1 ? two.radii.slice().reverse() : two.radii, first.length / 2);
  const [a, b] = [one.ends[1 - (p & 1)], two.ends[1 - (q & 1)]];
  graph.branches[one.id] = { id: one.id, name: Math.min(one.name, two.name), way, radii, ends: [a, b], isRing: false };
  graph.branches[two.id] = undefined;
  const renamed = (ends: number[], from: number, to: number) => ends.map((end) => (end === from ? to : end));
  const far = graph.nodes[a.node];
  if (far) far.ends = renamed(far.ends, other(p), -1);
  const near = graph.nodes[b.node];
  if (near) near.ends = renamed(near.ends, other(q), 2 * one.id + 1);
  if (far) far.ends = renamed(far.ends, -1, 2 * one.id);
}

function reversedWay(way: Float64Array): Float64Array {
  const back = new Float64Array(way.length);
  for (let i = 0; i < way.length; i += 2) {
    back[i] = way[way.length - 2 - i];
    back[i + 1] = way[way.length - 1 - i];
  }
  return back;
}

/** Takes loops off that go round no paper: a hole in ink is gone round by its own border and half of the width beside it. */
export function dropLoops(graph: Graph): void {
  for (const branch of [...graph.branches]) {
    if (!branch || branch.isRing || branch.ends[0].node !== branch.ends[1].node) continue;
    const { node, radius } = branch.ends[0];
    if (wayLength(branch.way) >= 4 * radius) continue;
    dropBranch(graph, branch.id);
    joinAt(graph, node);
  }
}

/** Takes short branches off that end in nothing: the corners of thick ink leave them, no line does. */
export function dropSpurs(graph: Graph, least: number): void {
  for (let again = true; again;) {
    again = false;
    const spurs = graph.branches
      .flatMap((branch) => {
        if (!branch || branch.isRing) return [];
        const [a, b] = branch.ends.map(({ node }) => graph.nodes[node]?.ends.length ?? 0);
        if (Math.min(a, b) !== 1 || Math.max(a, b) < 3) return [];
        const [tip, foot] = a === 1 ? branch.ends : [branch.ends[1], branch.ends[0]];
        const long = wayLength(branch.way) + tip.radius;
        const most = Math.max(1.6 * (graph.nodes[foot.node]?.radius ?? 0) + 1.5, least);
        return long < most ? [{ id: branch.id, node: foot.node, long }] : [];
      })
      .sort((one, two) => one.long - two.long);
    for (const { id, node } of spurs) {
      // Taking one off may leave what hangs there a part of a line.
      if ((graph.nodes[node]?.ends.length ?? 0) < 3) continue;
      dropBranch(graph, id);
      joinAt(graph, node);
      again = true;
    }
  }
}
