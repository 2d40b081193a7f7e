import type { Point } from '../math';
import { radiusAt } from './depths';
import { around, type Inked } from './inked';
import type { Said } from '../page';
import { lastNear } from './said';

/** A part of the ink that is wider than lines are. */
export interface Solid extends Point {
  /** The index of its deepest px, and how deep that lies. */
  readonly at: number;
  readonly radius: number;
  readonly isBlack: boolean;
  readonly isUnsure: boolean;
}

/** Solids, and which px belong to one that is black: its number and 1, 0 for all others. */
export interface Solids {
  readonly solids: readonly Solid[];
  readonly blackAt: Uint16Array;
}

/** As many discs long a solid is black for certain. */
const SURELY_BLACK = 4;
/**
 * A band is as wide everywhere: its core is as long as half of its border, and the core's area over that border comes to half of
 * its own width. Of a disc it is half of that. From the first share on it is a line for certain, up to the second black.
 */
const [SURELY_LINE, SURELY_UNEVEN] = [0.85, 0.65];
/** What is hardly deeper than the widest line, and not much longer than that, is where lines meet. */
const DEEP = 1.35;
const SMALL = 1.3;
/** Discs of its own depth that a black may hang on to be alone. */
const ALONE = 5;
/** Radii that a corner of a black may reach beyond the largest disc in it. */
const CORNER = 4;
/** Solids that are told apart. */
const MOST = 65_000;

/**
 * The blacks in ink: where it is at least `from` px wide, unless it is long and even as a broad line is. What sticks out of a
 * black no farther than it is deep, its corners, belongs to it.
 */
export function solidsOf(inked: Inked, depths: Uint16Array, from: number, said: readonly Said[]): Solids {
  const { width, on } = inked;
  const blackAt = new Uint16Array(on.length);
  const steps = around(width);
  const least = (from / 2 + 0.5) ** 2;
  const solids: Solid[] = [];
  const cores: Int32Array[] = [];
  const heap: number[] = [];
  for (let i = 0; i < on.length && solids.length < MOST; i++) {
    if (depths[i] < least || blackAt[i]) continue;
    const number = solids.length + 1;
    heap.length = 0;
    heap.push(i);
    blackAt[i] = number;
    let best = i;
    for (let head = 0; head < heap.length; head++) {
      const at = heap[head];
      if (depths[at] > depths[best]) best = at;
      for (const step of steps)
        if (depths[at + step] >= least && !blackAt[at + step]) {
          blackAt[at + step] = number;
          heap.push(at + step);
        }
    }
    const radius = radiusAt(depths, best);
    // The core grown again by what was taken off it: a strip of its border for each px of it.
    const border = borderOf(heap, blackAt, number, width).length;
    const grown = heap.length + border * (from / 2);
    const length = grown / (Math.PI * radius * radius);
    const evenness = heap.length / border / Math.max(1, radius - from / 2);
    const isAlone = () => isPatchWithin(inked, best, ALONE * Math.PI * radius * radius);
    const kind = kindOf({ length, radius, from, evenness, isAlone });
    const place = { x: (best % width) - 0.5, y: Math.floor(best / width) - 0.5 };
    const own = lastNear(said, place, ['black', 'line'], Math.max(radius, 4));
    solids.push({
      ...place,
      ...{ at: best, radius },
      isBlack: own ? own.as === 'black' : kind !== 'line',
      isUnsure: !own && kind === 'unsure',
    });
    cores.push(Int32Array.from(heap));
  }
  blackAt.fill(0);
  grow(inked, from / 2 + 0.5, solids, cores, blackAt);
  takeCorners(inked, from / 2, blackAt);
  return { solids, blackAt };
}

interface Measures {
  /** How many discs of its greatest radius it would take to cover it. */
  readonly length: number;
  readonly radius: number;
  readonly from: number;
  readonly evenness: number;
  /** Whether it hangs together with little else; looked at only where that matters. */
  readonly isAlone: () => boolean;
}

function kindOf({ length, radius, from, evenness, isAlone }: Measures) {
  if (radius < (DEEP * from) / 2 && length < SMALL && !isAlone()) return 'line';
  if (length < SURELY_BLACK || evenness < SURELY_UNEVEN) return 'black';
  return evenness > SURELY_LINE ? 'line' : 'unsure';
}

/** Whether all ink that hangs together with a px comes to so many px at most. */
function isPatchWithin({ width, on }: Inked, at: number, most: number): boolean {
  const steps = around(width);
  const patch = [at];
  const seen = new Set(patch);
  for (let head = 0; head < patch.length; head++)
    for (const step of steps) {
      const next = patch[head] + step;
      if (!on[next] || seen.has(next)) continue;
      if (patch.length >= most) return false;
      seen.add(next);
      patch.push(next);
    }
  return true;
}

/** The px of a core at its border. */
function borderOf(core: ArrayLike<number>, numbers: Uint16Array, number: number, width: number): number[] {
  const border: number[] = [];
  for (let k = 0; k < core.length; k++) {
    const i = core[k];
    const isInner =
      numbers[i - 1] === number &&
      numbers[i + 1] === number &&
      numbers[i - width] === number &&
      numbers[i + width] === number;
    if (!isInner) border.push(i);
  }
  return border;
}

/** Marks all ink that a disc of a radius reaches whose middle lies in a core: the core, and the discs about its border. */
function grow(
  { width, on }: Inked,
  radius: number,
  solids: readonly Solid[],
  cores: readonly Int32Array[],
  blackAt: Uint16Array,
): void {
  const reach = Math.floor(radius);
  const spans = Array.from({ length: 2 * reach + 1 }, (_, k) =>
    Math.floor(Math.sqrt(Math.max(0, radius * radius - (k - reach) ** 2))),
  );
  for (const [k, core] of cores.entries()) {
    if (!solids[k].isBlack) continue;
    const number = k + 1;
    for (const i of core) blackAt[i] = number;
    for (const i of borderOf(core, blackAt, number, width))
      for (let dy = -reach; dy <= reach; dy++) {
        const span = spans[dy + reach];
        const row = i + dy * width;
        for (let at = row - span; at <= row + span; at++) if (on[at]) blackAt[at] = number;
      }
  }
}

/**
 * Gives what sticks out of a black, and hangs on nothing else, to it. A disc leaves out 1/sin(α/2) − 1 of its radius in a
 * corner of α, four radii at 23°: what reaches no farther is a corner, and no line.
 */
function takeCorners({ width, on }: Inked, radius: number, blackAt: Uint16Array): void {
  const steps = around(width);
  const seen = new Uint8Array(on.length);
  const most = CORNER * radius + 1;
  for (let i = 0; i < on.length; i++) {
    if (!on[i] || blackAt[i] || seen[i]) continue;
    let number = 0;
    for (const step of steps) number ||= blackAt[i + step];
    if (number === 0) continue;
    const patch = [i];
    seen[i] = 1;
    let isOne = true;
    for (let head = 0; head < patch.length; head++)
      for (const step of steps) {
        const next = patch[head] + step;
        if (blackAt[next] && blackAt[next] !== number) isOne = false;
        if (!on[next] || blackAt[next] || seen[next]) continue;
        seen[next] = 1;
        patch.push(next);
      }
    if (isOne && farthest(patch, steps, blackAt, seen) <= most) for (const at of patch) blackAt[at] = number;
  }
}

/** How many steps a patch reaches out from the black that it hangs on. */
function farthest(patch: readonly number[], steps: readonly number[], blackAt: Uint16Array, seen: Uint8Array): number {
  let ring = patch.filter((i) => steps.some((step) => blackAt[i + step]));
  for (const i of ring) seen[i] = 2;
  for (let far = 1; ; far++) {
    const next: number[] = [];
    for (const i of ring)
      for (const step of steps)
        if (seen[i + step] === 1) {
          seen[i + step] = 2;
          next.push(i + step);
        }
    if (next.length === 0) return far;
    ring = next;
  }
}
