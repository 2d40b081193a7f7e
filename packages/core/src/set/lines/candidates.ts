import type { Camera } from '../../guides';
import { dot, lengthOfVector, minus, scaled, squareTo, sum, type Vector } from '../../math';
import {
  courseUnder,
  generatorOf,
  normalAt,
  placeAt,
  rangeOf,
  type Ball,
  type Course,
  type Edge,
  type Mantle,
} from '../solid';
import type { Contact, Scene, SeenBlock } from '../scene';
import type { LineSort } from '../types';
import type { Candidate, LineEnd } from './candidate';

/** What is asked of the lines of a view. */
export interface Wanted {
  readonly camera: Camera;
  /** Faces that meet at a lesser angle have no line between them, radians. */
  readonly crease: number;
  /** Which sorts are drawn. */
  readonly draws: Readonly<Partial<Record<LineSort, unknown>>>;
}

/** The lines of a scene that may be seen, contours first. `contacts` names two blocks by their numbers, and where they meet. */
export function candidatesOf(
  scene: Scene,
  contacts: readonly { readonly blocks: readonly [number, number]; readonly met: readonly Contact[] }[],
  wanted: Wanted,
): Candidate[] {
  const found: Candidate[] = [];
  scene.blocks.forEach((block, k) => {
    for (let number = 0; number < block.edges.length; number++) {
      const edge = block.edges[number];
      if (edge.course.kind === 'segment') straightCandidate(scene, k, number, wanted, found);
      else found.push(...edgeCandidates(scene, k, edge, number, wanted));
    }
    for (let item = block.first; item < (scene.blocks[k + 1]?.first ?? scene.blockers.length); item++)
      found.push(...roundContours(scene, k, item, wanted));
    if (block.lines === 'all' && wanted.draws.mark)
      block.marks.forEach((course, number) => found.push(markOf(scene, k, course, number)));
  });
  if (wanted.draws.contact)
    for (const { blocks, met } of contacts) found.push(...contactCandidates(scene, blocks, met));
  return found.sort((a, b) => Number(b.hides) - Number(a.hides));
}

const drawn = ({ lines }: SeenBlock, sort: LineSort, { draws }: Wanted): boolean =>
  draws[sort] !== undefined && (lines === 'all' || (lines === 'contour' && sort === 'contour'));

function edgeCandidates(scene: Scene, k: number, edge: Edge, number: number, wanted: Wanted): Candidate[] {
  const block = scene.blocks[k];
  const { course, run } = edge;
  const own = edge.sides.map((side) => (side < 0 ? -1 : block.first + side));
  const [from, to] = rangeOf(course);
  const stops = turnsWithin(scene, own, from, to);
  const isRound = course.kind === 'arc' && to - from > TURN - 1e-9;
  // Once round it begins where it turns from the eye, so that no part is cut in two.
  const ends = isRound && stops.length > 0 ? [...stops, stops[0] + TURN] : [from, ...stops, to];
  let moved: Course | undefined;
  return ends.slice(1).flatMap((end, part): Candidate[] => {
    const start = ends[part];
    const what = sortOf(scene, k, own, placeAt(course, (start + end) / 2), wanted);
    if (!what) return [];
    moved ??= courseUnder(scene.map, course);
    const end0: LineEnd = part > 0 || isRound ? 'on' : 'corner';
    const end1: LineEnd = part < ends.length - 2 || isRound ? 'on' : 'corner';
    return [
      {
        ...{ block: k, sort: what.sort, key: `${block.id}/${number}.${part}`, from: start, to: end },
        ...{ course: moved, standing: course },
        ...{ ends: [end0, end1], own, hides: what.sort === 'contour' && !what.back },
        draws: drawn(block, what.sort, wanted),
        back: what.back === true,
        run: run === undefined ? undefined : `${block.id}/${run}`,
      },
    ];
  });
}

/** What a straight edge is, it is all along. Written to the end of those found: there may be hundreds of thousands of edges. */
function straightCandidate(scene: Scene, k: number, number: number, wanted: Wanted, found: Candidate[]): void {
  const block = scene.blocks[k];
  const { course, sides, run } = block.edges[number];
  if (course.kind !== 'segment') return;
  const own = sides[1] < 0 ? [block.first + sides[0], -1] : [block.first + sides[0], block.first + sides[1]];
  const what = sortOf(scene, k, own, course.from, wanted);
  if (!what) return;
  found.push({
    block: k,
    sort: what.sort,
    key: `${block.id}/${number}.0`,
    course: courseUnder(scene.map, course),
    standing: course,
    from: 0,
    to: 1,
    ends: CORNERS,
    own,
    hides: what.sort === 'contour' && !what.back,
    draws: drawn(block, what.sort, wanted),
    back: what.back === true,
    run: run === undefined ? undefined : `${block.id}/${run}`,
  });
}

const CORNERS = ['corner', 'corner'] as const;

/** Where a round surface at the side of an arc turns from the eye: the parameters of the arc. */
function turnsWithin(scene: Scene, own: readonly number[], from: number, to: number): number[] {
  const stops = own.flatMap((item) => {
    const surface = item < 0 ? undefined : scene.blockers[item].surface;
    if (surface?.kind !== 'mantle') return [];
    return contourAngles(surface, scene.eye).map((angle) => from + ((((angle - from) % TURN) + TURN) % TURN));
  });
  return [...new Set(stops)].filter((t) => t > from + 1e-9 && t < to - 1e-9).sort((a, b) => a - b);
}

const TURN = 2 * Math.PI;

/** The angles at which a mantle turns from the eye; none where it does so nowhere. */
function contourAngles({ foot, axis, u, v, height, radius, top }: Mantle, eye: Vector): readonly number[] {
  const lean = (radius - top) / height;
  const from = minus(foot, eye);
  const [a, b] = [dot(u, from), dot(v, from)];
  const size = Math.hypot(a, b);
  const rest = -(radius + lean * dot(axis, from));
  if (Math.abs(rest) >= size) return [];
  const [middle, half] = [Math.atan2(b, a), Math.acos(rest / size)];
  return [middle - half, middle + half];
}

/** What an edge of a block is at a place: nothing where its sides go on in each other, or turn their backs and that is not asked for. */
function sortOf(
  scene: Scene,
  k: number,
  own: readonly number[],
  place: Vector,
  { crease, draws }: Wanted,
): { readonly sort: LineSort; readonly back?: true } | undefined {
  if (own[1] < 0) return CONTOUR;
  const a = scene.facing(own[0], place);
  const b = scene.facing(own[1], place);
  const isBack = scene.blocks[k].closed && a <= 0 && b <= 0;
  if (isBack && draws.hidden === undefined) return undefined;
  if (!isBack && a > 0 !== b > 0) return CONTOUR;
  const turn = dot(normalAt(scene.blockers[own[0]].surface, place), normalAt(scene.blockers[own[1]].surface, place));
  if (turn >= Math.cos(crease)) return undefined;
  return isBack ? BACK : CREASE;
}

const CONTOUR = { sort: 'contour' } as const;
const CREASE = { sort: 'crease' } as const;
const BACK = { sort: 'crease', back: true } as const;

/** The contours of what is round. */
function roundContours(scene: Scene, k: number, item: number, wanted: Wanted): Candidate[] {
  const block = scene.blocks[k];
  const { surface } = scene.blockers[item];
  const courses =
    surface.kind === 'ball'
      ? ballContour(surface, scene.eye)
      : surface.kind === 'mantle'
        ? mantleContours(surface, scene.eye)
        : [];
  return courses.map((standing, part) => {
    const course = courseUnder(scene.map, standing);
    const [from, to] = rangeOf(course);
    const end: LineEnd = course.kind === 'arc' ? 'on' : 'corner';
    return {
      ...{ block: k, sort: 'contour' as const, key: `${block.id}/s${item - block.first}.${part}`, from, to },
      ...{ course, standing },
      ...{ ends: [end, end] as const, own: [item], hides: true, draws: drawn(block, 'contour', wanted) },
      ...{ back: false, run: undefined },
    };
  });
}

/** The circle in which the cone from the eye touches a ball; none from within. */
function ballContour({ centre, radius }: Ball, eye: Vector): Course[] {
  const from = minus(centre, eye);
  const away = lengthOfVector(from);
  if (away <= radius * (1 + 1e-9)) return [];
  const share = (radius / away) ** 2;
  const [first, second] = squareTo(scaled(from, 1 / away));
  const seen = radius * Math.sqrt(1 - share);
  return [
    {
      kind: 'arc',
      centre: sum(eye, scaled(from, 1 - share)),
      u: scaled(first, seen),
      v: scaled(second, seen),
      from: 0,
      to: TURN,
    },
  ];
}

function mantleContours(mantle: Mantle, eye: Vector): Course[] {
  const { range } = mantle;
  return contourAngles(mantle, eye).flatMap((angle): Course[] => {
    if (range && range[0] + ((((angle - range[0]) % TURN) + TURN) % TURN) > range[1]) return [];
    const [from, to] = generatorOf(mantle, angle);
    return [{ kind: 'segment', from, to }];
  });
}

function markOf(scene: Scene, k: number, standing: Course, number: number): Candidate {
  const block = scene.blocks[k];
  const course = courseUnder(scene.map, standing);
  const [from, to] = rangeOf(course);
  return {
    ...{ block: k, sort: 'mark', key: `${block.id}/m${number}`, course, standing, from, to, ends: ['on', 'on'] },
    ...{ own: [], hides: false, draws: true, back: false, run: undefined },
  };
}

function contactCandidates(scene: Scene, [a, b]: readonly [number, number], met: readonly Contact[]): Candidate[] {
  const [first, second] = [scene.blocks[a], scene.blocks[b]];
  // A floor without lines still leaves one where something stands in it.
  if (first.lines !== 'all' && second.lines !== 'all') return [];
  return met.map(({ course: standing, sides }, part) => {
    const course = courseUnder(scene.map, standing);
    const [from, to] = rangeOf(course);
    return {
      ...{ block: a, sort: 'contact', key: `${first.id}+${second.id}.${part}`, from, to, ends: ['on', 'on'] },
      ...{ course, standing },
      ...{ own: [first.first + sides[0], second.first + sides[1]], hides: false, draws: true },
      ...{ back: false, run: undefined },
    };
  });
}
