import { PerspectiveCamera, Vector3 } from 'three';
import { applyProjective, type Point } from '../../../src/math';
import { checkEntity } from '../../../src/page';
import { pack, unpack } from '../../../src/wire';
import { PageError } from '../../../src/gate';
import {
  type FrameShape,
  type FrameWay,
  cameraBetween,
  cameraMap,
  cameraOf,
  cameraOrThrow,
  coneOfVision,
  FRAME_PRESETS,
  frameBetween,
  frameFromPoints,
  frameOfCamera,
  framePreset,
  horizonOf,
  isCamera,
  movePoint,
  moveHorizon,
  pointCount,
  readFrame,
  sentToInfinity,
  spreadPoints,
  turnedFrame,
  turnFrame,
  vanishingPoint,
} from '../../../src/guides';
import { at, guide } from '../guides';
import { between, degrees, PAGE, scene } from './scenes';

const WAYS: readonly FrameWay[] = ['right', 'left', 'height'];
const UPRIGHT = [0, 1, 0] as const;
const two = (left: number, right: number, y = 1900, rest: Partial<FrameShape> = {}) =>
  frameFromPoints({ right: [right, y, 1], left: [left, y, 1], height: UPRIGHT }, PAGE, rest);
const placeOf = (frame: FrameShape, way: FrameWay): Point => ({ x: frame.points[way][0], y: frame.points[way][1] });

describe('the camera of a frame', () => {
  it('has f² = −(v₁−P)·(v₂−P), its centre the foot of the middle on the horizon (Hartley & Zisserman 2004)', () => {
    const camera = cameraOrThrow(two(-2000, 5000), PAGE);
    expect(camera.centre).toEqual({ x: PAGE.width / 2, y: 1900 });
    expect(camera.focal ** 2).toBeCloseTo(-(-2000 - PAGE.width / 2) * (5000 - PAGE.width / 2), 3);
  });

  it('stands before the orthocentre of three points (Caprile & Torre 1990)', () => {
    const frame = framePreset(FRAME_PRESETS[4], PAGE);
    const { centre, focal } = cameraOrThrow(frame, PAGE);
    const [p, q, r] = WAYS.map((way) => placeOf(frame, way));
    // Every height of the triangle goes through it.
    for (const [a, b, c] of [
      [p, q, r],
      [q, r, p],
      [r, p, q],
    ])
      expect(((centre.x - a.x) * (c.x - b.x) + (centre.y - a.y) * (c.y - b.y)) / 1e6).toBeCloseTo(0, 6);
    expect(-((p.x - centre.x) * (q.x - centre.x) + (p.y - centre.y) * (q.y - centre.y))).toBeCloseTo(focal ** 2, 0);
  });

  it('is the one that made the picture, as an independent projector says (three)', () => {
    for (const [yaw, tilt, view] of [
      [30, 0, 50],
      [62, 0, 40],
      [25, 20, 60],
      [50, -30, 45],
    ] as const) {
      const made = scene({ yaw, tilt, view, seed: 1 });
      const points = Object.fromEntries(
        WAYS.map((way) => {
          const [x, y, z] = made.axes[way];
          return [
            way,
            vanishingPoint(made.focal * x + (PAGE.width / 2) * z, made.focal * y + (PAGE.height / 2) * z, z),
          ];
        }),
      );
      const camera = cameraOrThrow(
        frameFromPoints({ right: points.right, left: points.left, height: points.height }, PAGE),
        PAGE,
      );
      expect(camera.focal / made.focal).toBeCloseTo(1, 6);
      for (const way of WAYS) expect(between(camera.axes[way], made.axes[way])).toBeLessThan(1e-4);
    }
  });

  it('is told by one point and a focal length', () => {
    const frame = frameFromPoints({ right: [1, 0, 0], left: [1100, 1800, 1], height: UPRIGHT }, PAGE, { focal: 2500 });
    expect(cameraOrThrow(frame, PAGE)).toMatchObject({ centre: { x: 1100, y: 1800 }, focal: 2500 });
  });

  it('says which point to move where no square-cornered box looks so', () => {
    const obtuse = frameFromPoints({ right: [2000, 0, 1], left: [0, 0, 1], height: [1000, 300, 1] }, PAGE);
    expect(cameraOf(obtuse, PAGE)).toMatchObject({
      move: 'height',
      impossible: expect.stringMatching(/Upright is 147°.*below 90°/),
    });
    expect(cameraOf(two(3000, 5000), PAGE)).toMatchObject({
      move: 'left',
      impossible: expect.stringMatching(/one side/),
    });
    const flat = frameFromPoints({ right: [2000, 0, 1], left: [0, 0, 1], height: [900, 0, 1] }, PAGE);
    expect(cameraOf(flat, PAGE)).toMatchObject({ impossible: expect.stringMatching(/one line/) });
    const parallel = frameFromPoints({ right: [1, 0, 0], left: [0.6, 0.8, 0], height: UPRIGHT }, PAGE);
    expect(cameraOf(parallel, PAGE)).toMatchObject({ impossible: expect.stringMatching(/parallel/) });
  });

  it('says so of a kept frame whose two points have come together', () => {
    const one = two(-2000, 5000);
    const met = { ...one, points: { ...one.points, left: one.points.right } };
    expect(cameraOf(met, PAGE)).toMatchObject({ impossible: expect.stringMatching(/one place/) });
  });

  it('refuses points that lie in one place, or nowhere', () => {
    expect(() => two(700, 700)).toThrow(PageError);
    expect(() => vanishingPoint(NaN, 0, 1)).toThrow(PageError);
    expect(() => vanishingPoint(0, 0, 0)).toThrow(PageError);
    expect(vanishingPoint(3e12, 4e12, 1)).toEqual([0.6, 0.8, 0]);
  });
});

describe('a frame at the gate', () => {
  const whole = guide({
    ...two(-2000, 5000),
    names: { left: 'Harbour' },
    edges: [{ way: 'left', from: at(0, 0), to: at(9, 9) }],
  });
  const withShape = (change: object) => ({ ...whole, shape: { ...whole.shape, ...change } });

  it('comes through as it is, bytes and all', () => {
    expect(checkEntity(unpack(pack(whole)))).toEqual(whole);
  });

  it('is refused with a sentence where something of it cannot be', () => {
    const grid = { step: 100, reach: 20, fade: 0.5, hue: 0, snaps: false };
    for (const [change, words] of [
      [{ points: { right: [0, 0, 2], left: [0, 0, 1], height: [0, 1, 0] } }, /x, y and 1/],
      [{ points: { right: [3, 4, 0], left: [0, 0, 1], height: [0, 1, 0] } }, /unit vector/],
      [{ points: { right: [NaN, 0, 1], left: [0, 0, 1], height: [0, 1, 0] } }, /number/],
      [{ asleep: ['up'] }, /one of right, left, height/],
      [{ focal: 0 }, /focal/],
      [{ corner: { x: 'here', y: 0 } }, /number/],
      [{ edges: [{ way: 'left', from: at(5, 5), to: at(5, 5) }] }, /from one place to another/],
      [{ grids: { floor: { ...grid, reach: 1e6 } } }, /reach/],
      [{ grids: { floor: { ...grid, reach: 2.5 } } }, /whole number/],
      [{ grids: { floor: { ...grid, step: 0 } } }, /step/],
    ] as const)
      expect(() => checkEntity(withShape(change))).toThrow(words);
  });
});

describe('what a frame is moved to', () => {
  it('a second box turned on the same horizon keeps the camera', () => {
    for (const preset of FRAME_PRESETS) {
      const frame = framePreset(preset, PAGE);
      const turned = turnFrame(frame, 0.6, PAGE);
      const [a, b] = [cameraOrThrow(frame, PAGE), cameraOrThrow(turned, PAGE)];
      expect(b.focal / a.focal).toBeCloseTo(1, 8);
      expect(Math.hypot(a.centre.x - b.centre.x, a.centre.y - b.centre.y)).toBeLessThan(1e-4);
      expect(between(a.axes.height, b.axes.height)).toBeLessThan(1e-4);
      const apart = ['right', 'left'].map((way) => between(a.axes.right, b.axes[way === 'right' ? 'right' : 'left']));
      expect(
        apart.some((angle) => Math.abs(angle - degrees(0.6)) < 1e-4 || Math.abs(angle - (90 - degrees(0.6))) < 1e-4),
      ).toBe(true);
    }
  });

  it('turned by a full circle it is what it was', () => {
    let frame = framePreset(FRAME_PRESETS[4], PAGE);
    const before = cameraOrThrow(frame, PAGE);
    for (let k = 0; k < 12; k++) frame = turnedFrame({ ...frame, corner: before.centre }, { yaw: Math.PI / 6 }, PAGE);
    const after = cameraOrThrow(frame, PAGE);
    expect(after.focal / before.focal).toBeCloseTo(1, 8);
    expect(between(after.axes.height, before.axes.height)).toBeLessThan(1e-4);
  });

  it('the horizon takes its points along, and an upright stays square to it', () => {
    const moved = moveHorizon(two(-2000, 5000, 1900, { centre: { x: 1500, y: 1900 } }), 300, 0.1, PAGE);
    const horizon = horizonOf(moved, PAGE);
    expect(Math.atan2(horizon?.dy ?? 0, horizon?.dx ?? 1)).toBeCloseTo(0.1, 9);
    expect(isCamera(cameraOf(moved, PAGE))).toBe(true);
    const [p, q] = [placeOf(moved, 'right'), placeOf(moved, 'left')];
    expect(Math.hypot(p.x - q.x, p.y - q.y)).toBeCloseTo(7000, 6);
  });

  it('spread apart, the centre of vision stays and the focal length grows as much', () => {
    const frame = two(-2000, 5000);
    const wide = spreadPoints(frame, 1.5, PAGE);
    const [a, b] = [cameraOrThrow(frame, PAGE), cameraOrThrow(wide, PAGE)];
    expect(b.centre).toEqual(a.centre);
    expect(b.focal / a.focal).toBeCloseTo(1.5, 9);
  });

  it('a point sent to infinity leaves lines along the way to it', () => {
    const away = sentToInfinity(two(-2000, 5000), 'right', PAGE);
    expect(away.points.right).toEqual([1, 0, 0]);
    expect(pointCount(away)).toBe(1);
    expect(sentToInfinity(framePreset(FRAME_PRESETS[4], PAGE), 'height', PAGE).points.height[2]).toBe(0);
  });

  it('a fixed point stays', () => {
    const frame = two(-2000, 5000, 1900, { fixed: ['left'] });
    expect(() => movePoint(frame, 'left', [0, 0, 1], PAGE)).toThrow(/fixed/);
    expect(() => moveHorizon(frame, 10, 0, PAGE)).toThrow(/fixed/);
    expect(movePoint(frame, 'right', [6000, 1900, 1], PAGE).points.right).toEqual([6000, 1900, 1]);
  });
});

describe('what a frame says', () => {
  it('all presets hold the page inside a cone of 60° (common practice)', () => {
    for (const preset of FRAME_PRESETS) {
      const frame = framePreset(preset, PAGE);
      expect(pointCount(frame)).toBe(preset.points);
      const cone = coneOfVision(frame, PAGE);
      if (!('radius' in cone)) throw new Error(cone.impossible);
      for (const x of [0, PAGE.width])
        for (const y of [0, PAGE.height]) expect(Math.hypot(x - cone.x, y - cone.y)).toBeLessThan(cone.radius);
      const reading = readFrame(frame, PAGE);
      if ('widest' in reading) {
        expect(degrees(reading.widest)).toBeLessThan(60);
        expect(degrees(reading.tilt)).toBeCloseTo(preset.tilt, 6);
      }
    }
  });

  it('the field of view is the one of the camera that made it (three)', () => {
    const camera = new PerspectiveCamera(50, PAGE.width / PAGE.height);
    const focal = PAGE.height / 2 / Math.tan((25 * Math.PI) / 180);
    const frame = frameFromPoints(
      { right: [1, 0, 0], left: [PAGE.width / 2, PAGE.height / 2, 1], height: UPRIGHT },
      PAGE,
      { focal },
    );
    // Where three sees a point at the right border of the picture, under that angle.
    camera.updateProjectionMatrix();
    const reading = readFrame(frame, PAGE);
    if (!('fieldOfView' in reading)) throw new Error('no camera');
    const border = new Vector3(Math.tan(reading.fieldOfView / 2), 0, -1).project(camera);
    expect(border.x).toBeCloseTo(1, 9);
  });
});

describe('the map from one camera to another', () => {
  it('takes points of the picture to where the turned camera sees them (three)', () => {
    const places = Array.from({ length: 12 }, (_, k) => new Vector3(Math.sin(k) * 2, Math.cos(2 * k), -7 - (k % 3)));
    const [one, other] = [
      scene({ yaw: 20, tilt: 8, view: 50, seed: 1 }),
      scene({ yaw: 34, tilt: -6, roll: 4, view: 42, seed: 1 }),
    ];
    const centre = { x: PAGE.width / 2, y: PAGE.height / 2 };
    const map = cameraMap({ centre, ...one }, { centre, ...other });
    expect(map).toBeDefined();
    for (const place of places) {
      const [a, b] = [one.project(place), other.project(place)];
      const seen = map && applyProjective(map, a.x, a.y);
      expect(seen?.x).toBeCloseTo(b.x, 6);
      expect(seen?.y).toBeCloseTo(b.y, 6);
    }
  });

  it('half way there is half the turn', () => {
    const from = framePreset(FRAME_PRESETS[2], PAGE);
    const to = turnedFrame(from, { yaw: 0.3, tilt: 0.2, zoom: 1.44 }, PAGE);
    const [a, b] = [cameraOrThrow(from, PAGE), cameraOrThrow(to, PAGE)];
    const middle = cameraBetween(a, b, 0.5);
    expect(middle.focal / a.focal).toBeCloseTo(1.2, 9);
    for (const way of WAYS)
      expect(between(a.axes[way], middle.axes[way])).toBeCloseTo(between(middle.axes[way], b.axes[way]), 6);
    expect(frameOfCamera(cameraBetween(a, b, 1), PAGE).points.right[0]).toBeCloseTo(to.points.right[0], 3);
    const half = frameBetween(from, to, 0.5, PAGE);
    expect(cameraOrThrow(half, PAGE).focal).toBeCloseTo(middle.focal, 3);
    expect([frameBetween(from, to, 0, PAGE), frameBetween(from, to, 1, PAGE)]).toEqual([from, to]);
  });
});
