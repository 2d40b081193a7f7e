import type { Camera } from '../../guides';
import type { Point, Vector } from '../../math';
import { placeAt } from '../solid';
import { picturedAt } from '../view';
import type { Candidate } from './candidate';
import { fittedThrough, type Traced } from './traced';
import type { Stretch } from './visible';

/** Stretches of one run that go on in each other, as one line. */
export interface Run {
  readonly line: Candidate;
  readonly hidden: boolean;
  readonly trace: Traced;
}

/** Cosine of the turn up to which a line goes on: 35°. */
const GOES_ON = Math.cos((35 * Math.PI) / 180);

/** Stretches with those of one run put together where they go on smoothly in each other; the others as they are. */
export function runsOf(stretches: readonly Stretch[], camera: Camera): (Stretch | Run)[] {
  const alone: (Stretch | Run)[] = [];
  const runs = new Map<string, Stretch[]>();
  for (const stretch of stretches) {
    const { run, sort } = stretch.line;
    if (run === undefined) alone.push(stretch);
    else {
      const key = `${run} ${stretch.hidden ? 'hidden' : sort}`;
      runs.set(key, [...(runs.get(key) ?? []), stretch]);
    }
  }
  for (const run of runs.values()) alone.push(...joinedRun(run, camera));
  return alone;
}

const ends = ({ line, from, to }: Stretch): readonly [Vector, Vector] => [
  placeAt(line.course, from),
  placeAt(line.course, to),
];

const nameOf = (p: Vector): string => p.map((value) => Math.round(value * 1e7)).join(' ');

/** Segments that share ends, put in a row; each as long as it goes on without a corner. */
function joinedRun(run: readonly Stretch[], camera: Camera): (Stretch | Run)[] {
  const byEnd = new Map<string, Stretch[]>();
  for (const stretch of run)
    for (const end of ends(stretch)) {
      const name = nameOf(end);
      byEnd.set(name, [...(byEnd.get(name) ?? []), stretch]);
    }
  const left = new Set(run);
  const found: (Stretch | Run)[] = [];
  for (const first of run) {
    if (!left.delete(first)) continue;
    const [a, b] = ends(first);
    const places = [a, b];
    grow(places, byEnd, left, false);
    if (nameOf(places[0]) !== nameOf(places[places.length - 1])) grow(places, byEnd, left, true);
    found.push(places.length === 2 ? first : asRun(first, places, camera));
  }
  return found;
}

/** Goes on from the last place, or the first, as long as one stretch alone goes on smoothly there. */
function grow(
  places: Vector[],
  byEnd: ReadonlyMap<string, readonly Stretch[]>,
  left: Set<Stretch>,
  atStart: boolean,
): void {
  for (;;) {
    const [at, before] = atStart ? [places[0], places[1]] : [places[places.length - 1], places[places.length - 2]];
    const name = nameOf(at);
    const here = byEnd.get(name) ?? [];
    const next = here.length === 2 ? here.find((stretch) => left.has(stretch)) : undefined;
    if (!next) return;
    const [a, b] = ends(next);
    const onward = nameOf(a) === name ? b : a;
    if (cosine(before, at, onward) < GOES_ON) return;
    left.delete(next);
    if (atStart) places.unshift(onward);
    else places.push(onward);
  }
}

function cosine(a: Vector, b: Vector, c: Vector): number {
  const [u, v] = [
    [b[0] - a[0], b[1] - a[1], b[2] - a[2]],
    [c[0] - b[0], c[1] - b[1], c[2] - b[2]],
  ];
  const size = Math.hypot(...u) * Math.hypot(...v);
  return size > 0 ? (u[0] * v[0] + u[1] * v[1] + u[2] * v[2]) / size : 1;
}

function asRun(first: Stretch, places: readonly Vector[], camera: Camera): Stretch | Run {
  const pictures = places.map((p): Point => picturedAt(camera, p));
  const course = fittedThrough(pictures);
  if (!course) return first;
  const depthAt = (share: number) => {
    const at = share * (places.length - 1);
    const k = Math.min(places.length - 2, Math.floor(at));
    return places[k][2] + (places[k + 1][2] - places[k][2]) * (at - k);
  };
  return { line: first.line, hidden: first.hidden, trace: { course, depthAt } };
}
