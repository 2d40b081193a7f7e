import { jStat } from 'jstat';
import { seededRandom } from '../../../src/math';
import { PageError } from '../../../src/gate';
import {
  type SightedEdge,
  cameraOrThrow,
  horizonOf,
  isFinitePoint,
  pointCount,
  readFrame,
  sightFrame,
} from '../../../src/guides';
import { surelyMore } from '../../../src/guides/perspective/surely';
import { between, degrees, PAGE, scene } from './scenes';

const turns = (seed: number) => {
  const random = seededRandom(seed);
  return Array.from({ length: 40 }, (_, k) => ({
    yaw: 15 + 60 * random(),
    tilt: (k % 2 === 0 ? 1 : -1) * (10 + 25 * random()),
    roll: 6 * (random() - 0.5),
    view: 35 + 35 * random(),
    seed: 1000 * seed + k,
  }));
};
const median = (values: readonly number[]) => [...values].sort((a, b) => a - b)[values.length >> 1];

// The projector of another library (three, PerspectiveCamera) makes the edges; the camera is known.
describe('a frame sighted from edges', () => {
  it('finds the camera of three points again, without noise within 0.1 %', () => {
    for (const options of turns(1)) {
      const { focal, axes, edges } = scene(options);
      const { frame } = sightFrame(edges, PAGE);
      const camera = cameraOrThrow(frame, PAGE);
      expect(Math.abs(camera.focal / focal - 1)).toBeLessThan(1e-3);
      for (const way of ['right', 'left', 'height'] as const)
        expect(between(camera.axes[way], axes[way])).toBeLessThan(0.06);
      expect(Math.hypot(camera.centre.x - PAGE.width / 2, camera.centre.y - PAGE.height / 2)).toBeLessThan(
        0.001 * PAGE.height,
      );
    }
  });

  it.each([80, 95, 110, 125])('finds a camera of three points that sees %i°', (view) => {
    const { focal, edges } = scene({ yaw: 40, tilt: 30, view, seed: 11 });
    const camera = cameraOrThrow(sightFrame(edges, PAGE).frame, PAGE);
    expect(Math.abs(camera.focal / focal - 1)).toBeLessThan(1e-3);
  });

  it('asks as much of a point as the F distribution does (inv of jStat, npm)', () => {
    for (let freedom = 2; freedom <= 60; freedom++)
      expect(surelyMore(freedom) / jStat.centralF.inv(0.99, 1, freedom)).toBeCloseTo(1, 6);
  });

  it('finds the camera of two points again, and its horizon', () => {
    for (const { yaw, view, seed } of turns(2)) {
      const { focal, edges, axes } = scene({ yaw, view, seed, tilt: 0 });
      const { frame } = sightFrame(edges, PAGE);
      expect(pointCount(frame)).toBe(2);
      const camera = cameraOrThrow(frame, PAGE);
      expect(Math.abs(camera.focal / focal - 1)).toBeLessThan(1e-3);
      expect(between(camera.axes.right, axes.right)).toBeLessThan(0.06);
      expect(horizonOf(frame, PAGE)?.y).toBeCloseTo(PAGE.height / 2, 1);
    }
  });

  it('keeps the field of view within half a degree (median) with 0.3° of noise and six edges a direction', () => {
    const errors = [3, 4, 5].flatMap((round) =>
      turns(round).map((options) => {
        const { fieldOfView, edges } = scene({ ...options, noise: 0.3 });
        const reading = readFrame(sightFrame(edges, PAGE).frame, PAGE);
        return 'fieldOfView' in reading ? Math.abs(degrees(reading.fieldOfView - fieldOfView)) : Infinity;
      }),
    );
    expect(median(errors)).toBeLessThan(0.5);
  });

  it('shows the residual of each edge, and names one that was laid wrongly', () => {
    const { edges } = scene({ yaw: 35, tilt: 0, view: 50, noise: 0.2, seed: 77 });
    const wrong = edges.map((edge, k): SightedEdge =>
      k === 2 ? { ...edge, to: { x: edge.to.x + 150, y: edge.to.y + 260 } } : edge,
    );
    const { residuals, error } = sightFrame(wrong, PAGE);
    expect(residuals.map(({ isOutlier }) => isOutlier)).toEqual(wrong.map((_, k) => k === 2));
    expect(Math.abs(residuals[2].degrees)).toBeGreaterThan(2);
    expect(error).toBeLessThan(0.5);
  });

  it('takes edges that are parallel but for their spread to infinity, not to a wild point', () => {
    for (let seed = 0; seed < 20; seed++) {
      const { edges } = scene({ yaw: 40, tilt: 0, view: 50, noise: 0.2, seed: 500 + seed });
      const { frame } = sightFrame(edges, PAGE);
      expect(isFinitePoint(frame.points.height)).toBe(false);
    }
  });

  it('makes one point of a street seen head on', () => {
    const { edges } = scene({ yaw: 0, tilt: 0, view: 50, noise: 0.1, seed: 9 });
    const { frame } = sightFrame(edges, PAGE);
    expect(pointCount(frame)).toBe(1);
    const { centre } = cameraOrThrow(frame, PAGE);
    expect(Math.hypot(centre.x - PAGE.width / 2, centre.y - PAGE.height / 2)).toBeLessThan(60);
  });

  it('says what is missing, in words', () => {
    const edge = (way: SightedEdge['way'], x: number, y: number, u: number, v: number): SightedEdge => ({
      ...{ way, from: { x, y }, to: { x: u, y: v } },
    });
    expect(() => sightFrame([], PAGE)).toThrow(PageError);
    expect(() => sightFrame([edge('left', 5, 5, 5, 5)], PAGE)).toThrow(/no length/);
    expect(() => sightFrame([edge('left', 0, 0, 500, 100)], PAGE)).toThrow(/two edges/);
    expect(() =>
      sightFrame([edge('left', 0, 0, 500, 0), edge('left', 0, 900, 500, 900), edge('left', 0, 1900, 500, 1900)], PAGE),
    ).toThrow(/parallel/);
  });
});
