import fc from 'fast-check';
import ClipperLib from 'clipper-lib';
import {
  alongAt,
  courseOf,
  lengthOf,
  makeSpine,
  nearestOnSpine,
  placeNumber,
  placeOf,
  pointAt,
  spineLength,
} from '../../src/curve';
import type { Point } from '../../src/math';
import { pieceAt, piecesOf, Snipper, withoutPieces } from '../../src/mend';
import { seenEnd } from '../../src/mend/cut';
import { outlineOf } from '../../src/ink';
import { inked, styledStroke, type Stroke, type StrokeEntity } from '../../src/stroke';
import type { Nib } from '../../src/nib';
import { area, inkArea, inkBetween, inkOf, toRing } from '../areas';
import { liner } from '../hands';
import { bar, circle } from './lines';

function snipped(stroke: Stroke, others: readonly Stroke[], at: Point, gap = 0): Stroke[] {
  const pieces = piecesOf(stroke, others, gap);
  if (pieces.stops.length === 0) return [stroke];
  const piece = pieceAt(pieces, placeNumber(nearestOnSpine(stroke.spine, at)));
  return withoutPieces(pieces, new Set([piece]));
}

/** How far along a line an end of a piece of it is seen, page px. */
const seenAlong = (line: Stroke, piece: Stroke, end: 0 | 1): number =>
  alongAt(
    courseOf(line.spine),
    placeNumber(nearestOnSpine(line.spine, pointAt(piece.spine, placeOf(piece.spine, seenEnd(piece, end))))),
  );

/** The part of a line's ink that is on the left of x, as a polygon library cuts it. */
const leftOf = (stroke: Stroke, x: number) => {
  const half = toRing([-1e4, -1e4, x, -1e4, x, 1e4, -1e4, 1e4]);
  return area(ClipperLib.ClipType.ctIntersection, inkOf([stroke]), [half]);
};

describe('snipping', () => {
  const upright = bar([200, 0], [200, 200], 12);

  it('takes an overshoot up to the crossing, flush with the far edge of the line it crosses', () => {
    const level = bar([20, 100], [260, 100]);
    const [left, ...more] = snipped(level, [level, upright], { x: 240, y: 100 });
    expect(more).toEqual([]);
    // What polygon difference leaves: all up to the far edge at x = 206, less than 0.05 px inside of it.
    expect(Math.abs(leftOf(level, 206) - inkArea([left]))).toBeLessThan(0.5);
    expect(Math.abs(inkArea([left, upright]) - (inkArea([upright]) + leftOf(level, 194)))).toBeLessThan(0.5);
  });

  it.each([30, 50, 70, 110, 150])('leaves neither notch nor bump where lines cross at %d°', (degrees) => {
    const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
    for (const size of [3, 10, 30]) {
      const slanting = bar([200 - 150 * c, 100 - 150 * s], [200 + 60 * c, 100 + 60 * s], size);
      const [left] = snipped(slanting, [upright], { x: 200 + 55 * c, y: 100 + 55 * s });
      const side = c > 0 ? 1 : -1;
      const far = toRing([200 + 6 * side, -1e4, 1e4 * side, -1e4, 1e4 * side, 1e4, 200 + 6 * side, 1e4]);
      // Source: clipper-lib 6.4.2: the ink of both without what lies beyond the upright's far edge.
      const wanted = area(ClipperLib.ClipType.ctDifference, inkOf([slanting]), [far]);
      expect(Math.abs(inkArea([left]) - wanted)).toBeLessThan(0.05 * (size / Math.abs(c)) + 0.1);
      expect(area(ClipperLib.ClipType.ctIntersection, inkOf([left]), [far])).toBeLessThan(0.01);
    }
  });

  it('goes by the ink that is seen where a layer shows its lines with another nib', () => {
    // Its tapers give the lines further nodes, so that places on them are told in other numbers.
    const nib: Nib = { ...liner, size: 30, taperIn: 2, taperOut: 2 };
    const entity = (id: string, stroke: Stroke): StrokeEntity => ({
      ...{ kind: 'stroke', id, layerId: 'inks', order: id },
      ...stroke,
    });
    const lines = [entity('level', bar([20, 100], [900, 100], 4)), entity('upright', bar([300, 0], [300, 200], 4))].map(
      (kept) => ({ kept, shown: styledStroke(kept, { nib, widthFactor: 1, edge: 'soft' }) }),
    );
    const snipper = new Snipper(() => lines, { gap: 0 });
    const found = snipper.under({ x: 600, y: 100 }, 5);
    if (!found || found === 'meets nothing') throw new Error('Nothing was found under the hand.');
    snipper.take(found);
    const [{ after }] = snipper.edits(() => 'new');
    if (after?.kind !== 'stroke') throw new Error('The line is gone.');
    expect(outlineOf(after).box.minX).toBeCloseTo(18, 1);
    // Up to the far edge of the ink that is seen: 15 px beyond the middle of the line that is crossed.
    expect(outlineOf(after).box.maxX).toBeCloseTo(315, 1);
  });

  it('closes a corner of two overshooting lines: sharp, without a notch', () => {
    const level = bar([20, 100], [260, 100]);
    const down = bar([200, 60], [200, 300]);
    const [a] = snipped(level, [down], { x: 250, y: 100 });
    const [b] = snipped(down, [level], { x: 200, y: 70 });
    // A corner of two bars of 10 px: the square where they meet is whole. 0.05 px at each inner edge is what is allowed.
    const square = toRing([195, 95, 205, 95, 205, 105, 195, 105]);
    expect(area(ClipperLib.ClipType.ctIntersection, inkOf([a, b]), [square])).toBeGreaterThan(100 - 0.01 * 100);
    expect(
      area(ClipperLib.ClipType.ctIntersection, inkOf([a, b]), [toRing([205, 0, 400, 0, 400, 94, 205, 94])]),
    ).toBeLessThan(0.01);
  });

  it('takes a middle piece between its neighbours and nothing farther', () => {
    const level = bar([20, 100], [400, 100]);
    const others = [100, 200, 300].map((x) => bar([x, 0], [x, 200], 8));
    const left = snipped(level, others, { x: 150, y: 100 });
    expect(left).toHaveLength(2);
    expect(
      inkBetween([...left, ...others], [bar([20, 100], [100, 100]), bar([200, 100], [400, 100]), ...others]),
    ).toBeLessThan(80);
    expect(inkArea(left)).toBeCloseTo(inkArea([level]) - (200 - 4 - (100 + 4)) * 10, -0.5);
  });

  it('leaves nothing standing that lies wholly under another line', () => {
    const level = bar([20, 100], [380, 100]);
    const walls = [bar([60, 0], [60, 200], 12), bar([340, 0], [340, 200], 12)];
    const [tidy] = snipped(snipped(level, walls, { x: 30, y: 100 })[0], walls, { x: 370, y: 100 });
    expect(snipped(tidy, walls, { x: 200, y: 100 })).toEqual([]);
    // Also where the other line was cut at this one, so that both end at one corner.
    const corners = walls.map((wall) => snipped(wall, [level], { x: wall.spine.points[0], y: 190 })[0]);
    const [floor] = snipped(snipped(level, corners, { x: 30, y: 100 })[0], corners, { x: 370, y: 100 });
    expect(snipped(floor, corners, { x: 200, y: 100 })).toEqual([]);
  });

  it('opens a ring between the lines that cross it, and a loop at its own crossing', () => {
    const ring = circle(200, 200, 100);
    const across = [bar([200, 50], [200, 350]), bar([50, 200], [350, 200])];
    const [open, ...more] = snipped(ring, across, { x: 270, y: 130 });
    expect(more).toEqual([]);
    expect(open.spine.closed).toBe(false);
    expect(spineLength(open.spine)).toBeGreaterThan(0.75 * 2 * Math.PI * 100);
    expect(inkArea([open])).toBeCloseTo(0.75 * inkArea([ring]) + 2 * 5 * 6, -0.5);
    const loop = inked(makeSpine(Float64Array.of(0, 0, 6, 300, 200, 6, -100, 200, 6, 200, 0, 6)), {
      ...liner,
      size: 6,
    });
    const left = snipped(loop, [loop], { x: 100, y: 148 });
    expect(left).toHaveLength(2);
    expect(snipped(loop, [], { x: 10, y: 5 })).toHaveLength(1);
  });

  it('stops at a line whose end merely touches it, and within the gap at one that falls short', () => {
    const level = bar([20, 100], [260, 100]);
    const below = bar([150, 104], [150, 250]);
    const [left] = snipped(level, [below], { x: 240, y: 100 });
    expect(inkArea([left])).toBeCloseTo(leftOf(level, 155), -0.3);
    const short = bar([150, 113], [150, 250]);
    expect(snipped(level, [short], { x: 240, y: 100 })[0]).toBe(level);
    expect(snipped(level, [short], { x: 240, y: 100 }, 4)[0]).not.toBe(level);
  });

  it('has answers for lines that lie on each other, tangent circles, hairlines and dots', () => {
    const level = bar([20, 100], [260, 100]);
    expect(snipped(level, [bar([20, 100], [260, 100])], { x: 100, y: 100 })).toEqual([level]);
    const [a, b] = [circle(100, 100, 50), circle(200, 100, 50)];
    expect(piecesOf(a, [b]).stops).toHaveLength(1);
    const hair = bar([100, 0], [100, 200], 0.08);
    expect(snipped(level, [hair], { x: 200, y: 100 })).toHaveLength(1);
    const dot = inked(makeSpine(Float64Array.from(Array.from({ length: 4 }, () => [100, 100, 10]).flat())), liner);
    expect(snipped(dot, [level], { x: 100, y: 100 }).length).toBeLessThanOrEqual(1);
    expect(() => snipped(level, [dot], { x: 30, y: 100 })).not.toThrow();
  });

  it('never lengthens a line, and leaves no ink where there was none', () => {
    const coordinate = fc.double({ min: 0, max: 300, noNaN: true });
    const place = fc.tuple(coordinate, coordinate);
    const size = fc.double({ min: 0.5, max: 25, noNaN: true });
    fc.assert(
      fc.property(fc.array(fc.tuple(place, place, size), { minLength: 2, maxLength: 6 }), fc.nat(), (bars, pick) => {
        const lines = bars
          .filter(([a, b]) => Math.hypot(a[0] - b[0], a[1] - b[1]) > 1)
          .map(([a, b, w]) => bar(a, b, w));
        if (lines.length < 2) return;
        const line = lines[pick % lines.length];
        const others = lines.filter((one) => one !== line);
        const pieces = piecesOf(line, others);
        for (let piece = 0; piece <= pieces.stops.length; piece++) {
          if (pieces.stops.length === 0) continue;
          const left = withoutPieces(pieces, new Set([piece]));
          expect(area(ClipperLib.ClipType.ctDifference, inkOf(left), inkOf([line]))).toBeLessThan(1);
          expect(left.length).toBeLessThanOrEqual(2);
          // What is seen of each piece is a part of the line.
          const length = lengthOf(courseOf(line.spine));
          for (const one of left) {
            const [from, to] = [seenAlong(line, one, 0), seenAlong(line, one, 1)];
            expect(to - from).toBeLessThanOrEqual(length + 1e-6);
            expect(spineLength(one.spine)).toBeLessThanOrEqual(length + 1e-6);
          }
        }
      }),
      { numRuns: 60 },
    );
  });
});
