import { carriedBy } from '@true-nib/core/math';
import { lookingAtStreet, street } from './set/street';
import {
  depthPicture,
  picturedAt,
  placeAt,
  pullLines,
  rangeOf,
  Scene,
  solidOfModel,
  solidsOf,
  viewOf,
  type BlockEntity,
  type Eye,
  type Model,
  type PullSettings,
} from '@true-nib/core/set';
import { middle, report, type Row } from './timing';

const nib = (size: number) => ({ name: 'Bench', size, thinnest: 1, taperIn: 0, taperOut: 0, color: '#000000' });
const SETTINGS: PullSettings = {
  nibs: { contour: nib(4), crease: nib(2), contact: nib(2) },
  ...{ crease: 0.35, fall: 0.5, over: 0, halo: 0, dash: 8 },
};
const PAGE = { minX: 0, minY: 0, maxX: 1600, maxY: 1000 };

function timed(work: () => void, passes = 9): number {
  for (let k = 0; k < 3; k++) work();
  return middle(
    Array.from({ length: passes }, () => {
      const start = performance.now();
      work();
      return performance.now() - start;
    }),
  );
}

/** The plain way: every edge is asked about at every px, with one ray each. */
function sampled(blocks: readonly BlockEntity[], camera: Eye): number {
  const { map, camera: look } = viewOf(camera);
  const scene = new Scene(solidsOf(blocks), map);
  let seen = 0;
  for (const block of scene.blocks)
    for (const { course, sides } of block.edges) {
      const [from, to] = rangeOf(course);
      const [a, b] = [from, to].map((t) => carriedBy(map, placeAt(course, t)));
      if (a[2] < 0.1 || b[2] < 0.1) continue;
      const [p, q] = [picturedAt(look, a), picturedAt(look, b)];
      const count = Math.max(2, Math.min(4_000, Math.ceil(Math.hypot(q.x - p.x, q.y - p.y))));
      const own = sides.map((side) => (side < 0 ? -1 : block.first + side));
      for (let k = 0; k <= count; k++) {
        const place = placeAt(course, from + ((to - from) * k) / count);
        const { x, y } = picturedAt(look, carriedBy(map, place));
        if (x < 0 || y < 0 || x > PAGE.maxX || y > PAGE.maxY) continue;
        if (!scene.isHidden(place, own)) seen++;
      }
    }
  return seen;
}

const rows: Row[] = [];
const views = new Map<number, number>();
for (const count of [50, 200, 500]) {
  const blocks = street(count);
  const camera = lookingAtStreet(count);
  const ours = timed(() => void pullLines(blocks, camera, SETTINGS, PAGE));
  const plain = timed(() => void sampled(blocks, camera), 5);
  views.set(count, ours);
  rows.push({
    what: `lines of ${count} blocks`,
    ours,
    other: plain,
    against: 'a ray at every px of every edge',
    most: 1,
  });
}
report(rows);
console.log(`500 blocks against 50: ${((views.get(500) ?? 0) / (views.get(50) ?? 1)).toFixed(1)} times (floor 14)`);

const many = street(500);
const camera = lookingAtStreet(500);
const standing = solidsOf(many);
const sight = { left: 0, top: 0, scale: 0.3, width: 480, height: 300 };
const preview = timed(() => void depthPicture(standing, viewOf(camera), sight, [0.5, -0.4, 0.8]), 15);
console.log(
  `a picture of 500 blocks by depth, 480 × 300: ${preview.toFixed(1)} ms, ${(1000 / preview).toFixed(0)} a second`,
);

/** A ring with a wave on it, of about so many triangles. */
function wavyRing(triangles: number): Model {
  const round = Math.ceil(Math.sqrt(triangles));
  const across = Math.ceil(triangles / 2 / round);
  const positions: number[] = [];
  const faces: number[] = [];
  for (let k = 0; k < round; k++)
    for (let j = 0; j < across; j++) {
      const [u, v] = [(2 * Math.PI * k) / round, (2 * Math.PI * j) / across];
      const out = 2 + (0.6 + 0.05 * Math.sin(9 * u)) * Math.cos(v);
      positions.push(out * Math.cos(u), out * Math.sin(u), 1 + 0.6 * Math.sin(v));
      const at = (a: number, b: number) => (a % round) * across + (b % across);
      faces.push(at(k, j), at(k + 1, j), at(k + 1, j + 1), at(k, j), at(k + 1, j + 1), at(k, j + 1));
    }
  return { positions: Float32Array.from(positions), triangles: Uint32Array.from(faces) };
}

for (const count of [20_000, 200_000]) {
  const model = wavyRing(count);
  const start = performance.now();
  solidOfModel(model, 1);
  const once = performance.now() - start;
  const shape = { kind: 'mesh', blob: 'ring', triangles: count, scale: 1, size: [5, 5, 2] } as const;
  const [box] = street(1);
  const blocks: BlockEntity[] = [{ ...box, shape, at: [0, 6, 0] }];
  const models = new Map([['ring', model]]);
  const view = timed(() => void pullLines(blocks, lookingAtStreet(9), SETTINGS, PAGE, models), 3);
  console.log(
    `a model of ${count.toLocaleString('en-GB')} triangles: once ${once.toFixed(0)} ms, a view ${view.toFixed(0)} ms`,
  );
}
