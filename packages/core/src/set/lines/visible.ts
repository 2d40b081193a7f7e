import type { Camera } from '../../guides';
import { scaled, stretchInBox, sum, type Box, type Vector } from '../../math';
import { isOn, segmentHits, awayFrom, type Blocker } from '../blocker';
import type { Scene } from '../scene';
import { depthOf, placeAt, type Course } from '../solid';
import { NEAREST, picturedAt } from '../view';
import { flatOf, pictured, picturedSlope, type Candidate, type Flat, type LineEnd } from './candidate';
import { meet } from './crossings';

/** A stretch of a line that is seen, or that is hidden where those are asked for. */
export interface Stretch {
  readonly line: Candidate;
  readonly from: number;
  readonly to: number;
  readonly ends: readonly [LineEnd, LineEnd];
  readonly hidden: boolean;
}

interface Cut {
  readonly at: number;
  readonly by: LineEnd;
}

/** Page px under which a stretch is nothing. */
const NOTHING = 0.01;
/** Page px to either side of a line at which what lies there is looked at. */
const BESIDE = 0.25;
/** Lines that are looked at between two breaths. */
const PART = 200;

/**
 * What is seen of candidates. Each is cut where it crosses a nearer contour, goes through a surface, or leaves the picture
 * (invisibility changes nowhere else; Appel 1967); one ray decides for each piece. Yields the share that is done.
 */
export function* visible(
  scene: Scene,
  all: readonly Candidate[],
  camera: Camera,
  within: Box,
  keepsHidden: boolean,
): Generator<number, Stretch[]> {
  const lines = all.flatMap((line) => clipped(line, camera, within));
  const flats = lines.map((line) => flatOf(line, camera));
  const cuts: Cut[][] = lines.map(() => []);
  const covers: (readonly [by: number, from: number, to: number])[][] = lines.map(() => []);
  meet(lines, flats, camera, within, {
    cut: (line, at) => cuts[line].push({ at, by: 'behind' }),
    covered: (line, by, from, to) => covers[line].push([by, from, to]),
  });
  yield 0.3;
  const found: Stretch[] = [];
  for (let k = 0; k < lines.length; k++) {
    const line = lines[k];
    if (k % PART === PART - 1) yield 0.3 + (0.7 * k) / lines.length;
    if (!line.draws) continue;
    const touches = pierced(scene, line, flats[k], cuts[k]);
    leaves(line, flats[k], camera, within, cuts[k]);
    const doubled = covers[k].filter(([by]) => lines[by].draws);
    for (const [, from, to] of doubled) cuts[k].push({ at: from, by: 'on' }, { at: to, by: 'on' });
    found.push(...stretches(scene, line, cuts[k], { camera, within, keepsHidden, touches, doubled }));
  }
  return found;
}

/** The parts of a candidate before the eye; a straight one is cut off at the edges of the picture too. */
function clipped(line: Candidate, camera: Camera, within: Box): Candidate[] {
  const { course } = line;
  if (course.kind !== 'segment') return inFront(line);
  const za = depthOf(course, line.from);
  const zb = depthOf(course, line.to);
  if (za < NEAREST && zb < NEAREST) return [];
  let { from, to } = line;
  const near = from + ((to - from) * (NEAREST - za)) / (zb - za);
  if (za < NEAREST) from = near;
  if (zb < NEAREST) to = near;
  const [p, q] = [picturedAt(camera, placeAt(course, from)), picturedAt(camera, placeAt(course, to))];
  const stretch = stretchInBox(within, p.x, p.y, q.x, q.y);
  if (!stretch || !(stretch[0] < stretch[1])) return [];
  if (stretch[0] === 0 && stretch[1] === 1 && from === line.from && to === line.to) return [line];
  const [start, end] = stretch.map((share) => pictured(course, from, to, share));
  const ends: Candidate['ends'] = [
    from === line.from && stretch[0] === 0 ? line.ends[0] : 'out',
    to === line.to && stretch[1] === 1 ? line.ends[1] : 'out',
  ];
  return [{ ...line, from: start, to: end, ends }];
}

/** The parts of a curve before the eye. */
function inFront(line: Candidate): Candidate[] {
  const { course, from, to } = line;
  const deepEnough = (t: number) => placeAt(course, t)[2] > NEAREST;
  const steps = course.kind === 'chain' ? Math.max(1, Math.ceil(to - from)) : 64;
  const at = (k: number) => (k === steps ? to : from + ((to - from) * k) / steps);
  const parts: Candidate[] = [];
  let begun = deepEnough(from) ? from : undefined;
  for (let k = 1; k <= steps; k++) {
    const isIn = deepEnough(at(k));
    if (isIn === (begun !== undefined)) continue;
    const edge = bisected(at(k - 1), at(k), deepEnough);
    if (begun === undefined) begun = edge;
    else {
      parts.push({ ...line, from: begun, to: edge, ends: [begun === from ? line.ends[0] : 'out', 'out'] });
      begun = undefined;
    }
  }
  if (begun !== undefined) parts.push(begun === from ? line : { ...line, from: begun, ends: ['out', line.ends[1]] });
  return parts;
}

/** Between two parameters for one of which something holds, the last for which it does. */
function bisected(a: number, b: number, holds: (t: number) => boolean): number {
  const first = holds(a);
  for (let pass = 0; pass < 50; pass++) {
    const middle = (a + b) / 2;
    if (holds(middle) === first) a = middle;
    else b = middle;
  }
  return first ? a : b;
}

/** Cuts a line where it goes through surfaces. Answers whether it lies on one of another block. */
function pierced(scene: Scene, line: Candidate, { points }: Flat, cuts: Cut[]): boolean {
  const { standing: course, own } = line;
  const box = new Float64Array(6);
  let touches = false;
  for (let k = 0; k + 3 < points.length; k += 3) {
    const s = points[k + 2];
    const t = points[k + 5];
    const a = placeAt(course, s);
    const b = placeAt(course, t);
    const slack = 1e-6 * Math.max(depthOf(line.course, s), depthOf(line.course, t));
    for (let axis = 0; axis < 3; axis++) {
      box[axis] = Math.min(a[axis], b[axis]) - slack;
      box[axis + 3] = Math.max(a[axis], b[axis]) + slack;
    }
    scene.inBox(box, (item) => {
      if (own.includes(item)) return;
      const blocker = scene.blockers[item];
      if (Math.abs(awayFrom(blocker, a)) < slack && Math.abs(awayFrom(blocker, b)) < slack) {
        touches ||= scene.owner[item] !== line.block;
        return;
      }
      if (course.kind === 'arc') throughOn(blocker, course, s, t, cuts);
      else for (const share of segmentHits(blocker, a, b)) cuts.push({ at: s + (t - s) * share, by: 'into' });
    });
  }
  return touches;
}

/** Where a part of an arc goes through a surface. */
function throughOn(blocker: Blocker, course: Course, from: number, to: number, cuts: Cut[]): void {
  const steps = 2;
  for (let k = 0; k < steps; k++) {
    const [a, b] = [from + ((to - from) * k) / steps, from + ((to - from) * (k + 1)) / steps];
    const side = (t: number) => awayFrom(blocker, placeAt(course, t)) > 0;
    if (side(a) === side(b)) continue;
    const at = bisected(a, b, side);
    if (isOn(blocker, placeAt(course, at))) cuts.push({ at, by: 'into' });
  }
}

/** Cuts a curve where it leaves the picture. */
function leaves(line: Candidate, { points }: Flat, camera: Camera, within: Box, cuts: Cut[]): void {
  if (line.course.kind === 'segment') return;
  const isIn = (x: number, y: number) => x >= within.minX && x <= within.maxX && y >= within.minY && y <= within.maxY;
  const holds = (t: number) => {
    const { x, y } = picturedAt(camera, placeAt(line.course, t));
    return isIn(x, y);
  };
  for (let k = 0; k + 3 < points.length; k += 3)
    if (isIn(points[k], points[k + 1]) !== isIn(points[k + 3], points[k + 4]))
      cuts.push({ at: bisected(points[k + 2], points[k + 5], holds), by: 'out' });
}

interface Deciding {
  readonly camera: Camera;
  readonly within: Box;
  readonly keepsHidden: boolean;
  readonly touches: boolean;
  readonly doubled: readonly (readonly [by: number, from: number, to: number])[];
}

const WEIGHT: Readonly<Record<LineEnd, number>> = { corner: 4, behind: 3, into: 2, out: 1, on: 0 };

/** The stretches of a line between its cuts, those that go on in each other as one. */
function stretches(scene: Scene, line: Candidate, cuts: readonly Cut[], deciding: Deciding): Stretch[] {
  const { camera, keepsHidden } = deciding;
  const stops = stopsOf(line, cuts, camera);
  const found: Stretch[] = [];
  let last: { from: number; to: number; ends: [LineEnd, LineEnd]; hidden: boolean } | undefined;
  const close = () => {
    if (last && (!last.hidden || keepsHidden)) found.push({ line, ...last });
    last = undefined;
  };
  for (let k = 0; k + 1 < stops.length; k++) {
    const [a, b] = [stops[k], stops[k + 1]];
    const state = stateOf(scene, line, (a.at + b.at) / 2, deciding);
    if (state === undefined) close();
    else if (last?.hidden === state) {
      last.to = b.at;
      last.ends[1] = b.by;
    } else {
      close();
      last = { from: a.at, to: b.at, ends: [a.by, b.by], hidden: state };
    }
  }
  close();
  return wrapped(found, line);
}

/** A closed line that is seen across its own start is one stretch there. */
function wrapped(found: Stretch[], line: Candidate): Stretch[] {
  const { course, from, to } = line;
  const [first, last] = [found[0], found[found.length - 1]];
  const isRound = course.kind === 'arc' && to - from > 2 * Math.PI - 1e-9;
  if (!isRound || found.length < 2 || first.hidden !== last.hidden) return found;
  if (first.from !== from || last.to !== to) return found;
  const one: Stretch = {
    ...last,
    to: first.to + 2 * Math.PI,
    ends: [last.ends[0], first.ends[1]],
  };
  return [...found.slice(1, -1), one];
}

/** The cuts of a line in their order with its ends; those that are one in the picture as one. */
function stopsOf(line: Candidate, cuts: readonly Cut[], camera: Camera): Cut[] {
  const sorted = cuts.filter(({ at }) => at > line.from && at < line.to).sort((a, b) => a.at - b.at);
  const stops: Cut[] = [{ at: line.from, by: line.ends[0] }];
  const end: Cut = { at: line.to, by: line.ends[1] };
  for (const cut of [...sorted, end]) {
    const before = stops[stops.length - 1];
    const isOne = pxBetween(line, before.at, cut.at, camera) < NOTHING;
    if (!isOne) stops.push(cut);
    else if (cut === end && stops.length > 1) stops[stops.length - 1] = end;
    else if (stops.length > 1 && WEIGHT[cut.by] > WEIGHT[before.by]) stops[stops.length - 1] = cut;
  }
  return stops;
}

/** About how far apart two parameters are in the picture, page px. */
function pxBetween({ course }: Candidate, a: number, b: number, camera: Camera): number {
  if (a === b) return 0;
  const [u, v] = picturedSlope(course, (a + b) / 2, camera);
  return Math.sqrt(u * u + v * v) * (b - a);
}

/** Whether a line is hidden at a place; nothing where it is not there at all. */
function stateOf(scene: Scene, line: Candidate, t: number, deciding: Deciding): boolean | undefined {
  const { camera, within, keepsHidden, touches, doubled } = deciding;
  const place = placeAt(line.course, t);
  const { x, y } = picturedAt(camera, place);
  if (x < within.minX || x > within.maxX || y < within.minY || y > within.maxY) return undefined;
  if (doubled.some(([, from, to]) => t > from && t < to)) return undefined;
  const stands = placeAt(line.standing, t);
  const hidden = line.back || isTurned(scene, line, stands) || scene.isHidden(stands, line.own);
  if (hidden) return keepsHidden ? true : undefined;
  return touches && isSeam(scene, line, place, t, camera) ? undefined : false;
}

/** Whether a contact lies on the far side of one of its two blocks: that surface, which it lies on, hides it. */
const isTurned = (scene: Scene, { sort, own }: Candidate, place: Vector): boolean =>
  sort === 'contact' && own.some((item) => scene.blocks[scene.owner[item]].closed && scene.facing(item, place) < 0);

/** Whether one plane goes on across a line: a seam between two blocks that stand flush. */
function isSeam(scene: Scene, line: Candidate, place: Vector, t: number, camera: Camera): boolean {
  const [u, v] = picturedSlope(line.course, t, camera);
  const long = Math.hypot(u, v) || 1;
  const [dx, dy] = [((-v / long) * BESIDE * place[2]) / camera.focal, ((u / long) * BESIDE * place[2]) / camera.focal];
  const sides = [1, -1].map((side) => {
    const way = scene.inSet([place[0] + side * dx, place[1] + side * dy, place[2]]);
    const found = scene.nearest(way);
    return found && { item: found.item, place: sum(scene.eye, scaled(way, found.at)) };
  });
  const [a, b] = sides;
  return !!a && !!b && scene.isOnePlane(a.item, b.item, b.place) && isFlat(scene, a.item);
}

const isFlat = (scene: Scene, item: number): boolean => {
  const { kind } = scene.blockers[item].surface;
  return kind === 'face' || kind === 'disc';
};
