import fc from 'fast-check';
import { type Point, applyProjective } from '../../src/math';
import {
  draggedFrame,
  flippedFrame,
  frameCorners,
  frameGripAt,
  frameGrips,
  frameMap,
  frameOf,
  isUntouched,
  movedFrame,
  type Frame,
  type FrameGrip,
} from '../../src/select';

const frame = frameOf({ minX: 100, minY: 200, maxX: 300, maxY: 260 });
const plain = { proportional: false, fromCentre: false, free: false };
const corner = (index: 0 | 1 | 2 | 3): FrameGrip => ({ part: 'corner', index });
const drag = (start: Frame, grip: FrameGrip, from: Point, to: Point, options = plain) =>
  draggedFrame(start, grip, from, to, options);
const near = (a: Point, b: Point) => {
  expect(a.x).toBeCloseTo(b.x, 6);
  expect(a.y).toBeCloseTo(b.y, 6);
};

describe('the frame of a selection', () => {
  it('is taken hold of by its grips, its inside and its knob', () => {
    const { knob } = frameGrips(frame, 20);
    near(knob, { x: 200, y: 180 });
    expect(frameGripAt(frame, knob, 5, 20)).toEqual({ part: 'knob' });
    expect(frameGripAt(frame, { x: 301, y: 199 }, 5, 20)).toEqual(corner(1));
    expect(frameGripAt(frame, { x: 300, y: 231 }, 5, 20)).toEqual({ part: 'edge', index: 1 });
    expect(frameGripAt(frame, { x: 150, y: 230 }, 5, 20)).toEqual({ part: 'inside' });
    expect(frameGripAt(frame, { x: 50, y: 230 }, 5, 20)).toBeUndefined();
  });

  it('a dragged corner goes under the pointer while the far one stays', () => {
    const sized = drag(frame, corner(2), { x: 300, y: 260 }, { x: 360, y: 320 });
    const [a, , c] = frameCorners(sized);
    near(a, { x: 100, y: 200 });
    near(c, { x: 360, y: 320 });
  });

  it('from the centre the middle stays, and in proportion the sides keep theirs', () => {
    const centred = drag(frame, corner(2), { x: 300, y: 260 }, { x: 400, y: 290 }, { ...plain, fromCentre: true });
    near(frameCorners(centred)[0], { x: 0, y: 170 });
    const even = drag(frame, corner(2), { x: 300, y: 260 }, { x: 500, y: 270 }, { ...plain, proportional: true });
    expect(even.scaleX).toBeCloseTo(even.scaleY, 9);
    expect(even.scaleX).toBeCloseTo(2, 9);
  });

  it('is turned by its knob, by fifteen degrees where that is asked for', () => {
    const turned = drag(frame, { part: 'knob' }, { x: 200, y: 180 }, { x: 250, y: 230 });
    expect(turned.angle).toBeCloseTo(Math.PI / 2, 9);
    const stepped = drag(
      frame,
      { part: 'knob' },
      { x: 200, y: 180 },
      { x: 225, y: 183 },
      { ...plain, proportional: true },
    );
    expect((stepped.angle * 180) / Math.PI / 15).toBeCloseTo(Math.round((stepped.angle * 180) / Math.PI / 15), 9);
  });

  it('also turned and leaning, a dragged corner goes under the pointer', () => {
    const point = fc.record({ x: fc.integer({ min: 320, max: 700 }), y: fc.integer({ min: 280, max: 700 }) });
    fc.assert(
      fc.property(
        point,
        fc.double({ min: -1, max: 1, noNaN: true }),
        fc.double({ min: -0.4, max: 0.4, noNaN: true }),
        (to, angle, skew) => {
          const start = { ...frame, angle, skew };
          const sized = drag(start, corner(2), frameCorners(start)[2], to);
          if (Math.abs(sized.scaleX) <= 1e-3 || Math.abs(sized.scaleY) <= 1e-3) return;
          near(frameCorners(sized)[2], to);
          near(frameCorners(sized)[0], frameCorners(start)[0]);
        },
      ),
    );
  });

  it('leans by an edge and is pulled corner by corner when that is asked for', () => {
    const free = { ...plain, free: true };
    const leaning = drag(frame, { part: 'edge', index: 2 }, { x: 200, y: 260 }, { x: 230, y: 260 }, free);
    expect(Math.tan(leaning.skew)).toBeCloseTo(1, 9);
    const pulled = drag(frame, corner(0), { x: 100, y: 200 }, { x: 90, y: 170 }, free);
    near(frameCorners(pulled)[0], { x: 90, y: 170 });
    near(applyProjective(frameMap(pulled), 100, 200), { x: 90, y: 170 });
    near(applyProjective(frameMap(pulled), 300, 260), { x: 300, y: 260 });
  });

  it('flipping twice is nothing, moving there and back neither', () => {
    expect(isUntouched(flippedFrame(flippedFrame(frame, 'across'), 'across'))).toBe(true);
    expect(isUntouched(movedFrame(movedFrame(frame, 3, -4), -3, 4))).toBe(true);
    near(frameCorners(flippedFrame(frame, 'across'))[0], { x: 300, y: 200 });
  });

  it('is never sized to nothing, and a flat one is refused', () => {
    const flat = drag(frame, corner(2), { x: 300, y: 260 }, { x: 100, y: 200 });
    expect(Math.abs(flat.scaleX)).toBeGreaterThan(0);
    expect(() => frameMap({ ...frame, scaleX: 0 })).toThrow(/flatten/);
    const folded = drag(frame, corner(0), { x: 100, y: 200 }, { x: 400, y: 400 }, { ...plain, free: true });
    expect(() => frameMap(folded)).toThrow(/fold/);
  });
});
