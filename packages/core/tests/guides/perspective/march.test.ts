import { PerspectiveCamera, Vector3 } from 'three';
import { distance, type Point, applyProjective } from '../../../src/math';
import { inked } from '../../../src/stroke';
import { PageError } from '../../../src/gate';
import { lineSpine } from '../../../src/shapes';
import {
  equalBays,
  FRAME_PRESETS,
  frameFromPoints,
  framePreset,
  march,
  mirrorMap,
  planeBox,
  projectedStroke,
  stairEdges,
  trueDistance,
  wayTo,
} from '../../../src/guides';
import { liner } from '../../hands';
import { PAGE } from './scenes';

const street = framePreset(FRAME_PRESETS[2], PAGE);
const at = (x: number, y: number): Point => ({ x, y });
const crossRatio = ([a, b, c, d]: readonly number[]) => ((c - a) * (d - b)) / ((c - b) * (d - a));

/** Where two lines through two points each meet. */
function meet(a: Point, b: Point, c: Point, d: Point): Point {
  const [p, q] = [at(b.x - a.x, b.y - a.y), at(d.x - c.x, d.y - c.y)];
  const t = ((c.x - a.x) * q.y - (c.y - a.y) * q.x) / (p.x * q.y - p.y * q.x);
  return at(a.x + t * p.x, a.y + t * p.y);
}

describe('a march', () => {
  it('goes in equal true steps: four of them have the cross-ratio 4/3 (projective geometry)', () => {
    const anchor = at(1250, 3100);
    const maps = march(street, PAGE, { plane: 'right', anchor, way: 'right', step: 260, count: 3 });
    const posts = [anchor, ...maps.map((map) => applyProjective(map, anchor.x, anchor.y))];
    expect(crossRatio(posts.map(({ x }) => x))).toBeCloseTo(4 / 3, 9);
    // All of them on the way to the point.
    const line = wayTo(street.points.right, anchor);
    for (const post of posts.slice(1))
      expect(Math.abs((post.x - anchor.x) * (line?.y ?? 0) - (post.y - anchor.y) * (line?.x ?? 0))).toBeLessThan(1e-6);
  });

  it('puts posts where an independent projector sees them (three)', () => {
    const focal = PAGE.height / 2 / Math.tan((25 * Math.PI) / 180);
    const camera = new PerspectiveCamera(50, PAGE.width / PAGE.height);
    camera.updateProjectionMatrix();
    const see = (x: number, y: number, z: number): Point => {
      const p = new Vector3(x, y, -z).project(camera);
      return at(((p.x + 1) / 2) * PAGE.width, ((1 - p.y) / 2) * PAGE.height);
    };
    const road = frameFromPoints(
      { right: [1, 0, 0], left: [PAGE.width / 2, PAGE.height / 2, 1], height: [0, -1, 0] },
      PAGE,
      { focal },
    );
    // Posts of a fence 1.2 m right, eye height 1.6 m, 2 m apart, the first 4 m away.
    const [foot, top] = [see(1.2, -1.6, 4), see(1.2, -0.6, 4)];
    const px = (top.y - foot.y) / -1;
    expect(trueDistance(road, PAGE, foot, 'left', see(1.2, -1.6, 9))).toBeCloseTo(5 * px, 4);
    const maps = march(road, PAGE, { plane: 'left', anchor: foot, way: 'left', step: 2 * px, count: 40 });
    maps.forEach((map, k) => {
      for (const [p, height] of [
        [foot, -1.6],
        [top, -0.6],
      ] as const) {
        const [marched, seen] = [applyProjective(map, p.x, p.y), see(1.2, height, 4 + 2 * (k + 1))];
        expect(distance(marched, seen)).toBeLessThan(1e-4);
      }
    });
  });

  it('leaves out steps that come behind the viewer', () => {
    const maps = march(street, PAGE, { plane: 'right', anchor: at(1250, 3100), way: 'right', step: -400, count: 100 });
    expect(maps.length).toBeGreaterThan(2);
    expect(maps.length).toBeLessThan(30);
    const post = inked(lineSpine(at(1250, 3100), at(1250, 2500)), liner);
    for (const map of maps) {
      const copy = projectedStroke(post, map);
      if (copy) expect(copy.spine.points[1]).toBeGreaterThan(copy.spine.points[copy.spine.points.length - 2]);
    }
  });

  it('refuses step counts and steps that are none', () => {
    const base = { plane: 'right', anchor: at(1250, 3100), way: 'right', step: 100 } as const;
    for (const count of [0, -1, 1.5, 1e6, NaN])
      expect(() => march(street, PAGE, { ...base, count })).toThrow(PageError);
    expect(() => march(street, PAGE, { ...base, step: 0, count: 3 })).toThrow(/no length/);
    expect(() => trueDistance(street, PAGE, at(1250, 3100), 'right', at(9e4, 1845))).toThrow(PageError);
  });
});

describe('a wall divided into bays', () => {
  it('by two has its middle where the diagonals cross (drawing handbooks)', () => {
    const [a, c] = [at(1400, 3000), at(2300, 1500)];
    const box = planeBox(street, 'right', a, c);
    if (!box) throw new Error('no box');
    const [middle] = equalBays(street, PAGE, { plane: 'right', corners: [a, c], way: 'right', count: 2 });
    const diagonals = meet(box[0], box[2], box[1], box[3]);
    const [p, q] = middle;
    const off = ((diagonals.x - p.x) * (q.y - p.y) - (diagonals.y - p.y) * (q.x - p.x)) / distance(p, q);
    expect(Math.abs(off)).toBeLessThan(1e-6);
  });

  it('by five has four uprights in equal true steps', () => {
    const bays = equalBays(street, PAGE, {
      plane: 'right',
      corners: [at(1400, 3000), at(2300, 1500)],
      way: 'right',
      count: 5,
    });
    expect(bays).toHaveLength(4);
    for (const [p, q] of bays) expect(Math.abs(p.x - q.x)).toBeLessThan(1e-9);
    expect(crossRatio(bays.map(([p]) => p.x))).toBeCloseTo(4 / 3, 9);
    expect(() =>
      equalBays(street, PAGE, { plane: 'right', corners: [at(1400, 3000), at(2300, 1500)], way: 'left', count: 5 }),
    ).toThrow(/in the plane/);
    expect(() =>
      equalBays(street, PAGE, { plane: 'right', corners: [at(1400, 3000), at(2300, 1500)], way: 'right', count: 1e6 }),
    ).toThrow(PageError);
  });
});

describe('a mirror in depth', () => {
  it('is its own way back, keeps its axis, and steps as far behind it as before', () => {
    const axis = at(1700, 2600);
    const map = mirrorMap(street.points.right, street.points.height, axis);
    const p = at(1500, 2800);
    const q = applyProjective(map, p.x, p.y);
    const back = applyProjective(map, q.x, q.y);
    expect(distance(p, back)).toBeLessThan(1e-6);
    const foot = meet(p, q, axis, at(axis.x, axis.y - 1000));
    const [before, behind] = [p, q].map((to) => trueDistance(street, PAGE, foot, 'right', to));
    expect(before + behind).toBeCloseTo(0, 5);
    const still = applyProjective(map, axis.x, 900);
    expect(distance(still, at(axis.x, 900))).toBeLessThan(1e-6);
  });

  it('has no axis through the point', () => {
    expect(() => mirrorMap([100, 100, 1], [0, 1, 0], at(100, 700))).toThrow(PageError);
  });
});

describe('a stair', () => {
  it('rises and runs in equal true steps, all edges to points of the frame', () => {
    const foot = at(1300, 3400);
    const edges = stairEdges(street, PAGE, { foot, way: 'right', run: 120, rise: 70, width: 300, count: 6 });
    expect(edges).toHaveLength(1 + 6 * 5 + 1);
    const noses = edges.filter(([p, q]) => {
      const line = wayTo(street.points.left, p);
      return Math.abs((q.x - p.x) * (line?.y ?? 1) - (q.y - p.y) * (line?.x ?? 1)) < 1e-6;
    });
    expect(noses).toHaveLength(8);
    // Along the string of the stair the noses lie in equal true steps.
    const tops = noses.slice(1, 5).map(([p]) => p);
    expect(crossRatio(tops.map(({ x }) => x))).toBeCloseTo(4 / 3, 6);
    expect(() => stairEdges(street, PAGE, { foot, way: 'left', run: 0, rise: 1, width: 1, count: 3 })).toThrow(
      PageError,
    );
    expect(() => stairEdges(street, PAGE, { foot, way: 'left', run: 9, rise: 1, width: 1, count: 1e6 })).toThrow(
      PageError,
    );
  });
});
