import { dot, lengthOfVector, type Rigid, type Vector } from '../math';
import { awayFrom, blockerOf, firstHit, writeBox, type Blocker } from './blocker';
import { courseUnder, normalAt, solidUnder, type Course, type Edge, type Solid } from './solid';
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

/** A block as the eye has it: surfaces from number `first` on. */
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

/** All that stands before an eye, in the eye's own space. */
export class Scene {
  readonly blocks: readonly SeenBlock[];
  readonly blockers: readonly Blocker[];
  /** The block of each surface. */
  readonly owner: Int32Array;
  readonly tree: BoxTree;
  /** How each flat surface looks at the eye; NaN for one that is round. */
  private readonly flatFacing: Float64Array;

  /** `map` takes the set to the space of the eye. */
  constructor(
    standing: readonly StandingBlock[],
    readonly map: Rigid,
  ) {
    const blockers: Blocker[] = [];
    const owner: number[] = [];
    const bare = standing.map(({ id, solid, lines, marks }, k) => {
      const first = blockers.length;
      const { surfaces, edges, closed } = solidUnder(map, solid);
      for (const surface of surfaces) {
        blockers.push(blockerOf(surface));
        owner.push(k);
      }
      return { id, lines, closed, first, edges, marks: marks.map((mark) => courseUnder(map, mark)) };
    });
    this.blockers = blockers;
    this.owner = Int32Array.from(owner);
    const boxes = new Float64Array(BOX * blockers.length);
    blockers.forEach(({ surface }, k) => writeBox(surface, boxes, BOX * k));
    this.tree = new BoxTree(boxes);
    this.flatFacing = Float64Array.from(blockers, flatFacing);
    const around = this.blocksAround(boxes);
    this.blocks = bare.map((block, k) => ({ ...block, around: block.closed && around.has(k) && this.isWithin(k) }));
  }

  /** The blocks whose box holds the eye. */
  private blocksAround(boxes: Float64Array): ReadonlySet<number> {
    const whole = new Map<number, number[]>();
    for (let item = 0; item < this.owner.length; item++) {
      const known = whole.get(this.owner[item]);
      const own = boxes.subarray(BOX * item, BOX * (item + 1));
      if (!known) whole.set(this.owner[item], [...own]);
      else
        for (let k = 0; k < 3; k++)
          [known[k], known[k + 3]] = [Math.min(known[k], own[k]), Math.max(known[k + 3], own[k + 3])];
    }
    const holds = ([x, y, z, a, b, c]: number[]) => x < 0 && y < 0 && z < 0 && a > 0 && b > 0 && c > 0;
    return new Set([...whole].flatMap(([block, box]) => (holds(box) ? [block] : [])));
  }

  /** Whether the eye is inside a block: a ray that leaves it there passes an odd number of its surfaces. */
  private isWithin(block: number): boolean {
    // In no way that anything stands in.
    const way: Vector = [0.3183, -0.1447, 0.9369];
    let count = 0;
    this.tree.alongRay(way, Infinity, (item, reach) => {
      if (this.owner[item] !== block) return reach;
      for (let t = firstHit(this.blockers[item], way, 0, Infinity); t < Infinity; count++)
        t = firstHit(this.blockers[item], way, t * (1 + 1e-12), Infinity);
      return reach;
    });
    return count % 2 === 1;
  }

  /** Whether anything lies before a place, but for two surfaces that it lies on. */
  isHidden(place: Vector, own: readonly number[]): boolean {
    const { blockers } = this;
    const [first, second] = own;
    let isHidden = false;
    this.tree.alongRay(place, BEFORE, (item, reach) => {
      if (item === first || item === second) return reach;
      isHidden = firstHit(blockers[item], place, 1e-9, BEFORE) < Infinity;
      return isHidden ? 0 : reach;
    });
    return isHidden;
  }

  /** The nearest surface in a direction, and how far along it lies; nothing where there is none. */
  nearest(way: Vector): { readonly item: number; readonly at: number } | undefined {
    let at = Infinity;
    let item = -1;
    this.tree.alongRay(way, Infinity, (one, reach) => {
      const t = firstHit(this.blockers[one], way, 1e-9, reach);
      if (t >= reach) return reach;
      at = t;
      item = one;
      return t;
    });
    return item < 0 ? undefined : { item, at };
  }

  /** How a surface looks at the eye at a place on it: above 0 with its front, below with its back, 0 edge-on. */
  facing(item: number, place: Vector): number {
    const flat = this.flatFacing[item];
    const toEye =
      flat === flat ? flat : -dot(normalAt(this.blockers[item].surface, place), place) / lengthOfVector(place);
    if (Math.abs(toEye) < EDGE_ON) return 0;
    return this.blocks[this.owner[item]].around ? -toEye : toEye;
  }

  /** Whether both surfaces are one plane there. */
  isOnePlane(a: number, b: number, place: Vector): boolean {
    if (a === b) return true;
    const [first, second] = [this.blockers[a], this.blockers[b]];
    if (Math.abs(dot(normalAt(first.surface, place), normalAt(second.surface, place))) < 1 - 1e-9) return false;
    return Math.abs(awayFrom(first, place) - awayFrom(second, place)) < 1e-6 * lengthOfVector(place);
  }
}

/** How much of the way to a place counts as before it. */
const BEFORE = 1 - 1e-6;
/** The sine of the angle under which a surface is seen edge-on. */
const EDGE_ON = 1e-9;

const flatFacing = ({ surface, offset }: Blocker): number => {
  if (surface.kind === 'face') return -offset / lengthOfVector(surface.rings[0][0]);
  return surface.kind === 'disc' ? -offset / lengthOfVector(surface.centre) : NaN;
};
