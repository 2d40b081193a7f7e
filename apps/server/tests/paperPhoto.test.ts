import { sheetCorners, type Picture } from '@true-nib/core/trace';
import { cornersInShot, paperPhoto, type Shot } from '../src/demo/paperPhoto';

const SHEET = { width: 700, height: 990 };

/** A sheet with a few lines and a black on it. */
function drawnSheet(): Picture {
  const data = new Uint8ClampedArray(4 * SHEET.width * SHEET.height).fill(255);
  for (let y = 0; y < SHEET.height; y++)
    for (let x = 0; x < SHEET.width; x++) {
      const isInk = Math.abs(((x + y) % 140) - 70) < 3 || (x > 90 && x < 330 && y > 600 && y < 820);
      if (isInk) data.fill(20, 4 * (y * SHEET.width + x), 4 * (y * SHEET.width + x) + 3);
    }
  return { ...SHEET, data };
}

const shot = (of: Partial<Shot>): Shot => ({
  ...{ width: 1500, height: 2000, lens: 2100, turn: 0, tilt: 0, lean: 0, away: 1.6 },
  ...of,
});

describe('The sheet in a photo', () => {
  it('is found within 3 px of where it lies: on wood, with a shadow across it, seen aslant (pinhole of Hartley & Zisserman 2004)', () => {
    const sheet = drawnSheet();
    for (const of of [
      { turn: 0.12, tilt: 0.5, lean: 0.2, away: 1.9 },
      { turn: -0.3, tilt: -0.35, lean: -0.4, away: 2 },
      { turn: 0.02, tilt: 0.05, lean: 0.02 },
    ]) {
      const corners = cornersInShot(shot(of), SHEET.width / SHEET.height);
      const found = sheetCorners(paperPhoto(sheet, corners, shot(of), 7));
      found?.forEach(({ x, y }, k) => expect(Math.hypot(x - corners[k].x, y - corners[k].y)).toBeLessThan(3));
      expect(found).toHaveLength(4);
    }
  }, 60_000);

  it('is not made up where there is none: a bare table, or paper all over', () => {
    const data = new Uint8ClampedArray(4 * 400 * 500).fill(255);
    expect(sheetCorners({ width: 400, height: 500, data })).toBeUndefined();
    const far = cornersInShot(shot({ away: 40 }), 0.7);
    expect(sheetCorners(paperPhoto(drawnSheet(), far, shot({ width: 750, height: 1000 }), 7))).toBeUndefined();
  });
});
