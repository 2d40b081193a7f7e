import { evenlyWide, flattenSpine, STRIDE, widestOf, type Spine } from '../../src/curve';
import { PageError } from '../../src/gate';
import { legsApart, type Point } from '../../src/math';
import { arcSpine, ellipseSpine, lineSpine, polylineSpine } from '../../src/shapes';
import type { Stroke } from '../../src/stroke';
import { featherRows, InkEdge, rowBeside, sidesOfLine, spanRows } from '../../src/texture';
import { liner } from '../hands';

const at = (x: number, y: number): Point => ({ x, y });
const line = (from: Point, to: Point, width = 4): Spine => evenlyWide(lineSpine(from, to), width);
const endsOf = ({ spine: { points } }: Pick<Stroke, 'spine'>) => [
  at(points[0], points[1]),
  at(points[points.length - STRIDE], points[points.length - STRIDE + 1]),
];
const nib = { ...liner, size: 4 };
const flat = ({ spine }: Stroke) => flattenSpine(spine, 0.02);

describe('a span', () => {
  const top = line(at(0, 0), at(300, 0), 2);
  const foot = line(at(0, 100), at(300, 160), 10);

  it('lays rows evenly between two lines, their weights between theirs', () => {
    const rows = spanRows([top, foot], { nib, rows: { count: 3 } });
    expect(rows).toHaveLength(3);
    rows.forEach((row, k) => {
      const share = (k + 1) / 4;
      const [a, b] = endsOf(row);
      expect([a.x, a.y, b.x, b.y]).toEqual([0, 100 * share, 300, 160 * share].map((value) => expect.closeTo(value, 6)));
      expect(widestOf(row.spine)).toBeCloseTo(2 + 8 * share, 6);
    });
  });

  it('goes by how far apart they are to lie, and gathers them to one side', () => {
    expect(spanRows([top, line(at(0, 100), at(300, 100))], { nib, rows: { spacing: 20 } })).toHaveLength(4);
    const heights = spanRows([top, foot], { nib, rows: { count: 3 }, gather: -0.5 }).map((row) => endsOf(row)[0].y);
    expect(heights).toEqual([6.25, 25, 56.25].map((value) => expect.closeTo(value, 6)));
  });

  it('takes lines that were drawn the other way, and whose nodes lie elsewhere', () => {
    const other = polylineSpine([at(300, 160), at(260, 152), at(90, 118), at(0, 100)]);
    const bothWays = [
      [top, other],
      [other, top],
    ].flatMap((lines) => spanRows(lines, { nib, rows: { count: 4 } }));
    for (const row of bothWays) {
      const [a, b] = endsOf(row).sort((one, two) => one.x - two.x);
      expect([a.x, b.x]).toEqual([expect.closeTo(0, 6), expect.closeTo(300, 6)]);
      // Between straight lines each row is straight.
      const way = flat(row);
      for (let i = 0; i < way.length; i += STRIDE)
        expect(Math.abs(way[i + 1] - (a.y + ((b.y - a.y) * way[i]) / 300))).toBeLessThan(0.1);
    }
  });

  it('goes on between three and more', () => {
    const rows = spanRows([top, foot, line(at(0, 300), at(300, 300))], { nib, rows: { count: 2 } });
    expect(rows).toHaveLength(4);
    expect(endsOf(rows[3])[0].y).toBeCloseTo(100 + (200 * 2) / 3, 6);
  });

  it('runs rows to a point, where they stop before they touch', () => {
    const point = at(150, 400);
    const rows = spanRows([top, point], { nib, rows: { count: 60 } });
    expect(rows).toHaveLength(60);
    for (const row of rows) {
      const [a, b] = endsOf(row);
      expect(Math.abs((point.x - a.x) * (b.y - a.y) - (point.y - a.y) * (b.x - a.x))).toBeLessThan(1e-6);
    }
    for (let i = 0; i < rows.length; i++)
      for (let j = 0; j < i; j++) {
        const [a, b] = endsOf(rows[i]);
        const [c, d] = endsOf(rows[j]);
        expect(Math.sqrt(legsApart(a.x, a.y, b.x, b.y, c.x, c.y, d.x, d.y))).toBeGreaterThan(nib.size);
      }
  });

  it('parts one bent line into its two sides', () => {
    const bent = arcSpine(at(0, 0), 100, 0, Math.PI);
    const [first, second] = sidesOfLine(bent);
    expect(first.points[1]).toBeCloseTo(0, 6);
    expect(second.points[0]).toBeCloseTo(-100, 6);
    const meet = [first, second].map(({ points }) => points[points.length - 2]);
    expect(meet[0]).toBeCloseTo(meet[1], 6);
    expect(Math.abs(meet[0])).toBeGreaterThan(99);
  });

  it('says what is wrong', () => {
    expect(() => spanRows([top], { nib, rows: { count: 3 } })).toThrow(PageError);
    expect(() => spanRows([at(0, 0), at(9, 9)], { nib, rows: { count: 3 } })).toThrow(/between lines/);
    expect(() => spanRows([top, foot], { nib, rows: { count: 1e6 } })).toThrow(/1,000,000 rows/);
    expect(() => spanRows([top, foot], { nib, rows: { spacing: 900 } })).toThrow(/no room/);
  });
});

describe('feathers', () => {
  const settings = { nib, length: 40, spacing: 10 };
  const level = [0, 0, 100, 0, 200, 0];

  it('grow out of an edge to its side, as long as they are to be, and run out to points', () => {
    for (const side of [1, -1] as const) {
      const rows = featherRows({ course: level, side }, settings, 1);
      expect(rows).toHaveLength(21);
      for (const row of rows) {
        const [root, tip] = endsOf(row);
        expect(root.y * side).toBeLessThan(0);
        expect(tip.y * side).toBeCloseTo(40, 6);
        expect(tip.x).toBeCloseTo(root.x, 6);
        expect(row.spine.points[row.spine.points.length - 1]).toBeCloseTo(0, 6);
        expect(widestOf(row.spine)).toBeCloseTo(4, 1);
      }
    }
  });

  it('lean, and are as long as the pen was pressed there', () => {
    const rows = featherRows({ course: level, side: 1, reach: [0, 0.5, 1] }, { ...settings, slant: Math.PI / 6 }, 1);
    const long = rows.map((row) => endsOf(row)[1].y);
    expect(long[1]).toBeLessThan(5);
    expect(long.at(-1)).toBeCloseTo(40 * Math.cos(Math.PI / 6), 1);
    expect(long.every((own, k) => k === 0 || own >= long[k - 1])).toBe(true);
    const [, tip] = endsOf(rows[rows.length - 1]);
    expect(tip.x - 200).toBeCloseTo(40 * Math.sin(Math.PI / 6), 1);
  });

  const ring = (r: number): number[] => {
    const way = flattenSpine(ellipseSpine({ centre: at(0, 0), rx: r, ry: r }), 0.01);
    return Array.from({ length: way.length / STRIDE }, (_, k) => [way[STRIDE * k], way[STRIDE * k + 1]]).flat();
  };

  it('fan round a curve, straight away from its middle', () => {
    const outward = featherRows({ course: ring(100), side: -1 }, settings, 1);
    expect(outward.length).toBeGreaterThan(60);
    for (const row of outward.slice(3, -3)) {
      const [root, tip] = endsOf(row);
      expect(Math.hypot(tip.x, tip.y)).toBeGreaterThan(138);
      expect(Math.abs(root.x * tip.y - root.y * tip.x) / (100 * 40)).toBeLessThan(0.05);
    }
  });

  it('stay shorter within a bend than where they would meet', () => {
    const inward = featherRows({ course: ring(30), side: 1 }, { ...settings, length: 80, spacing: 5 }, 1);
    for (const row of inward) {
      const [, tip] = endsOf(row);
      expect(Math.hypot(tip.x, tip.y)).toBeGreaterThan(0.5);
      expect(Math.hypot(tip.x, tip.y)).toBeLessThan(30);
    }
  });

  it('are the same for the same seed, and say what is wrong', () => {
    const uneven = { ...settings, uneven: 0.8 };
    expect(featherRows({ course: level, side: 1 }, uneven, 4)).toEqual(
      featherRows({ course: level, side: 1 }, uneven, 4),
    );
    expect(featherRows({ course: level, side: 1 }, uneven, 4)).not.toEqual(
      featherRows({ course: level, side: 1 }, uneven, 5),
    );
    expect(() => featherRows({ course: [5, 5], side: 1 }, settings, 1)).toThrow(/along an edge/);
    expect(() => featherRows({ course: level, side: 1 }, { ...settings, spacing: 0 }, 1)).toThrow(/0\.5 px/);
    expect(() => featherRows({ course: level, side: 1 }, { ...settings, length: 0 }, 1)).toThrow(/px long/);
  });
});

describe('the edge of something black', () => {
  const ring = (r: number, turn: 1 | -1) =>
    Float64Array.from({ length: 240 }, (_, i) => {
      const angle = (turn * 2 * Math.PI * (i >> 1)) / 120;
      return r * (i % 2 === 0 ? Math.cos(angle) : Math.sin(angle));
    });
  const places = (edge: InkEdge, degrees: readonly number[]) => {
    let near: number | undefined;
    return degrees.map((own, k) => {
      const angle = (own * Math.PI) / 180;
      near = edge.nearest(at(110 * Math.cos(angle), 110 * Math.sin(angle)), near);
      return { at: near, reach: k };
    });
  };

  it.each([1, -1] as const)('lets rows grow onto the paper, whichever way it winds (%p)', (turn) => {
    const outer = ring(100, turn);
    // The hand goes over the place where the ring begins.
    const edge = new InkEdge(outer, [outer]);
    const way = edge.stretch(places(edge, [-40, -20, 0, 20, 40]));
    if (!way) throw new Error('There is no stretch.');
    const { course, side, reach = [] } = way;
    expect(course.length / 2).toBeGreaterThan((100 * (80 * Math.PI)) / 180 / 2);
    for (let i = 0; i < course.length; i += 2) {
      expect(Math.hypot(course[i], course[i + 1])).toBeCloseTo(100, 0);
      expect(course[i]).toBeGreaterThan(70);
    }
    expect([Math.min(...Array.from(reach)), Math.max(...Array.from(reach))]).toEqual([0, expect.closeTo(4, 6)]);
    for (const row of featherRows({ course, side }, { nib, length: 30, spacing: 10 }, 1)) {
      const [, tip] = endsOf(row);
      expect(Math.hypot(tip.x, tip.y)).toBeGreaterThan(120);
    }
  });

  it('of a hole has its paper within, and a hand that did not move no stretch', () => {
    const [outer, hole] = [ring(200, 1), ring(100, -1)];
    const edge = new InkEdge(hole, [outer, hole]);
    const way = edge.stretch(places(edge, [10, 40, 70]));
    if (!way) throw new Error('There is no stretch.');
    for (const row of featherRows(way, { nib, length: 30, spacing: 10 }, 1)) {
      const [, tip] = endsOf(row);
      expect(Math.hypot(tip.x, tip.y)).toBeLessThan(100);
    }
    expect(edge.stretch(places(edge, [10]))).toBeUndefined();
  });
});

describe('a row beside a line', () => {
  const last = line(at(0, 0), at(300, 0));
  const heightOf = (path: NonNullable<ReturnType<typeof rowBeside>>['path']) =>
    path.kind === 'curve' ? path.course.points[1] : NaN;

  it('runs along it through where the pen comes down, then at whole spacings', () => {
    const free = rowBeside(last, at(50, 23), 100);
    expect(free?.away).toBeCloseTo(23, 6);
    expect(free && heightOf(free.path)).toBeCloseTo(23, 1);
    expect(rowBeside(last, at(50, 31), 100, 20)?.away).toBe(40);
    expect(rowBeside(last, at(50, 4), 100, 20)?.away).toBe(20);
    const above = rowBeside(last, at(50, -31), 100, 20);
    expect(above && heightOf(above.path)).toBeCloseTo(-40, 1);
  });

  it('is none on the line itself, and none too far off', () => {
    expect(rowBeside(last, at(50, 0.1), 100)).toBeUndefined();
    expect(rowBeside(last, at(50, 140), 100)).toBeUndefined();
  });
});
