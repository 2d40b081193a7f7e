import fc from 'fast-check';
import { cameraOf, isCamera } from '../../src/guides';
import { carriedBy, type Vector } from '../../src/math';
import {
  cameraFromFrame,
  focalInPx,
  frameOf,
  lookingAt,
  movedCamera,
  orbited,
  picturedAt,
  pointsOf,
  rayThrough,
  meetsPlane,
  viewOf,
  widthOfView,
  withPoints,
  type Eye,
} from '../../src/set';
import { cameraAt, OVER, SIZE } from './scenes';

const seen = (camera: Eye, place: Vector) => picturedAt(camera.look, carriedBy(viewOf(camera).map, place));

describe('the camera of a set', () => {
  it('sees 39.6° across with 50 mm of full frame, 36 mm wide', () => {
    // 2·atan(36 / 100), recomputed.
    expect((widthOfView(50) * 180) / Math.PI).toBeCloseTo(39.5978, 3);
    expect(focalInPx(50, 3600)).toBe(5000);
  });

  it.each([
    ['two points', cameraAt([-5, -13, 3], 20, 0)],
    ['three points', OVER],
    ['three, rolled', cameraAt([4, -9, 5], -31, -20, 9)],
  ])('hands over the frame that its parallels run to: %s', (_name, camera) => {
    const { points } = frameOf(camera, SIZE);
    const far = 1e8;
    for (const [way, axis] of [
      ['right', [1, 0, 0]],
      ['left', [0, 1, 0]],
      ['height', [0, 0, 1]],
    ] as const) {
      const sign = carriedBy(viewOf(camera).map, axis.map((v) => v * far) as unknown as Vector)[2] > 0 ? 1 : -1;
      const places = [0, 1].map((side) => {
        const on = [1, 2, 0.5].map((value, k) => value * side + sign * far * axis[k]) as unknown as Vector;
        return seen(camera, on);
      });
      const [x, y, w] = points[way];
      // The direction in which a far place of each parallel lies, from the centre of vision.
      for (const place of places) {
        const { centre, focal } = camera.look;
        const a = [place.x - centre.x, place.y - centre.y, focal];
        const b = w === 1 ? [x - centre.x, y - centre.y, focal] : [x, y, 0];
        const size = Math.hypot(...a) * Math.hypot(...b);
        const across = Math.hypot(a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]);
        if (w === 1) expect(across / size).toBeLessThan(1e-6);
      }
    }
    const back = cameraOf(frameOf(camera, SIZE), SIZE);
    expect(isCamera(back) && back.focal).toBeCloseTo(camera.look.focal, 3);
  });

  it('is found again from the frame that was handed over', () => {
    fc.assert(
      fc.property(fc.integer({ min: 5, max: 85 }), fc.integer({ min: -40, max: 40 }), (yaw, tilt) => {
        fc.pre(Math.abs(tilt) > 3);
        const { look } = cameraAt([0, -9, 2], yaw, tilt);
        const found = cameraFromFrame(frameOf({ eye: [0, -9, 2], look }, SIZE), SIZE, look);
        for (const way of ['right', 'left', 'height'] as const)
          for (const k of [0, 1, 2]) expect(found.axes[way][k]).toBeCloseTo(look.axes[way][k], 6);
      }),
    );
  });

  it('goes round a place without moving it in the picture', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -2, max: 2, noNaN: true }),
        fc.double({ min: -0.6, max: 0.6, noNaN: true }),
        (yaw, tilt) => {
          const [before, after] = [seen(OVER, [1, 2, 1]), seen(orbited(OVER, [1, 2, 1], { yaw, tilt }), [1, 2, 1])];
          expect(Math.hypot(after.x - before.x, after.y - before.y)).toBeLessThan(1e-6);
        },
      ),
    );
  });

  it('keeps upright lines upright by shifting its lens, and what it looks at in its place', () => {
    for (const points of [1, 2] as const) {
      const camera = withPoints(OVER, points, [0, 0, 1], { x: 800, y: 500 });
      expect(pointsOf(camera)).toBe(points);
      expect(seen(camera, [0, 0, 0]).x).toBeCloseTo(seen(camera, [0, 0, 2]).x, 6);
      const [before, after] = [seen(OVER, [0, 0, 1]), seen(camera, [0, 0, 1])];
      expect(Math.hypot(after.x - before.x, after.y - before.y)).toBeLessThan(1e-6);
    }
    const level = withPoints(OVER, 2, [0, 0, 1], { x: 800, y: 500 });
    expect(pointsOf(withPoints(level, 3, [0, 0, 1], { x: 800, y: 500 }))).toBe(3);
  });

  it('sees what it was pointed at in the middle, level or tilted', () => {
    for (const level of [true, false]) {
      const camera = lookingAt([3, -8, 1.6], [0, 2, 4], { focal: 1000, middle: { x: 700, y: 400 }, level });
      expect(seen(camera, [0, 2, 4]).x).toBeCloseTo(700, 6);
      expect(seen(camera, [0, 2, 4]).y).toBeCloseTo(400, 6);
      expect(pointsOf(camera)).toBe(level ? 2 : 3);
    }
  });

  it('meets the floor where the hand is, and no floor above the horizon', () => {
    const at = seen(OVER, [2, 3, 0]);
    const met = meetsPlane(OVER, at, [0, 0, 0], [0, 0, 1]);
    expect(met?.map((value) => Math.round(value * 1e6) / 1e6)).toEqual([2, 3, 0]);
    expect(meetsPlane(cameraAt([0, -9, 2], 0, 0), { x: 800, y: 300 }, [0, 0, 0], [0, 0, 1])).toBeUndefined();
    expect(rayThrough(movedCamera(OVER, [1, 0, 0]), at)).toEqual(rayThrough(OVER, at));
  });
});
