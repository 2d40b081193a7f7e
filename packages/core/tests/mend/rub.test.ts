import fc from 'fast-check';
import { alongAt, courseOf, nearestOnSpine, placeNumber, pointAt, spineLength } from '../../src/curve';
import { drawStroke } from '../../src/ink';
import { gapToStroke } from '../../src/drawn';
import { recolourStroke, rubStroke } from '../../src/mend';
import { circleSpine } from '../../src/shapes';
import { inked, type Stroke } from '../../src/stroke';
import { drawn, even, liner, raw, straight, wave } from '../hands';

const line = drawStroke(
  drawn((t) => [400 * t, 100]),
  liner,
  raw,
);
const waves = drawStroke(drawn(wave, { count: 300 }), liner, even(20));

describe('rubbing', () => {
  it('cuts a line in two where the rubber crossed it, exactly as wide as the rubber', () => {
    const pieces = rubStroke(
      line,
      [
        { x: 200, y: 0 },
        { x: 200, y: 200 },
      ],
      20,
    )!;
    expect(pieces).toHaveLength(2);
    expect(pointAt(pieces[0].spine, { segment: 0, t: 1 }).x).toBeCloseTo(180, 1);
    expect(pointAt(pieces[1].spine, { segment: 0, t: 0 }).x).toBeCloseTo(220, 1);
    expect(pieces.map(({ ends }) => ends)).toEqual([
      ['round', 'flat'],
      ['flat', 'round'],
    ]);
  });

  it('leaves round ends where they are asked for, and no ink under the rubber', () => {
    const way = [
      { x: 200, y: 0 },
      { x: 200, y: 200 },
    ];
    const pieces = rubStroke(line, way, 20, 1, 'round')!;
    expect(pieces.map(({ ends }) => ends)).toEqual([
      ['round', 'round'],
      ['round', 'round'],
    ]);
    for (const piece of pieces) expect(gapToStroke(piece, way[0], way[1], 100)).toBeCloseTo(20, 1);
  });

  it('leaves a line alone that it does not touch', () => {
    expect(rubStroke(line, [{ x: 200, y: 60 }], 20)).toBeUndefined();
    expect(rubStroke(line, [], 20)).toBeUndefined();
    // 5 px of ink and 20 of rubber: at 26 px they are apart.
    expect(rubStroke(line, [{ x: 200, y: 126 }], 20)).toBeUndefined();
    expect(rubStroke(line, [{ x: 200, y: 124 }], 20)).toBeDefined();
  });

  it('takes the round tip off a line that it only brushes at its end', () => {
    const [piece] = rubStroke(line, [{ x: 410, y: 100 }], 6)!;
    expect(piece.ends).toEqual(['round', 'flat']);
    expect(spineLength(piece.spine)).toBeCloseTo(400, 0);
  });

  it('opens a ring where it went, and nowhere else', () => {
    const circle = inked(circleSpine({ x: 200, y: 200 }, 100), {
      ...liner,
      edge: { kind: 'dry', amount: 0.3, grain: 8 },
    });
    const whole: Stroke = { ...circle, grain: { seed: 3, offset: 0 } };
    for (let k = 0; k < 12; k++) {
      const [x, y] = [200 + 100 * Math.cos(k / 2), 200 + 100 * Math.sin(k / 2)];
      const [piece, ...more] = rubStroke(whole, [{ x, y }], 20)!;
      expect(more).toEqual([]);
      expect([piece.ends, piece.spine.closed]).toEqual([['flat', 'flat'], false]);
      const [from, to] = [piece.spine.points.subarray(0, 2), piece.spine.points.subarray(-3, -1)];
      expect(Math.hypot(from[0] - x, from[1] - y)).toBeCloseTo(20, 0);
      expect(Math.hypot(to[0] - x, to[1] - y)).toBeCloseTo(20, 0);
      // What goes on where the ring once began breaks as it did behind that.
      const start = nearestOnSpine(circle.spine, { x: from[0], y: from[1] });
      expect(piece.grain?.offset).toBeCloseTo(alongAt(courseOf(circle.spine), placeNumber(start)), 0);
    }
    const two = rubStroke(
      whole,
      [
        { x: 200, y: 50 },
        { x: 200, y: 350 },
      ],
      10,
    )!;
    expect(two.map(({ ends }) => ends)).toEqual([
      ['flat', 'flat'],
      ['flat', 'flat'],
    ]);
    expect(spineLength(two[0].spine)).toBeCloseTo(spineLength(two[1].spine), 0);
  });

  it('recolours a part of a ring in one piece, and leaves the rest in one', () => {
    const circle = inked(circleSpine({ x: 200, y: 200 }, 100), { ...liner, opacity: 0.5 });
    const pieces = recolourStroke(circle, [{ x: 100, y: 200 }], 30, '#ff0000')!;
    expect(pieces.map(({ nib, ends }) => [nib.color, ends]).sort()).toEqual([
      ['#14161a', ['flat', 'flat']],
      ['#ff0000', ['flat', 'flat']],
    ]);
    const all = recolourStroke(circle, [{ x: 200, y: 200 }], 300, '#ff0000')!;
    expect(all).toEqual([{ ...circle, nib: { ...circle.nib, color: '#ff0000' } }]);
  });

  it('takes a line away that it covers', () => {
    expect(
      rubStroke(
        line,
        [
          { x: -10, y: 100 },
          { x: 410, y: 100 },
        ],
        20,
      ),
    ).toEqual([]);
    const dot = drawStroke([{ x: 5, y: 5, pressure: 1 }], liner, raw);
    expect(rubStroke(dot, [{ x: 8, y: 8 }], 4)).toEqual([]);
  });

  it('never lengthens, never moves what is left, and leaves nothing that was touched', () => {
    const way = fc.array(fc.record({ x: fc.integer({ min: 0, max: 540 }), y: fc.integer({ min: 80, max: 320 }) }), {
      minLength: 1,
      maxLength: 6,
    });
    fc.assert(
      fc.property(way, fc.integer({ min: 3, max: 60 }), (path, radius) => {
        const pieces = rubStroke(waves, path, radius);
        if (!pieces) return;
        expect(pieces.reduce((sum, { spine }) => sum + spineLength(spine), 0)).toBeLessThanOrEqual(
          spineLength(waves.spine) + 1e-6,
        );
        for (const { spine } of pieces)
          for (let k = 0; k <= 20; k++) {
            const place = pointAt(spine, { segment: Math.floor((spine.points.length / 9 - 1) / 2), t: k / 20 });
            expect(nearestOnSpine(waves.spine, place).distance).toBeLessThan(1e-3);
            const gap = Math.min(...path.map((p, j) => distanceToLeg(place, path[Math.max(0, j - 1)], p)));
            expect(gap).toBeGreaterThan(radius - 0.2);
          }
      }),
      { numRuns: 40 },
    );
  });
});

describe('touching', () => {
  it('measures from the ink, not from the middle of the line', () => {
    expect(gapToStroke(line, { x: 100, y: 120 }, { x: 100, y: 120 }, 50)).toBeCloseTo(15, 6);
    expect(gapToStroke(line, { x: 100, y: 50 }, { x: 100, y: 150 }, 50)).toBeLessThanOrEqual(0);
    expect(gapToStroke(line, { x: 100, y: 400 }, { x: 100, y: 400 }, 50)).toBe(Infinity);
    expect(
      gapToStroke(drawStroke(drawn(straight), liner, raw), { x: 20, y: 50 }, { x: 20, y: 50 }, 5),
    ).toBeLessThanOrEqual(0);
  });
});

function distanceToLeg(p: { x: number; y: number }, a: { x: number; y: number }, b: { x: number; y: number }): number {
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  const along = Math.max(0, Math.min(1, ((p.x - a.x) * dx + (p.y - a.y) * dy) / (dx * dx + dy * dy || 1)));
  return Math.hypot(a.x + along * dx - p.x, a.y + along * dy - p.y);
}
