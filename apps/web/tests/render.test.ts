import { apply, boxesMeet, invert, type Box, type Matrix } from '@true-nib/core/math';
import { applyChange, newPage } from '@true-nib/core/page';
import { inkBoxes, paintTolerance, strokeBox } from '../src/render/inkPaint';
import { StrokeIndex } from '../src/render/strokeIndex';
import { Tiles } from '../src/render/tiles';
import {
  aligned,
  between,
  fitted,
  opening,
  panned,
  pinched,
  straightened,
  toPage,
  toScreen,
  turnedAt,
  turnOf,
  zoomedAt,
  zoomOf,
  ZOOM_LIMITS,
  type View,
} from '../src/render/view';
import { inks, stroke } from './fakes';

const page = { width: 2000, height: 3000 };
const board = { width: 800, height: 600 };
const start: View = fitted(page, board);

describe('the view', () => {
  it('fits the page, upright, in the middle', () => {
    expect(turnOf(start)).toBe(0);
    const [a, b] = [toScreen(start, { x: 0, y: 0 }), toScreen(start, { x: 2000, y: 3000 })];
    expect(b.y - a.y).toBeCloseTo(600 - 28, 0);
    expect(Math.abs(a.x + b.x - 800)).toBeLessThan(2);
  });

  it('opens tall pages at their width, with their top in sight', () => {
    const view = opening({ width: 1600, height: 14_000 }, board);
    expect(toScreen(view, { x: 0, y: 0 }).y).toBeGreaterThanOrEqual(0);
    expect(zoomOf(view)).toBeCloseTo((800 - 28) / 1600, 9);
  });

  it('zooms at the pointer: what lies under it stays under it', () => {
    const at = { x: 313, y: 222 };
    const before = toPage(start, at);
    const after = toPage(zoomedAt(turnedAt(start, at, 0.7), at, 5), at);
    expect(Math.hypot(after.x - before.x, after.y - before.y)).toBeLessThan(1e-9);
  });

  it('stays within its limits', () => {
    expect(zoomOf(zoomedAt(start, { x: 0, y: 0 }, 1e6))).toBeCloseTo(ZOOM_LIMITS.most, 6);
    expect(zoomOf(zoomedAt(start, { x: 0, y: 0 }, 1e-6))).toBeCloseTo(ZOOM_LIMITS.least, 6);
  });

  it('follows two fingers: each keeps what lay under it', () => {
    const fingers = [
      { x: 200, y: 200 },
      { x: 500, y: 300 },
    ] as const;
    const moved = [
      { x: 180, y: 260 },
      { x: 520, y: 420 },
    ] as const;
    const view = pinched(start, fingers, moved);
    fingers.forEach((finger, k) => {
      const now = toScreen(view, toPage(start, finger));
      expect(Math.hypot(now.x - moved[k].x, now.y - moved[k].y)).toBeLessThan(1e-6);
    });
  });

  it('snaps to upright within 2°, and to whole px', () => {
    const at = { x: 400, y: 300 };
    expect(turnOf(straightened(turnedAt(start, at, 0.02), at))).toBeCloseTo(0, 12);
    expect(turnOf(straightened(turnedAt(start, at, 0.2), at))).toBeCloseTo(0.2, 12);
    const [, , , , x, y] = aligned(panned(start, 0.3, 0.4));
    expect([x % 1, y % 1]).toEqual([0, 0]);
  });

  it('carries what was painted to where it belongs', () => {
    const wanted = turnedAt(zoomedAt(start, { x: 10, y: 20 }, 2), { x: 99, y: 1 }, 0.3);
    const p = { x: 700, y: 900 };
    const carried = apply(between(start, wanted), toScreen(start, p));
    expect(carried.x).toBeCloseTo(toScreen(wanted, p).x, 6);
    expect(carried.y).toBeCloseTo(toScreen(wanted, p).y, 6);
  });
});

describe('the index of strokes', () => {
  const hiddenLayer = { ...inks, id: 'hidden', order: 'a1', hidden: true };
  const add = (...strokes: ReturnType<typeof stroke>[]) => ({
    id: 'c',
    by: 'me',
    label: 'x',
    at: 0,
    needs: [],
    edits: [inks, hiddenLayer, ...strokes].map((after) => ({ before: null, after })),
  });
  const drawnPage = applyChange(
    newPage({ ...page, ppi: 300 }),
    add(stroke('b', 0, 'a1'), stroke('a', 20, 'a0'), { ...stroke('h'), layerId: 'hidden' }, stroke('far', 900)),
  );

  const idsIn = (index: StrokeIndex, box: Box) => [...index.within(box).values()].flat().map(({ id }) => id);

  it('finds what lies in a box, lowest first, hidden layers left out', () => {
    const index = new StrokeIndex(drawnPage);
    expect(idsIn(index, { minX: 0, minY: 0, maxX: 100, maxY: 100 })).toEqual(['a', 'b']);
    expect(index.onLayer('hidden', { minX: 0, minY: 0, maxX: 100, maxY: 100 }).map(({ id }) => id)).toEqual(['h']);
    expect(index.size).toBe(4);
  });

  it('follows edits', () => {
    const index = new StrokeIndex(drawnPage);
    const moved = stroke('a', 2_000);
    index.update(drawnPage, [{ before: stroke('a', 20), after: moved }]);
    expect(idsIn(index, { minX: 1_990, minY: 0, maxX: 2_100, maxY: 100 })).toEqual(['a']);
    expect(index.isTopmost(moved)).toBe(true);
    index.update(drawnPage, [{ before: moved, after: null }]);
    expect(index.size).toBe(3);
  });
});

describe('painting', () => {
  it('takes small boxes that together hold the whole line', () => {
    const line = stroke('a');
    const whole = strokeBox(line);
    const boxes = inkBoxes(line);
    expect(Math.min(...boxes.map(({ minX }) => minX))).toBe(whole.minX);
    expect(Math.max(...boxes.map(({ maxY }) => maxY))).toBe(whole.maxY);
  });

  it('strays less than a tenth of a device px from 1:1 on, and a quarter where the page is shown small', () => {
    for (const scale of [1, 1.7, 8, 64]) expect(paintTolerance(scale) * scale).toBeLessThan(0.1);
    for (const scale of [0.02, 0.3, 0.99]) expect(paintTolerance(scale) * scale).toBeLessThanOrEqual(0.25);
  });
});

describe('tiles', () => {
  interface Asked {
    readonly map: Matrix;
    readonly answer: (bitmap: ImageBitmap) => void;
  }
  const bitmap = (name: string) => ({ name, close: jest.fn(), width: 257, height: 257 }) as unknown as ImageBitmap;
  const seen: Box = { minX: 0, minY: 0, maxX: 500, maxY: 200 };
  function desk() {
    const asked: Asked[] = [];
    const tiles = new Tiles((map) => new Promise((answer) => asked.push({ map, answer })));
    const drawImage = jest.fn();
    const context = { setTransform: jest.fn(), drawImage } as unknown as CanvasRenderingContext2D;
    const settle = async () => {
      for (let k = 0; k < 10; k++) await Promise.resolve();
    };
    return {
      asked,
      tiles,
      drawImage,
      settle,
      draw: (isMoving = true) => tiles.draw(context, [1, 0, 0, 1, 0, 0], 1, seen, isMoving),
    };
  }

  it('are asked for once, and drawn when they are there', async () => {
    const { asked, draw, drawImage, settle } = desk();
    draw();
    draw();
    expect(asked).toHaveLength(2);
    expect(asked.map(({ map }) => Math.abs(map[4]))).toEqual([0, 256]);
    expect(drawImage).not.toHaveBeenCalled();
    expect(draw().missing.map(({ minX }) => minX)).toEqual([0, 256]);
    asked.forEach(({ answer }, k) => answer(bitmap(`t${k}`)));
    await settle();
    draw();
    expect(drawImage).toHaveBeenCalledTimes(2);
  });

  it('stay in sight when an edit touches them, and say what they do not show', async () => {
    const { asked, tiles, draw, drawImage, settle } = desk();
    draw();
    asked.forEach(({ answer }) => answer(bitmap('old')));
    await settle();
    const touched = { minX: 10, minY: 10, maxX: 60, maxY: 40 };
    tiles.touch([touched]);
    // Dirty, then on its way: either way the old picture is shown and the touched place is named.
    expect(draw().dirty).toEqual([touched]);
    expect(draw().dirty).toEqual([touched]);
    expect(asked).toHaveLength(3);
    expect(drawImage).toHaveBeenCalledTimes(4);
    asked[2].answer(bitmap('new'));
    await settle();
    expect(draw()).toEqual({ dirty: [], missing: [] });
  });

  it('of a view that rests are left for the exact picture', () => {
    const { asked, draw } = desk();
    draw(false);
    expect(asked).toHaveLength(0);
    draw();
    expect(asked).toHaveLength(2);
  });

  it('of another look stay in sight until the new ones are there', async () => {
    const { asked, tiles, draw, drawImage, settle } = desk();
    draw();
    asked.forEach(({ answer }) => answer(bitmap('before')));
    await settle();
    tiles.expire();
    expect(draw()).toEqual({ dirty: [], missing: [] });
    expect(drawImage).toHaveBeenCalledTimes(2);
    expect(asked).toHaveLength(4);
  });

  it('that are touched again while on their way are asked for again', async () => {
    const { asked, tiles, draw, settle } = desk();
    draw();
    tiles.touch([{ minX: 1, minY: 1, maxX: 2, maxY: 2 }]);
    asked.forEach(({ answer }) => answer(bitmap('stale')));
    await settle();
    expect(draw().dirty).toHaveLength(1);
    expect(asked).toHaveLength(3);
  });

  it('cover the plane with a px to spare on either side', () => {
    const { asked, draw } = desk();
    draw();
    const covered = asked.map(({ map }) => {
      const corner = apply(invert(map), { x: 0, y: 0 });
      return { minX: corner.x, minY: corner.y, maxX: corner.x + 257, maxY: corner.y + 257 };
    });
    expect(boxesMeet(covered[0], covered[1])).toBe(true);
  });
});
