import fc from 'fast-check';
import { homographyBetween } from '../../src/select';
import { applyProjective, type Point } from '../../src/math';
import type { Corners } from '../../src/page';
import { flatSheet, sheetProportion, straighten, turnedSheet, type Picture } from '../../src/trace';

const PHOTO = { width: 1600, height: 1200 };

/** Corners of a sheet under a pinhole that looks at the middle of the photo. Source: Hartley & Zisserman 2004, §6.1. */
function seen(proportion: number, tilt: number, lean: number, turn: number): Corners {
  const [lens, away] = [1900, 1.9];
  const at = (x: number, y: number): Point => {
    const [a, b] = [Math.cos(turn) * x - Math.sin(turn) * y, Math.sin(turn) * x + Math.cos(turn) * y];
    const [c, d] = [Math.cos(tilt) * b, Math.sin(tilt) * b];
    const depth = away - Math.sin(lean) * a + Math.cos(lean) * d;
    return { x: 800 + (lens * (Math.cos(lean) * a + Math.sin(lean) * d)) / depth, y: 600 + (lens * c) / depth };
  };
  const w = proportion / 2;
  return [at(-w, -0.5), at(w, -0.5), at(w, 0.5), at(-w, 0.5)];
}

describe('A sheet of paper', () => {
  it('has the proportion that it was photographed with, and an A-size has √2 within 1 % (ISO 216)', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.15, max: 0.6, noNaN: true }),
        fc.double({ min: 0.1, max: 0.4, noNaN: true }),
        fc.double({ min: -0.4, max: 0.4, noNaN: true }),
        (tilt, lean, turn) => {
          const found = sheetProportion(seen(Math.SQRT1_2, tilt, lean, turn), PHOTO);
          expect(Math.abs(found / Math.SQRT1_2 - 1)).toBeLessThan(0.01);
        },
      ),
    );
    expect(flatSheet(seen(1 / Math.SQRT2, 0.3, 0.2, 0.1), PHOTO).name).toBe('A-size');
    expect(flatSheet(seen(8.5 / 11, 0.3, 0.2, 0.1), PHOTO).name).toBe('Letter');
    expect(flatSheet(seen(0.5, 0.3, 0.2, 0.1), PHOTO).name).toBeUndefined();
  });

  it('seen straight on is as wide for its height as its picture', () => {
    const square: Corners = [
      { x: 100, y: 100 },
      { x: 700, y: 100 },
      { x: 700, y: 500 },
      { x: 100, y: 500 },
    ];
    expect(sheetProportion(square, PHOTO)).toBeCloseTo(1.5, 6);
    expect(flatSheet(square, PHOTO)).toEqual({ width: 600, height: 400 });
  });

  it('is laid flat so that what was drawn at a place lies there again', () => {
    const corners = seen(1, 0.4, 0.2, 0.2);
    const side = 300;
    const toSheet = homographyBetween(corners, [
      { x: 0, y: 0 },
      { x: side, y: 0 },
      { x: side, y: side },
      { x: 0, y: side },
    ]);
    // A photo whose red and green say where on the sheet a px lies.
    const data = new Uint8ClampedArray(4 * PHOTO.width * PHOTO.height);
    for (let y = 0, i = 0; y < PHOTO.height; y++)
      for (let x = 0; x < PHOTO.width; x++, i += 4) {
        const at = applyProjective(toSheet, x + 0.5, y + 0.5);
        data.set([(255 * at.x) / side, (255 * at.y) / side, 0, 255], i);
      }
    const flat = straighten({ ...PHOTO, data }, corners, { width: side, height: side });
    for (const [x, y] of [
      [20, 30],
      [150, 150],
      [280, 40],
      [60, 270],
    ]) {
      const i = 4 * (y * side + x);
      expect(Math.abs(flat.data[i] - (255 * (x + 0.5)) / side)).toBeLessThanOrEqual(1.5);
      expect(Math.abs(flat.data[i + 1] - (255 * (y + 0.5)) / side)).toBeLessThanOrEqual(1.5);
    }
  });

  it('is the same after four quarter turns, and reads from its lower left corner after one to the right', () => {
    const corners = seen(0.7, 0.2, 0.1, 0);
    expect(turnedSheet(corners, 4)).toEqual(corners);
    expect(turnedSheet(corners, 1)[0]).toEqual(corners[3]);
    expect(turnedSheet(turnedSheet(corners, 1), -1)).toEqual(corners);
  });

  it('whose corners fold over each other is refused in a sentence', () => {
    const [a, b, c, d] = seen(0.7, 0.2, 0.1, 0);
    const picture: Picture = { width: 4, height: 4, data: new Uint8ClampedArray(64) };
    expect(() => straighten(picture, [a, c, b, d], { width: 10, height: 10 })).toThrow('fold over each other');
  });
});
