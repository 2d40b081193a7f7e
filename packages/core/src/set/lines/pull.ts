import { reweighed, spineLength, STRIDE, type Spine } from '../../curve';
import { growBox, type Box } from '../../math';
import type { Nib } from '../../nib';
import { inked, type Stroke } from '../../stroke';
import { Scene, type Contact, type StandingBlock } from '../scene';
import type { LineSort, PullSettings } from '../types';
import type { View } from '../view';
import { candidatesOf } from './candidates';
import { blocksWithin, boxOfSolid } from '../ready';
import { contactsOf } from './contacts';
import { dashed } from './dashes';
import { runsOf } from './runs';
import { traced } from './traced';
import { visible } from './visible';

/** A line of a set as it is seen. */
export interface PulledLine {
  readonly sort: LineSort;
  /** Names the edge and the piece of it, through all views. */
  readonly key: string;
  /** The block that it belongs to. */
  readonly block: string;
  readonly stroke: Stroke;
}

/** Page px round the picture within which lines are pulled. */
const MARGIN = 40;

/**
 * The lines of blocks that a view sees within a part of the page, as strokes. Yields the share that is done.
 */
export function* pulling(
  standing: readonly StandingBlock[],
  view: View,
  settings: PullSettings,
  page: Box,
): Generator<number, PulledLine[]> {
  const { camera, map } = view;
  const within = growBox(page, MARGIN);
  const blocks = blocksWithin(standing, view, within);
  const scene = new Scene(blocks, map);
  const contacts = settings.nibs.contact ? contactsWithin(blocks) : [];
  yield 0.1;
  const wanted = { camera, crease: settings.crease, draws: settings.nibs };
  const candidates = candidatesOf(scene, contacts, wanted);
  const keepsHidden = settings.nibs.hidden !== undefined;
  const stretches = yield* visible(scene, candidates, camera, within, keepsHidden);
  const counts = new Map<string, number>();
  const traces = runsOf(stretches, camera).flatMap((run) => {
    const trace = 'trace' in run ? run.trace : traced(run, camera, settings);
    return trace ? [{ line: run.line, hidden: run.hidden, trace }] : [];
  });
  let near = Infinity;
  for (const { trace } of traces) near = Math.min(near, trace.depthAt(0), trace.depthAt(1));
  return traces.flatMap(({ line, hidden, trace }): PulledLine[] => {
    const sort = hidden ? 'hidden' : line.sort;
    const nib = settings.nibs[sort];
    if (!nib) return [];
    const count = counts.get(line.key) ?? 0;
    counts.set(line.key, count + 1);
    const courses = hidden ? dashed(trace.course, settings.dash) : [trace.course];
    return courses.map((course, part) => {
      const fall: Fall = { depthAt: trace.depthAt, near, by: settings.fall };
      const key = `${line.key}#${count}${hidden ? `-${part}` : ''}`;
      return { sort, key, block: scene.blocks[line.block].id, stroke: strokeOf(course, nib, line.key, fall) };
    });
  });
}

/** Thinnest share that distance leaves of a line. */
const THINNEST = 0.2;

/** How lines grow thinner with distance, as things grow smaller: `near` is how deep the nearest line lies. */
interface Fall {
  readonly depthAt: (share: number) => number;
  readonly near: number;
  readonly by: number;
}

const factorAt = ({ depthAt, near, by }: Fall, share: number): number =>
  by === 0 ? 1 : Math.max(THINNEST, (near / Math.max(near, depthAt(share))) ** by);

const isEven = ({ taperIn, taperOut, profile, tip, edge }: Nib): boolean =>
  taperIn === 0 && taperOut === 0 && !profile && !tip && !edge;

/** A course as a stroke of a nib, thinner with distance. Most are straight and of even width: they are written at once. */
function strokeOf(course: Spine, nib: Nib, key: string, fall: Fall): Stroke {
  if (course.points.length === 4 * STRIDE && isEven(nib)) {
    const points = course.points.slice();
    const [a, b] = [nib.size * factorAt(fall, 0), nib.size * factorAt(fall, 1)];
    for (let k = 0; k < 4; k++) points[STRIDE * k + 2] = a + ((b - a) * k) / 3;
    return { spine: { points, closed: false }, nib, ends: ROUND };
  }
  const stroke = inked(course, nib, seedOf(key));
  if (fall.by === 0) return stroke;
  const whole = spineLength(stroke.spine);
  const spine = reweighed(stroke.spine, [], (along) => factorAt(fall, whole > 0 ? along / whole : 0));
  return { ...stroke, spine };
}

const ROUND: Stroke['ends'] = ['round', 'round'];

interface Pair {
  readonly blocks: readonly [number, number];
  readonly met: readonly Contact[];
}

/** The pairs of blocks that go through each other, and where. */
function contactsWithin(blocks: readonly StandingBlock[]): Pair[] {
  const boxes = blocks.map(({ solid }) => boxOfSolid(solid));
  const order = boxes.map((_, k) => k).sort((a, b) => boxes[a][0] - boxes[b][0]);
  const pairs: Pair[] = [];
  order.forEach((a, k) => {
    for (let next = k + 1; next < order.length && boxes[order[next]][0] <= boxes[a][3]; next++) {
      const b = order[next];
      const apart = [1, 2].some((axis) => boxes[a][axis] > boxes[b][axis + 3] || boxes[b][axis] > boxes[a][axis + 3]);
      if (apart) continue;
      const [first, second] = a < b ? [a, b] : [b, a];
      const met = contactsOf(blocks[first].solid, blocks[second].solid);
      if (met.length > 0) pairs.push({ blocks: [first, second], met });
    }
  });
  return pairs;
}

/** The seed of the grain of a line: the same edge breaks the same (FNV-1a). */
function seedOf(key: string): number {
  let sum = 0x811c9dc5;
  for (let k = 0; k < key.length; k++) sum = Math.imul(sum ^ key.charCodeAt(k), 0x01000193);
  return sum >>> 0;
}
