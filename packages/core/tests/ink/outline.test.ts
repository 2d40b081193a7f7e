import ClipperLib from 'clipper-lib';
import { flattenSpine, makeSpine } from '../../src/curve';
import { drawStroke, OUTLINE_TOLERANCE, outlineOf, outlinePolyline } from '../../src/ink';
import type { Stroke } from '../../src/stroke';
import { area, toRing, type Ring } from '../areas';
import { areaOf, brush, drawn, even, liner, raw, ring, straight, tapered, wave, zigzag } from '../hands';

/** The same ink as a union of discs and quads, slow and exact: the shape that an outline must have. */
function discsAndQuads(line: Float64Array): Ring[] {
  const shapes: Ring[] = [];
  for (let i = 0; i < line.length; i += 3) {
    const [x, y, r] = [line[i], line[i + 1], line[i + 2] / 2];
    shapes.push(
      toRing(
        Array.from({ length: 96 }, (_, k) =>
          k % 2 ? y + r * Math.sin((Math.PI * (k - 1)) / 48) : x + r * Math.cos((Math.PI * k) / 48),
        ),
      ),
    );
    if (i === 0) continue;
    const [px, py, pr] = [line[i - 3], line[i - 2], line[i - 1] / 2];
    const gap = Math.hypot(x - px, y - py);
    const lean = (pr - r) / gap;
    if (!(gap > 0) || Math.abs(lean) >= 1) continue;
    const [ux, uy] = [(x - px) / gap, (y - py) / gap];
    const side = Math.sqrt(1 - lean * lean);
    const normals = [1, -1].map((s) => [ux * lean - s * uy * side, uy * lean + s * ux * side]);
    const quad = toRing([
      px + pr * normals[0][0],
      py + pr * normals[0][1],
      x + r * normals[0][0],
      y + r * normals[0][1],
      x + r * normals[1][0],
      y + r * normals[1][1],
      px + pr * normals[1][0],
      py + pr * normals[1][1],
    ]);
    if (!ClipperLib.Clipper.Orientation(quad)) quad.reverse();
    shapes.push(quad);
  }
  return shapes;
}

const strokes = [
  ['a wave with a liner', drawStroke(drawn(wave, { count: 200, tremor: 0.5 }), liner, even(30))],
  [
    'a pressed wave',
    drawStroke(drawn(wave, { count: 200, pressure: (t) => 0.05 + 0.9 * Math.abs(Math.sin(5 * t)) }), brush, even(20)),
  ],
  ['a tapered line', drawStroke(drawn(straight), tapered, raw)],
  ['a zigzag with a wide nib', drawStroke(drawn(zigzag, { count: 200 }), { ...liner, size: 40 }, raw)],
  [
    'a shaken hand with a wide nib',
    drawStroke(drawn(wave, { count: 36, tremor: 9, seed: 4 }), { ...liner, size: 30 }, raw),
  ],
  ['a tight ring', drawStroke(drawn(ring), { ...liner, size: 60 }, raw)],
] as const;

it('a wide blot of the driest nib has the ink that it fills', () => {
  const spine = makeSpine(
    Float64Array.of(0, 0, 8, 100, 0, 8, 100, 100, 8, 0, 100, 8, 0, 100, 8, 0, 0, 8, 0, 0, 8),
    true,
  );
  const blot: Stroke = {
    ...{ spine, ends: ['round', 'round'], fills: true, grain: { seed: 1, offset: 0 } },
    nib: { ...liner, edge: { kind: 'dry', amount: 1, grain: 60 } },
  };
  for (let seed = 0; seed < 40; seed++) {
    const { rings } = outlineOf({ ...blot, grain: { seed, offset: 0 } });
    expect(Math.abs(areaOf(rings[0]))).toBeGreaterThan(1_000);
  }
});

describe('the outline', () => {
  it.each(strokes)('of %s covers what discs and quads cover, by area', (_name, stroke) => {
    const line = flattenSpine(stroke.spine, 0.1);
    const outline = [toRing(outlinePolyline(line, ['round', 'round'], 0.025))];
    const exact = discsAndQuads(line);
    const whole = area(ClipperLib.ClipType.ctUnion, exact, []);
    const perimeterish = whole / (stroke.nib.size / 2);
    // What differs is a rim far thinner than a tenth of a px.
    expect(Math.abs(area(ClipperLib.ClipType.ctXor, outline, exact))).toBeLessThan(0.06 * perimeterish + 2);
    expect(Math.abs(area(ClipperLib.ClipType.ctUnion, outline, []) - whole)).toBeLessThan(0.005 * whole + 1);
  });

  it.each(strokes)('of %s strays by no more than was asked for', (_name, stroke) => {
    const line = flattenSpine(stroke.spine, 0.1);
    const outline = [toRing(outlinePolyline(line, ['round', 'round'], 0.5))];
    const exact = discsAndQuads(line);
    const perimeterish = area(ClipperLib.ClipType.ctUnion, exact, []) / (stroke.nib.size / 2);
    expect(Math.abs(area(ClipperLib.ClipType.ctXor, outline, exact))).toBeLessThan(0.5 * perimeterish);
  });

  it('of a bend has one point a side for each place of the line, where its edges meet', () => {
    const places = 24;
    const turn = (k: number) => (k * Math.PI) / 36;
    const bend = Array.from({ length: places }, (_, k) => [200 * Math.cos(turn(k)), 200 * Math.sin(turn(k)), 20]);
    const points = outlinePolyline(Float64Array.from(bend.flat()), ['flat', 'flat'], 0.1);
    expect(points.length / 2).toBe(2 * places);
    const sagitta = 210 * (1 - Math.cos(Math.PI / 72));
    for (let i = 0; i < points.length; i += 2) {
      const off = Math.abs(Math.hypot(points[i], points[i + 1]) - 200);
      expect(Math.abs(off - 10)).toBeLessThan(0.1 + sagitta);
    }
  });

  it('of a straight liner is its length times its width and two half discs', () => {
    const stroke = drawStroke(
      drawn((t) => [10 + 100 * t, 20]),
      liner,
      raw,
    );
    expect(Math.abs(areaOf(outlineOf(stroke).rings[0]))).toBeCloseTo(100 * 10 + Math.PI * 25, -0.2);
    const cut = outlinePolyline(flattenSpine(stroke.spine, 0.02), ['flat', 'flat'], 0.02);
    expect(Math.abs(areaOf(cut))).toBeCloseTo(1_000, 3);
  });

  it('of a dot is a disc', () => {
    const {
      rings: [points],
      box,
    } = outlineOf(drawStroke([{ x: 50, y: 50, pressure: 1 }], liner, raw));
    expect(Math.abs(areaOf(points))).toBeCloseTo(Math.PI * 25, -0.2);
    expect(box.maxX - box.minX).toBeCloseTo(10, 1);
  });

  it('is made once for each stroke and tolerance', () => {
    const [, stroke] = strokes[0];
    expect(outlineOf(stroke)).toBe(outlineOf(stroke, OUTLINE_TOLERANCE));
    expect(outlineOf(stroke, 0.5)).not.toBe(outlineOf(stroke));
    expect(outlineOf(stroke, 0.5).rings[0].length).toBeLessThan(outlineOf(stroke).rings[0].length);
  });

  it.each(strokes)('of %s holds finite numbers inside its box', (_name, stroke) => {
    const {
      rings: [points],
      box,
    } = outlineOf(stroke);
    expect(points.every(Number.isFinite)).toBe(true);
    expect(Math.min(...points.filter((_, k) => k % 2 === 0))).toBe(box.minX);
    expect(Math.max(...points.filter((_, k) => k % 2 === 1))).toBe(box.maxY);
  });
});
