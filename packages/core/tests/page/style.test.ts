import { flattenSpine, nearestOnSpine, spineLength } from '../../src/curve';
import { drawStroke } from '../../src/ink';
import { keptWidth, styledStroke, styledWidth } from '../../src/stroke';
import { PLAIN_STYLE, pressureFor, widthUnder } from '../../src/nib';
import { shownStyle } from '../../src/page';
import { brush, drawn, even, liner, tapered, wave } from '../hands';
import { layer } from './entities';

const pressed = (t: number) => 0.2 + 0.7 * Math.abs(Math.sin(5 * t));
const line = drawStroke(drawn(wave, { count: 200, pressure: pressed }), brush, even(20));
const widths = (points: Float64Array) => Array.from(points).filter((_value, k) => k % 3 === 2);

describe('lines as their layer shows them', () => {
  it('are themselves without a style', () => {
    expect(styledStroke(line, undefined)).toBe(line);
    expect(styledStroke(line, PLAIN_STYLE)).toBe(line);
  });

  it('keep their course under any style', () => {
    const shown = styledStroke(line, { ...PLAIN_STYLE, widthFactor: 3, nib: tapered, color: '#b8402a' });
    expect(shown.nib.color).toBe('#b8402a');
    expect(spineLength(shown.spine)).toBeCloseTo(spineLength(line.spine), 3);
    const flat = flattenSpine(shown.spine, 0.1);
    for (let i = 0; i < flat.length; i += 30)
      expect(nearestOnSpine(line.spine, { x: flat[i], y: flat[i + 1] }).distance).toBeLessThan(0.05);
  });

  it('are all as much wider as the factor says', () => {
    const shown = styledStroke(line, { ...PLAIN_STYLE, widthFactor: 1.75 });
    widths(shown.spine.points).forEach((width, k) => expect(width).toBeCloseTo(1.75 * line.spine.points[3 * k + 2], 9));
  });

  it('follow another nib as the hand pressed it: as if they had been drawn with it', () => {
    const finer = { ...brush, name: 'Finer', size: 9, thinnest: 0.3 };
    const shown = styledStroke(line, { ...PLAIN_STYLE, nib: finer });
    const redrawn = drawStroke(drawn(wave, { count: 200, pressure: pressed }), finer, even(20));
    for (let i = 0; i < shown.spine.points.length; i += 9) {
      const at = { x: shown.spine.points[i], y: shown.spine.points[i + 1] };
      expect(Math.abs(nearestOnSpine(redrawn.spine, at).width - shown.spine.points[i + 2])).toBeLessThan(0.5);
    }
  });

  it('run out to points under a nib that tapers', () => {
    const { points } = styledStroke(line, { ...PLAIN_STYLE, nib: tapered }).spine;
    expect(points[2]).toBe(0);
    expect(points[points.length - 1]).toBeCloseTo(0, 6);
    expect(Math.max(...widths(points))).toBeGreaterThan(tapered.size * 0.9);
  });

  it('know the pressure behind a width, but for nibs whose width does not tell', () => {
    for (const pressure of [0, 0.2, 0.5, 1])
      expect(pressureFor(brush, widthUnder(brush, pressure))).toBeCloseTo(pressure, 9);
    expect(pressureFor(liner, liner.size)).toBe(0.5);
  });

  it('are kept as wide as it takes to be seen as wide as is wanted', () => {
    const finer = { ...brush, name: 'Finer', size: 9, thinnest: 0.3 };
    expect(keptWidth(brush, undefined, 7)).toBe(7);
    for (const style of [
      { ...PLAIN_STYLE, widthFactor: 2.5 },
      { ...PLAIN_STYLE, nib: finer, widthFactor: 1.5 },
    ])
      for (const wanted of [5, 7.5, 11])
        expect(styledWidth(brush, style)?.(keptWidth(brush, style, wanted))).toBeCloseTo(wanted, 6);
  });

  it('stand in another colour only where that is asked for', () => {
    const bright = layer('l', 'a0', 'ink', { standIn: '#d6336c' });
    expect(shownStyle(bright, false)).toBeUndefined();
    expect(shownStyle(bright, true)).toBe(shownStyle(bright, true));
    expect(styledStroke(line, shownStyle(bright, true)).nib.color).toBe('#d6336c');
    expect(styledStroke(line, shownStyle(bright, true)).spine).toBe(line.spine);
  });
});
