import fc from 'fast-check';
import { changedPieces, gapToStroke, strokeBox } from '../../src/drawn';
import { flattenSpine } from '../../src/curve';
import { isInBox, pointToLeg, type Point } from '../../src/math';
import { brush, drawn, laid, raw, wave } from '../hands';
import { drawStroke } from '../../src/ink';

const stroke = laid(drawStroke(drawn(wave, { tremor: 1 }), brush, raw));
const place = fc.record({ x: fc.integer({ min: -50, max: 620 }), y: fc.integer({ min: 60, max: 340 }) });

describe('the gap to a line', () => {
  const line = flattenSpine(stroke.spine, 0.02);

  /** How far a way passes from the ink, by looking at many places of it. */
  function looked(from: Point, to: Point): number {
    let least = Infinity;
    for (let k = 0; k <= 60; k++) {
      const at = { x: from.x + ((to.x - from.x) * k) / 60, y: from.y + ((to.y - from.y) * k) / 60 };
      for (let i = 0; i + 3 < line.length; i += 3) {
        const away = Math.sqrt(pointToLeg(at.x, at.y, line[i], line[i + 1], line[i + 3], line[i + 4]));
        least = Math.min(least, away - Math.max(line[i + 2], line[i + 5]) / 2);
      }
    }
    return least;
  }

  it('is what looking at every place of the hand’s way finds, to a px', () => {
    fc.assert(
      fc.property(place, place, (from, to) => {
        const found = gapToStroke(stroke, from, to, 1_000);
        const wanted = looked(from, to);
        if (wanted > 1)
          expect(Math.abs(found - wanted)).toBeLessThan(1 + Math.hypot(to.x - from.x, to.y - from.y) / 60);
        else expect(found).toBeLessThan(2);
      }),
      { numRuns: 30 },
    );
  });
});

it('what an edit changes lies near it, and not all along the line', () => {
  const points = stroke.spine.points.slice();
  const middle = Math.floor(points.length / 18) * 9;
  points[middle] += 3;
  const boxes = changedPieces(stroke, { ...stroke, spine: { points, closed: false } });
  const at = { x: points[middle], y: points[middle + 1] };
  expect(boxes.some((box) => isInBox(box, at))).toBe(true);
  const whole = strokeBox(stroke);
  const widest = Math.max(...boxes.map(({ minX, maxX }) => maxX - minX));
  expect(widest).toBeLessThan((whole.maxX - whole.minX) / 3);
});
