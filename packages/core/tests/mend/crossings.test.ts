import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Bezier } from 'bezier-js';
import { renderTextArray } from 'hersheytext';
import paper from 'paper/dist/paper-core';
import { feature } from 'topojson-client';
import land110 from 'world-atlas/land-110m.json';
import { makeSpine, placeOf, pointAt, SEGMENT, type Spine } from '../../src/curve';
import { seededRandom, type Point } from '../../src/math';
import { crossings, crossingsOfTwo, stopsOf } from '../../src/mend';
import { inked, type Stroke } from '../../src/stroke';
import { liner, linesIn } from '../hands';
import { bar, circle } from './lines';

const thin = { ...liner, size: 2 };

function randomLines(count: number, seed: number, room: number): Stroke[] {
  const random = seededRandom(seed);
  return Array.from({ length: count }, () => {
    const [x, y] = [random() * room, random() * room];
    const at = () => [x + (random() - 0.5) * 200, y + (random() - 0.5) * 200, 2];
    return inked(makeSpine(Float64Array.from([at(), at(), at(), at(), at(), at(), at()].flat())), thin);
  });
}

function paperPath({ points: p, closed }: Spine): InstanceType<typeof paper.Path> {
  const path = new paper.Path({ insert: false });
  path.moveTo(new paper.Point(p[0], p[1]));
  for (let i = 0; i + SEGMENT < p.length; i += SEGMENT)
    path.cubicCurveTo(
      new paper.Point(p[i + 3], p[i + 4]),
      new paper.Point(p[i + 6], p[i + 7]),
      new paper.Point(p[i + 9], p[i + 10]),
    );
  path.closed = closed;
  return path;
}

/** Expects the crossings of two lines to be those that paper.js finds; answers how many. */
function sameAsPaper(lines: readonly Stroke[], a: number, b: number): number {
  const ours = crossingsOfTwo(lines, a, b);
  // Source: paper.js 0.12.20, `getIntersections` of paths (fat-line clipping, Sederberg & Nishita 1990).
  const theirs = paperPath(lines[a].spine).getIntersections(paperPath(lines[b].spine));
  expect(ours).toHaveLength(theirs.length);
  for (const { point } of theirs)
    expect(Math.min(...ours.map(({ x, y }) => Math.hypot(x - point.x, y - point.y)))).toBeLessThan(1e-4);
  return ours.length;
}

const isAtEnd = ({ spine: { points: p } }: Stroke, { x, y }: Point): boolean =>
  Math.min(Math.hypot(p[0] - x, p[1] - y), Math.hypot(p[p.length - 3] - x, p[p.length - 2] - y)) < 0.1;

beforeAll(() => paper.setup(new paper.Size(100, 100)));

describe('crossings', () => {
  it('of random cubics are those that paper.js finds', () => {
    const lines = randomLines(40, 5, 260);
    let count = 0;
    for (let a = 0; a < lines.length; a++)
      for (let b = a + 1; b < lines.length; b++) {
        count += sameAsPaper(lines, a, b);
      }
    expect(count).toBeGreaterThan(300);
  });

  it('lie where bezier-js finds them', () => {
    const lines = randomLines(24, 9, 150);
    const cubic = ({ spine: { points: p } }: Stroke) => new Bezier(p[0], p[1], p[3], p[4], p[6], p[7], p[9], p[10]);
    const half = ({ spine: { points }, ...rest }: Stroke): Stroke => ({
      ...rest,
      spine: makeSpine(points.slice(0, 12)),
    });
    const singles = lines.map(half);
    let count = 0;
    for (let a = 0; a < singles.length; a++)
      for (let b = a + 1; b < singles.length; b++) {
        const ours = crossingsOfTwo(singles, a, b);
        // Source: bezier-js 6.1.4, `intersects` at 0.05 px; it may find one crossing several times.
        for (const pair of cubic(singles[a]).intersects(cubic(singles[b]), 0.05) as string[]) {
          const { x, y } = cubic(singles[a]).get(Number(pair.split('/')[0]));
          expect(Math.min(...ours.map((own) => Math.hypot(own.x - x, own.y - y)))).toBeLessThan(1);
          count++;
        }
      }
    expect(count).toBeGreaterThan(60);
  });

  it('of stroked icons and of letters are those that paper.js finds', () => {
    // Source: lucide-static 1.62.0 (ISC), every 40th icon; hersheytext 2.0.0 (MIT), single-line letters.
    const folder = join(process.cwd(), 'node_modules/lucide-static/icons');
    const icons = readdirSync(folder).filter((name) => name.endsWith('.svg'));
    const pictures = icons.filter((_, k) => k % 40 === 0).map((name) => readFileSync(join(folder, name), 'utf8'));
    const letters = renderTextArray('SaltmarshFerry&', {}).map(
      ({ d }) => `<svg xmlns="http://www.w3.org/2000/svg"><path fill="none" stroke="black" d="${d}"/></svg>`,
    );
    let count = 0;
    for (const text of [...pictures, ...letters]) {
      const strokes = linesIn(text, thin);
      for (let a = 0; a < strokes.length; a++)
        for (let b = a + 1; b < strokes.length; b++) {
          const ours = crossingsOfTwo(strokes, a, b);
          const stops = stopsOf(strokes[a], [strokes[b]]);
          const theirs = paperPath(strokes[a].spine).getIntersections(paperPath(strokes[b].spine));
          for (const { point } of theirs) {
            // Ends that lie on a line touch it: they are stops, whether or not the middles cross.
            const isEnd = [strokes[a], strokes[b]].some((stroke) => isAtEnd(stroke, point));
            const near = isEnd ? stops.map(({ at }) => pointAt(strokes[a].spine, placeOf(strokes[a].spine, at))) : ours;
            expect(Math.min(...near.map(({ x, y }) => Math.hypot(x - point.x, y - point.y)))).toBeLessThan(
              isEnd ? 1.5 : 1e-3,
            );
          }
          count += theirs.length;
        }
    }
    expect(count).toBeGreaterThan(5);
  });

  it('of coastlines laid over each other are those that paper.js finds', () => {
    // Source: world-atlas 2.0.2 (Natural Earth, 1:110 m), the longest rings, and the same turned by a few degrees.
    const rings = feature(land110, land110.objects.land)
      .features.flatMap(({ geometry }) => geometry.coordinates.map(([outer]) => outer))
      .sort((a, b) => b.length - a.length)
      .slice(0, 4);
    const coast = (turn: number) => (ring: readonly (readonly number[])[]) => {
      const points = ring.map(([x, y]) => [
        8 * (x * Math.cos(turn) - y * Math.sin(turn)),
        -8 * (x * Math.sin(turn) + y * Math.cos(turn)),
      ]);
      const values = [...points[0], 2];
      for (let k = 1; k < points.length; k++)
        for (const t of [1 / 3, 2 / 3, 1])
          values.push(...points[k].map((value, axis) => points[k - 1][axis] * (1 - t) + value * t), 2);
      return inked(makeSpine(Float64Array.from(values)), thin);
    };
    const lines = [...rings.map(coast(0)), ...rings.map(coast(0.06))];
    let count = 0;
    for (let a = 0; a < rings.length; a++)
      for (let b = rings.length; b < lines.length; b++) {
        count += sameAsPaper(lines, a, b);
      }
    expect(count).toBeGreaterThan(100);
  });

  it('are the same set with the index as of all pairs, and in order', () => {
    const lines = randomLines(150, 3, 1_400);
    const all = crossings(lines);
    let pairs = 0;
    for (let a = 0; a < lines.length; a++)
      for (let b = a + 1; b < lines.length; b++) pairs += crossingsOfTwo(lines, a, b).length;
    expect(all.filter(({ a, b }) => a !== b)).toHaveLength(pairs);
    expect(all.every(({ a }, k) => k === 0 || a >= all[k - 1].a)).toBe(true);
  });

  it('with itself are found once each, and none at the joints of its own legs', () => {
    const loop = inked(makeSpine(Float64Array.of(0, 0, 2, 300, 200, 2, -100, 200, 2, 200, 0, 2)), thin);
    const [one, ...more] = crossings([loop]);
    expect(more).toEqual([]);
    expect(one.atA).toBeLessThan(one.atB);
    expect(crossings([circle(100, 100, 50)])).toEqual([]);
  });

  it('of one line with ten thousand others are all found', () => {
    const long = bar([0, 0], [20_000, 0], 2);
    const others = Array.from({ length: 10_000 }, (_, k) => bar([2 * k + 1, -5], [2 * k + 1, 5], 0.5));
    expect(crossings([long, ...others])).toHaveLength(10_000);
    expect(stopsOf(long, others)).toHaveLength(10_000);
  });
});
