import { Bezier } from 'bezier-js';
import {
  bendSegment,
  cornerNode,
  handleAt,
  insertNode,
  isSmooth,
  moveHandle,
  moveNode,
  nearestOnSpine,
  nodeAt,
  nodeCount,
  pointAt,
  removeNode,
  segmentCount,
  setNodeWidth,
  smoothNode,
  spineLength,
  type Spine,
} from '../../src/curve';
import { drawStroke } from '../../src/ink';
import { circleSpine, polylineSpine } from '../../src/shapes';
import { brush, drawn, edgeKinkOf, even, wave } from '../hands';

const line = drawStroke(drawn(wave, { pressure: (t) => 0.3 + 0.5 * t }), brush, even(30)).spine;
const ring = circleSpine({ x: 100, y: 100 }, 60);

/** How far a course strays from another one, page px. */
const stray = (a: Spine, b: Spine): number => {
  let worst = 0;
  for (let segment = 0; segment < segmentCount(a); segment++)
    for (let k = 0; k <= 10; k++)
      worst = Math.max(worst, nearestOnSpine(b, pointAt(a, { segment, t: k / 10 })).distance);
  return worst;
};

describe('a smooth node', () => {
  it.each([0, 1, 2.5, -2])(
    'is one in whichever direction the line runs, also with a handle that lies on it (%p rad)',
    (angle) => {
      const [c, s] = [Math.cos(angle), Math.sin(angle)];
      const turned = (...flat: number[]): Spine => ({
        points: Float64Array.from(
          flat.flatMap((x, k) => (k % 2 ? [] : [c * x - s * flat[k + 1], s * x + c * flat[k + 1], 1])),
        ),
        closed: false,
      });
      // Straight on, its second handle drawn in; then a corner of a right angle, drawn in too.
      expect(isSmooth(turned(0, 0, 10, 0, 20, 0, 30, 0, 30, 0, 40, 0, 60, 20), 1)).toBe(true);
      expect(isSmooth(turned(0, 0, 10, 0, 30, 0, 30, 0, 40, 0, 50, 0, 60, 20), 1)).toBe(true);
      expect(isSmooth(turned(0, 0, 10, 0, 20, 0, 30, 0, 30, 0, 30, 10, 30, 60), 1)).toBe(false);
      expect(isSmooth(turned(0, 0, 30, 0, 30, 0, 30, 0, 30, 0, 60, 0, 60, 0), 1)).toBe(true);
    },
  );
});

describe('a node more', () => {
  it('changes neither course nor weight, and lies where bezier-js splits', () => {
    const more = insertNode(line, { segment: 1, t: 0.37 });
    expect(nodeCount(more)).toBe(nodeCount(line) + 1);
    expect(stray(more, line)).toBeLessThan(1e-6);
    const p = line.points.slice(9, 21);
    const { left } = new Bezier([0, 3, 6, 9].map((k) => ({ x: p[k], y: p[k + 1] }))).split(0.37) as unknown as {
      left: { points: { x: number; y: number }[] };
    };
    left.points.forEach(({ x, y }, k) => {
      expect(more.points[9 + 3 * k]).toBeCloseTo(x, 9);
      expect(more.points[10 + 3 * k]).toBeCloseTo(y, 9);
    });
  });

  it('is gone again without a trace', () => {
    const back = removeNode(insertNode(line, { segment: 2, t: 0.5 }), 3);
    expect(nodeCount(back)).toBe(nodeCount(line));
    expect(stray(back, line)).toBeLessThan(0.05);
    expect(stray(line, back)).toBeLessThan(0.05);
  });
});

describe('a node less', () => {
  it('keeps the shape as well as one cubic can', () => {
    const less = removeNode(ring, 1);
    expect(nodeCount(less)).toBe(3);
    expect(less.closed).toBe(true);
    expect(stray(less, ring)).toBeLessThan(3);
  });

  it('lets the weight go on as it did', () => {
    const alive = drawStroke(drawn(wave, { pressure: (t) => 0.4 + 0.4 * Math.sin(9 * t) }), brush, even(30)).spine;
    for (let node = 1; node < nodeCount(alive) - 1; node++)
      expect(edgeKinkOf(removeNode(alive, node))).toBeLessThan(1e-3);
  });

  it('may be where a ring begins, or an end of a line', () => {
    expect(stray(removeNode(ring, 0), ring)).toBeLessThan(3);
    const short = removeNode(line, 0);
    expect(nodeAt(short, 0)).toEqual(nodeAt(line, 1));
    expect(spineLength(removeNode(line, nodeCount(line) - 1))).toBeLessThan(spineLength(line));
  });

  it('is refused where no line would be left', () => {
    const two = polylineSpine([
      { x: 0, y: 0 },
      { x: 9, y: 0 },
    ]);
    expect(() => removeNode(two, 0)).toThrow(/two nodes/);
  });
});

describe('a node that is moved', () => {
  it('takes its handles along, and leaves the others', () => {
    const moved = moveNode(line, 1, { x: 5, y: -3 });
    expect(nodeAt(moved, 1)).toMatchObject({ x: nodeAt(line, 1).x + 5, y: nodeAt(line, 1).y - 3 });
    expect(handleAt(moved, 1, 'in')!.x).toBeCloseTo(handleAt(line, 1, 'in')!.x + 5, 9);
    expect(nodeAt(moved, 2)).toEqual(nodeAt(line, 2));
  });

  it('keeps a ring closed where it begins', () => {
    const { points } = moveNode(ring, 0, { x: 7, y: 7 });
    expect(Array.from(points.slice(-3))).toEqual(Array.from(points.slice(0, 3)));
    expect(isSmooth(moveNode(ring, 0, { x: 7, y: 7 }), 0)).toBe(true);
  });
});

describe('handles', () => {
  it('turn together at a smooth node, and apart when they are broken', () => {
    expect(isSmooth(ring, 2)).toBe(true);
    const together = moveHandle(ring, 2, 'out', { x: 60, y: 60 });
    expect(isSmooth(together, 2)).toBe(true);
    expect(isSmooth(moveHandle(ring, 2, 'out', { x: 60, y: 60 }, true), 2)).toBe(false);
  });

  it('make a corner smooth and a smooth node a corner', () => {
    const bent = polylineSpine([
      { x: 0, y: 0 },
      { x: 50, y: 0 },
      { x: 50, y: 50 },
    ]);
    expect(isSmooth(bent, 1)).toBe(false);
    expect(isSmooth(smoothNode(bent, 1), 1)).toBe(true);
    expect(isSmooth(cornerNode(ring, 2), 2)).toBe(false);
    expect(isSmooth(line, 0)).toBe(false);
    expect(smoothNode(line, 0)).toBe(line);
  });
});

describe('a width at a node', () => {
  it('is set there and nowhere else', () => {
    const wide = setNodeWidth(line, 2, 40);
    expect(nodeAt(wide, 2).width).toBe(40);
    expect(nodeAt(wide, 0).width).toBe(nodeAt(line, 0).width);
    expect(stray(wide, line)).toBeLessThan(1e-6);
    expect(nodeAt(setNodeWidth(line, 2, -5), 2).width).toBe(0);
  });
});

it('a bent cubic goes through the place under the hand', () => {
  const bent = bendSegment(ring, { segment: 1, t: 0.3 }, { x: 10, y: 180 });
  const { x, y } = pointAt(bent, { segment: 1, t: 0.3 });
  expect([x, y]).toEqual([expect.closeTo(10, 9), expect.closeTo(180, 9)]);
});
