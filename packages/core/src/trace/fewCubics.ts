import { CubicFitter, makeSpine, SEGMENT, STRIDE, type CubicFit, type Direction, type Spine } from '../curve';

/** Places that are tried for each node between two cubics. */
const TRIED = 5;

/** Points to fit: x, y, width. */
interface Course {
  readonly track: Float64Array;
  readonly lengths: Float64Array;
  readonly tangents: readonly (Direction | undefined)[];
  readonly last: number;
}

/**
 * A spine of as few cubics as stay within `tolerance` of all triples, in course and half width, smooth where they meet. How
 * many it takes is found by going as far as each can from either end; between the two places that a node comes to lie so,
 * the one is taken from which the cubics to both sides fit best.
 */
export function fewCubics(triples: ArrayLike<number>, tolerance: number, spread: number): Spine {
  const course = courseOf(triples, spread);
  if (course.last < 1) {
    const [x, y, w] = [triples[0], triples[1], triples[2]];
    return makeSpine(Float64Array.of(x, y, w, x, y, w, x, y, w, x, y, w));
  }
  const fitter = new CubicFitter();
  const fitWithin = (within: number) => {
    const known = new Map<number, CubicFit>();
    return (from: number, to: number): CubicFit => {
      const key = from * (course.last + 1) + to;
      let one = known.get(key);
      if (!one) {
        const tangents = { start: course.tangents[from], end: course.tangents[to] };
        known.set(key, (one = fitter.fit({ ...course, first: from, last: to }, tangents, within)));
      }
      return one;
    };
  };
  // That one fits is soon known; how well takes longer, and is asked of few.
  const enough = fitWithin(tolerance);
  const better = fitWithin(tolerance / 2);
  const fit = (from: number, to: number): CubicFit => {
    const [one, two] = [enough(from, to), better(from, to)];
    return one.error < two.error ? one : two;
  };
  const fits = (from: number, to: number) => enough(from, to).error <= tolerance;
  const ahead = nodesAhead(course.last, fits);
  if (ahead.length === 2) return laid(course, ahead, fit);
  const back = nodesAhead(course.last, (from, to) => fits(course.last - to, course.last - from))
    .map((node) => course.last - node)
    .reverse();
  const nodes =
    ahead.length === back.length ? settled(ahead, back, fit, tolerance) : ahead.length < back.length ? ahead : back;
  return laid(course, nodes, fit);
}

/** Nodes of cubics of which each goes as far as it can; the first and the last point among them. */
function nodesAhead(last: number, fits: (from: number, to: number) => boolean): number[] {
  const nodes = [0];
  let guess = Math.min(last, 24);
  for (let from = 0; from < last;) {
    let good = from + 1;
    let bad = last + 1;
    let to = Math.min(last, from + Math.max(2, guess));
    while (bad - good > 1) {
      if (fits(from, to)) {
        good = to;
        if (to === last) break;
        to = bad > last ? Math.min(last, from + 2 * (to - from)) : (good + bad) >> 1;
      } else {
        bad = to;
        to = (good + bad) >> 1;
      }
      if (to <= good) break;
      // One that is nearly as far as it can is far enough.
      if (bad <= last && bad - good <= Math.max(1, (good - from) >> 4)) break;
    }
    nodes.push(good);
    guess = good - from;
    from = good;
  }
  return nodes;
}

/** The best of some places for each node between two that it may have. */
function settled(
  ahead: readonly number[],
  back: readonly number[],
  fit: (from: number, to: number) => CubicFit,
  tolerance: number,
): number[] {
  let ways: { readonly nodes: number[]; readonly cost: number }[] = [{ nodes: [0], cost: 0 }];
  const cost = (from: number, to: number) => {
    const { error } = fit(from, to);
    return error > tolerance ? Infinity : error * error * (to - from);
  };
  for (let k = 1; k < ahead.length; k++) {
    const [low, high] = [Math.min(ahead[k], back[k]), Math.max(ahead[k], back[k])];
    const tried = new Set(Array.from({ length: TRIED }, (_, n) => Math.round(low + ((high - low) * n) / (TRIED - 1))));
    const next: typeof ways = [];
    for (const node of tried) {
      let best: (typeof ways)[number] | undefined;
      for (const way of ways) {
        const from = way.nodes[way.nodes.length - 1];
        if (from >= node) continue;
        const sum = way.cost + cost(from, node);
        if (sum < (best?.cost ?? Infinity)) best = { nodes: [...way.nodes, node], cost: sum };
      }
      if (best) next.push(best);
    }
    if (next.length === 0) return [...ahead];
    ways = next;
  }
  return ways[0].nodes;
}

function laid({ track }: Course, nodes: readonly number[], fit: (from: number, to: number) => CubicFit): Spine {
  const points = new Float64Array(SEGMENT * (nodes.length - 1) + STRIDE);
  points.set(track.subarray(0, STRIDE));
  for (let k = 1; k < nodes.length; k++) {
    points.set(fit(nodes[k - 1], nodes[k]).handles, SEGMENT * (k - 1) + STRIDE);
    points.set(track.subarray(STRIDE * nodes[k], STRIDE * nodes[k] + STRIDE), SEGMENT * k);
  }
  // A width that a handle pulls below nothing is nothing.
  for (let i = 2; i < points.length; i += STRIDE) points[i] = Math.max(0.05, points[i]);
  return makeSpine(points);
}

/** Where the points go: each tangent by least squares over `spread` px to either side; the ends are free. */
function courseOf(triples: ArrayLike<number>, spread: number): Course {
  const kept: number[] = [];
  for (let i = 0; i < triples.length; i += STRIDE) {
    const n = kept.length;
    if (n > 0 && Math.hypot(triples[i] - kept[n - 3], triples[i + 1] - kept[n - 2]) < 1e-6) continue;
    kept.push(triples[i], triples[i + 1], triples[i + 2]);
  }
  const track = Float64Array.from(kept);
  const count = track.length / STRIDE;
  const lengths = new Float64Array(count);
  for (let k = 1; k < count; k++)
    lengths[k] =
      lengths[k - 1] +
      Math.hypot(track[STRIDE * k] - track[STRIDE * k - 3], track[STRIDE * k + 1] - track[STRIDE * k - 2]);
  const tangents: (Direction | undefined)[] = [];
  let [low, high] = [0, 0];
  for (let k = 0; k < count; k++) {
    // As far to one side as to the other, or a bend would turn it.
    const reach = Math.min(spread, lengths[k], lengths[count - 1] - lengths[k]);
    while (lengths[k] - lengths[low] > reach + 1e-9) low++;
    while (high < count - 1 && lengths[high + 1] - lengths[k] <= reach + 1e-9) high++;
    tangents.push(k === 0 || k === count - 1 || high - low < 2 ? undefined : slope(track, lengths, low, high));
  }
  return { track, lengths, tangents, last: count - 1 };
}

function slope(track: Float64Array, lengths: Float64Array, low: number, high: number): Direction | undefined {
  const n = high - low + 1;
  let [sum, square] = [0, 0];
  const sums = [0, 0, 0];
  const products = [0, 0, 0];
  const origin = lengths[low];
  for (let k = low; k <= high; k++) {
    const s = lengths[k] - origin;
    sum += s;
    square += s * s;
    for (let axis = 0; axis < STRIDE; axis++) {
      sums[axis] += track[STRIDE * k + axis];
      products[axis] += s * track[STRIDE * k + axis];
    }
  }
  const d = n * square - sum * sum;
  if (d <= 0) return undefined;
  const [x, y, w] = [0, 1, 2].map((axis) => (n * products[axis] - sum * sums[axis]) / d);
  const speed = Math.hypot(x, y);
  return speed > 1e-6 ? { x: x / speed, y: y / speed, widening: w / speed } : undefined;
}
