import { dot, lengthOfVector, minus, rigidBack, turnedBack, type Rigid, type Vector } from '../math';
import { awayFrom, firstHit, type Blocker, type Ray } from './blocker';
import { readyFor, type Ready } from './ready';
import { normalAt, type Course, type Edge, type Solid } from './solid';
import { BOX, BoxTree } from './tree';
import type { LinesOfBlock } from './types';

/** A block in the set's space, ready to be looked at. */
export interface StandingBlock {
  readonly id: string;
  readonly solid: Solid;
  readonly lines: LinesOfBlock;
  /** Lines that were drawn on its faces. */
  readonly marks: readonly Course[];
}

/** Where two blocks go through each other: a line on a surface of each, by their numbers in their solids. */
export interface Contact {
  readonly course: Course;
  readonly sides: readonly [number, number];
}

/** A block as an eye has it: its surfaces have numbers from `first` on. */
export interface SeenBlock {
  readonly id: string;
  readonly lines: LinesOfBlock;
  readonly closed: boolean;
  readonly first: number;
  readonly edges: readonly Edge[];
  readonly marks: readonly Course[];
  /** The eye is within: the backs of its surfaces are what is seen. */
  readonly around: boolean;
}

/** All that stands before an eye, in the set's own space: what is known of a solid is known for every eye. */
export class Scene {
  readonly blocks: readonly SeenBlock[];
  readonly blockers: readonly Blocker[];
  /** The block of each surface. */
  readonly owner: Int32Array;
  readonly eye: Vector;
  private readonly ready: readonly Ready[];
  /** The boxes of whole blocks. */
  private readonly tree: BoxTree;
  /** How each flat surface looks at the eye; NaN for one that is round. */
  private readonly flatFacing: Float64Array;

  /** `map` takes the set to the space of the eye. */
  constructor(
    standing: readonly StandingBlock[],
    readonly map: Rigid,
  ) {
    this.eye = rigidBack(map).at;
    this.ready = standing.map(({ solid }) => readyFor(solid));
    const blockers: Blocker[] = [];
    const firsts = this.ready.map((own) => {
      const first = blockers.length;
      for (const blocker of own.blockers) blockers.push(blocker);
      return first;
    });
    this.blockers = blockers;
    this.owner = new Int32Array(blockers.length);
    firsts.forEach((first, k) => this.owner.fill(k, first, firsts[k + 1] ?? blockers.length));
    const boxes = new Float64Array(BOX * standing.length);
    this.ready.forEach(({ whole }, k) => boxes.set(whole, BOX * k));
    this.tree = new BoxTree(boxes);
    this.flatFacing = Float64Array.from(blockers, (blocker) => facingOf(blocker, this.eye));
    this.blocks = standing.map(({ id, solid: { edges, closed }, lines, marks }, k) => ({
      ...{ id, lines, closed, first: firsts[k], edges, marks },
      around: closed && this.isWithin(k),
    }));
  }

  /** Whether the eye is inside a block: a ray that leaves it there passes an odd number of its surfaces. */
  private isWithin(block: number): boolean {
    const { whole, tree, blockers } = this.ready[block];
    const [x, y, z] = this.eye;
    if (x < whole[0] || y < whole[1] || z < whole[2] || x > whole[3] || y > whole[4] || z > whole[5]) return false;
    // In no way that anything stands in.
    const ray: Ray = { from: this.eye, way: [0.3183, -0.1447, 0.9369] };
    let count = 0;
    tree.alongRay(ray, Infinity, (item, reach) => {
      for (let t = firstHit(blockers[item], ray, 0, Infinity); t < Infinity; count++)
        t = firstHit(blockers[item], ray, t * (1 + 1e-12), Infinity);
      return reach;
    });
    return count % 2 === 1;
  }

  /** Goes along a ray through the surfaces of all blocks, as `BoxTree.alongRay` does. */
  private alongRay(ray: Ray, reach: number, found: (item: number, reach: number) => number): void {
    this.tree.alongRay(ray, reach, (block, before) => {
      const { first } = this.blocks[block];
      return this.ready[block].tree.alongRay(ray, before, (item, now) => found(first + item, now));
    });
  }

  /** Whether anything lies before a place, but for two surfaces that it lies on. */
  isHidden(place: Vector, own: readonly number[]): boolean {
    const { blockers } = this;
    const ray: Ray = { from: this.eye, way: minus(place, this.eye) };
    const [first, second] = own;
    let isHidden = false;
    this.alongRay(ray, BEFORE, (item, reach) => {
      if (item === first || item === second) return reach;
      isHidden = firstHit(blockers[item], ray, 1e-9, BEFORE) < Infinity;
      return isHidden ? 0 : reach;
    });
    return isHidden;
  }

  /** The nearest surface in a direction from the eye, and how far along it lies; nothing where there is none. */
  nearest(way: Vector): { readonly item: number; readonly at: number } | undefined {
    const ray: Ray = { from: this.eye, way };
    let at = Infinity;
    let item = -1;
    this.alongRay(ray, Infinity, (one, reach) => {
      const t = firstHit(this.blockers[one], ray, 1e-9, reach);
      if (t >= reach) return reach;
      at = t;
      item = one;
      return t;
    });
    return item < 0 ? undefined : { item, at };
  }

  /** Calls back for every surface whose box meets another one. */
  inBox(box: ArrayLike<number>, found: (item: number) => void): void {
    this.tree.inBox(box, (block) => {
      const { first } = this.blocks[block];
      this.ready[block].tree.inBox(box, (item) => found(first + item));
    });
  }

  /** The direction in the set of one in the space of the eye. */
  inSet(way: Vector): Vector {
    return turnedBack(this.map, way);
  }

  /** How a surface looks at the eye at a place on it: above 0 with its front, below with its back, 0 edge-on. */
  facing(item: number, place: Vector): number {
    const flat = this.flatFacing[item];
    const toEye = flat === flat ? flat : roundFacing(this.blockers[item], place, this.eye);
    if (Math.abs(toEye) < EDGE_ON) return 0;
    return this.blocks[this.owner[item]].around ? -toEye : toEye;
  }

  /** Whether both surfaces are one plane there. */
  isOnePlane(a: number, b: number, place: Vector): boolean {
    if (a === b) return true;
    const [first, second] = [this.blockers[a], this.blockers[b]];
    if (Math.abs(dot(normalAt(first.surface, place), normalAt(second.surface, place))) < 1 - 1e-9) return false;
    const far = lengthOfVector(minus(place, this.eye));
    return Math.abs(awayFrom(first, place) - awayFrom(second, place)) < 1e-6 * far;
  }
}

/** How much of the way to a place counts as before it. */
const BEFORE = 1 - 1e-6;
/** The sine of the angle under which a surface is seen edge-on. */
const EDGE_ON = 1e-9;

function facingOf({ surface, offset }: Blocker, eye: Vector): number {
  if (surface.kind !== 'face' && surface.kind !== 'disc') return NaN;
  const on = surface.kind === 'face' ? surface.rings[0][0] : surface.centre;
  return (dot(surface.normal, eye) - offset) / (lengthOfVector(minus(on, eye)) || 1);
}

function roundFacing({ surface }: Blocker, place: Vector, eye: Vector): number {
  const way = minus(eye, place);
  return dot(normalAt(surface, place), way) / (lengthOfVector(way) || 1);
}
