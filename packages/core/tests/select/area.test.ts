import ClipperLib from 'clipper-lib';
import { nested, type AreaEntity } from '../../src/area';
import { flattenSpine } from '../../src/curve';
import { seededRandom, type Point } from '../../src/math';
import type { Stroke, StrokeEntity } from '../../src/stroke';
import { foundInLoop, foundInRect, sameColour, sameNib } from '../../src/select';
import { drawStroke } from '../../src/ink';
import { ellipseSpine } from '../../src/shapes';
import { brush, laid, liner, raw } from '../hands';

const random = seededRandom(11);
const scribble = (): StrokeEntity => {
  const [x, y, a, b] = [random() * 900, random() * 900, 20 + random() * 120, random() * 6];
  const hand = Array.from({ length: 24 }, (_, k) => ({
    x: x + a * Math.cos(b + k / 5),
    y: y + a * Math.sin(b * 2 + k / 4),
    pressure: 0.5,
  }));
  return laid(drawStroke(hand, liner, raw));
};
const strokes = Array.from({ length: 300 }, scribble);

/** A loop as a hand draws it: round, with a bay, and crossing itself near its end. */
const loop: Point[] = Array.from({ length: 160 }, (_, k) => {
  const t = (k / 150) * 2 * Math.PI;
  const r = 250 + 90 * Math.cos(3 * t);
  return { x: 480 + r * Math.cos(t), y: 470 + r * Math.sin(t) };
});

const FINE = 1_000;
const fixed = (points: readonly Point[]) =>
  points.map(({ x, y }) => ({ X: Math.round(x * FINE), Y: Math.round(y * FINE) }));
const courseOf = ({ spine }: Stroke): Point[] => {
  const line = flattenSpine(spine, 0.25);
  return Array.from({ length: line.length / 3 }, (_, k) => ({ x: line[3 * k], y: line[3 * k + 1] }));
};

/** How a course lies to a polygon by clipper-lib: the open paths that are left inside and outside, non-zero rule. */
function byClipper(course: readonly Point[], polygon: readonly Point[]) {
  const clip = (operation: number) => {
    const clipper = new ClipperLib.Clipper();
    clipper.AddPath(fixed(course), ClipperLib.PolyType.ptSubject, false);
    clipper.AddPath(fixed(polygon), ClipperLib.PolyType.ptClip, true);
    const tree = new ClipperLib.PolyTree();
    clipper.Execute(operation, tree, ClipperLib.PolyFillType.pftNonZero, ClipperLib.PolyFillType.pftNonZero);
    return ClipperLib.Clipper.OpenPathsFromPolyTree(tree).length;
  };
  return { inside: clip(ClipperLib.ClipType.ctIntersection), outside: clip(ClipperLib.ClipType.ctDifference) };
}

describe('selecting by an area', () => {
  const rect = { minX: 250, minY: 300, maxX: 640, maxY: 720 };
  const corners = [
    { x: 250, y: 300 },
    { x: 640, y: 300 },
    { x: 640, y: 720 },
    { x: 250, y: 720 },
  ];

  // Source: clipper-lib 6.4.2 (Angus Johnson's Clipper, BSL), open paths clipped by a polygon.
  it.each([
    ['a loop', loop, (whole: boolean) => foundInLoop(strokes, loop, { whole })],
    ['a rectangle', corners, (whole: boolean) => foundInRect(strokes, rect, { whole })],
  ])('by %s finds what a polygon library finds', (_what, polygon, select) => {
    const reaching = strokes.filter((stroke) => byClipper(courseOf(stroke), polygon).inside > 0);
    const whole = strokes.filter((stroke) => {
      const { inside, outside } = byClipper(courseOf(stroke), polygon);
      return inside > 0 && outside === 0;
    });
    expect(reaching.length).toBeGreaterThan(60);
    expect(whole.length).toBeGreaterThan(15);
    expect(whole.length).toBeLessThan(reaching.length);
    expect(select(false)).toEqual(reaching);
    expect(select(true)).toEqual(whole);
  });

  it('a straight line right through is touched, though neither end lies inside', () => {
    const hand = [0, 1000].map((x) => ({ x, y: 500, pressure: 0.5 }));
    const through = laid(drawStroke(hand, liner, raw));
    expect(foundInRect([through], rect)).toEqual([through]);
    expect(foundInRect([through], rect, { whole: true })).toEqual([]);
    expect(foundInLoop([through], corners)).toEqual([through]);
  });

  it('a loop of less than three points selects nothing', () => {
    expect(foundInLoop(strokes, loop.slice(0, 2))).toEqual([]);
  });
});

describe('selecting by likeness', () => {
  const filled: AreaEntity = {
    ...{ kind: 'area', id: 'filled', layerId: 'inks', order: 'a1' },
    rings: nested([ellipseSpine({ centre: { x: 9, y: 9 }, rx: 5, ry: 5 })]),
    fill: { as: 'colour', color: '#ab3322' },
  };
  const nick: AreaEntity = { ...filled, id: 'nick', fill: { as: 'nothing' } };
  const [a, b, c] = strokes;
  const many: Stroke[] = [
    a,
    { ...b, nib: { ...brush, color: '#AB3322' } },
    { ...c, nib: { ...liner, size: 3, color: '#ab3322' } },
  ];

  it('goes by the nib whatever its size, and by the colour however it is written', () => {
    expect(sameNib(many, [many[0]])).toEqual([many[0], many[2]]);
    const all = [...many.map((one, k) => laid(one, `s${k}`)), filled, nick];
    expect(sameColour(all, [all[1]])).toEqual([all[1], all[2], filled]);
    // What takes ink away is like nothing.
    expect(sameColour(all, [nick])).toEqual([]);
    expect(sameNib(many, [])).toEqual([]);
  });
});
