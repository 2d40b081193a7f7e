import { courseOf, endOf, nearestOnSpine, placeAlong, placeOf, pointAt, mapSpine } from '@true-nib/core/curve';
import { drawStroke, LiveStroke, outlineOf } from '@true-nib/core/ink';
import {
  about,
  apply,
  boxesMeet,
  emptyBox,
  identity,
  intersectBoxes,
  invert,
  rotation,
  seededRandom,
  uniteBoxes,
  type Box,
  type Matrix,
} from '@true-nib/core/math';
import { tug } from '@true-nib/core/mend';
import { applyChange, newPage, ordersBetween } from '@true-nib/core/page';
import { mapNib, styledStroke, type StrokeEntity } from '@true-nib/core/stroke';
import type { Nib } from '@true-nib/core/nib';
import { breath } from '../src/base/breath';
import { deviceBoxes } from '../src/render/deviceBoxes';
import { EditLog } from '../src/render/editLog';
import { changedPieces, markPieces, strokeBox } from '@true-nib/core/drawn';
import { paintTolerance } from '../src/render/inkPaint';
import { LiveInk } from '../src/render/liveInk';
import { InkIndex } from '../src/render/inkIndex';
import { Tiles } from '../src/render/tiles';
import {
  aligned,
  between,
  fitted,
  opening,
  panned,
  pinched,
  levelled,
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
    expect(turnOf(levelled(turnedAt(start, at, 0.02), at))).toBeCloseTo(0, 12);
    expect(turnOf(levelled(turnedAt(start, at, 0.2), at))).toBeCloseTo(0.2, 12);
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

  const idsIn = (index: InkIndex, box: Box) => [...index.within(box).values()].flat().map(({ id }) => id);

  it('finds what lies in a box, lowest first, hidden layers left out', () => {
    const index = new InkIndex(drawnPage);
    expect(idsIn(index, { minX: 0, minY: 0, maxX: 100, maxY: 100 })).toEqual(['a', 'b']);
    expect(index.onLayer('hidden', { minX: 0, minY: 0, maxX: 100, maxY: 100 }).map(({ id }) => id)).toEqual(['h']);
    expect(index.size).toBe(4);
  });

  it('follows edits', () => {
    const index = new InkIndex(drawnPage);
    const moved = stroke('a', 2_000);
    index.update(drawnPage, [{ before: stroke('a', 20), after: moved }]);
    expect(idsIn(index, { minX: 1_990, minY: 0, maxX: 2_100, maxY: 100 })).toEqual(['a']);
    expect(index.isTopmost(moved)).toBe(true);
    index.update(drawnPage, [{ before: moved, after: null }]);
    expect(index.size).toBe(3);
  });

  it('shows at once what becomes of thousands, though it sweeps the old ones out later', async () => {
    const index = new InkIndex(drawnPage);
    const whole = { minX: -1e4, minY: -1e4, maxX: 1e5, maxY: 1e4 };
    const orders = ordersBetween('a1', undefined, 3_000);
    const many = orders.map((order, k) => stroke(`m${k}`, 10 * k, order));
    index.update(
      drawnPage,
      many.map((after) => ({ before: null, after })),
    );
    expect(idsIn(index, whole)).toHaveLength(3_003);
    // All go a long way, one by one found where it is now and nowhere else.
    const moved = many.map((before, k) => stroke(before.id, 10 * k + 50_000, before.order));
    index.update(
      drawnPage,
      many.map((before, k) => ({ before, after: moved[k] })),
    );
    expect(idsIn(index, { ...whole, maxX: 40_000 })).toEqual(['a', 'far', 'b']);
    expect(idsIn(index, whole)).toHaveLength(3_003);
    index.update(
      drawnPage,
      moved.map((before) => ({ before, after: null })),
    );
    expect(idsIn(index, whole)).toEqual(['a', 'far', 'b']);
    while (index.isSweeping) await breath();
    expect(idsIn(index, whole)).toEqual(['a', 'far', 'b']);
    expect(index.size).toBe(4);
  });

  it('takes a full page in parts, and what is edited meanwhile as it is by then', async () => {
    const strokes = ordersBetween(undefined, undefined, 2_000).map((order, k) => stroke(`m${k}`, 10 * k, order));
    const full = applyChange(newPage({ ...page, ppi: 300 }), add(...strokes));
    const index = new InkIndex(full, undefined, true);
    const gone = { before: strokes[1_999], after: null };
    const moved = { before: strokes[1_998], after: stroke('m1998', 90_000, strokes[1_998].order) };
    index.update(applyChange(full, { ...add(), id: 'd', edits: [gone, moved] }), [gone, moved]);
    await index.loading;
    expect(index.size).toBe(1_999);
    expect(idsIn(index, { minX: 80_000, minY: 0, maxX: 99_000, maxY: 100 })).toEqual(['m1998']);
  });
});

describe('boxes of device px', () => {
  const at = (x: number, side: number): Box => ({ minX: x, minY: 0, maxX: x + side, maxY: side });
  const canvas = at(0, 10_000);

  it('inside others are left out, and those beside the canvas', () => {
    expect(deviceBoxes([at(0, 50), at(10, 5), at(0, 50), at(-900, 20)], [1, 0, 0, 1, 0, 0], canvas)).toHaveLength(1);
  });

  it('hold all of hundreds, and no px twice', () => {
    const random = seededRandom(7);
    const page = { minX: 0, minY: 0, maxX: 640, maxY: 410 };
    const many = Array.from({ length: 300 }, (): Box => {
      const [minX, minY] = [700 * random() - 40, 460 * random() - 40];
      return { minX, minY, maxX: minX + 30 * random(), maxY: minY + 30 * random() };
    }).filter(({ minX, minY }) => minX + minY < 400 || minX > 500);
    const laid = deviceBoxes(many, [1, 0, 0, 1, 0, 0], page);
    const times = new Uint8Array(640 * 410);
    for (const { minX, minY, maxX, maxY } of laid)
      for (let y = minY; y < maxY; y++) for (let x = minX; x < maxX; x++) times[640 * y + x]++;
    expect(times.reduce((most, count) => Math.max(most, count), 0)).toBe(1);
    for (const one of many) {
      const { minX, minY, maxX, maxY } = intersectBoxes(one, page);
      for (const [x, y] of [
        [minX, minY],
        [maxX, maxY],
      ])
        if (minX < maxX && minY < maxY)
          expect(times[640 * Math.min(409, Math.floor(y)) + Math.min(639, Math.floor(x))]).toBe(1);
    }
    // Where nothing was touched nothing is painted.
    expect(times.filter((count) => count > 0).length).toBeLessThan(0.9 * times.length);
  });
});

describe('the log of edits', () => {
  const box = (x: number): Box => ({ minX: x, minY: 0, maxX: x + 1, maxY: 1 });

  it('tells what was touched since a moment, also when it has forgotten what was before', () => {
    const log = new EditLog();
    log.add([box(0)]);
    const moment = log.now;
    expect(log.since(moment)).toEqual([]);
    for (let k = 1; k <= 400; k++) log.add([box(k)]);
    expect(log.since(moment)).toHaveLength(400);
    for (let k = 401; k <= 3_000; k++) {
      const later = log.now;
      log.add([box(k)]);
      expect(log.since(later)).toEqual([box(k)]);
      expect(log.since(later - 300).length).toBe(301);
    }
  });

  it('tells the places of the last lines, not those of what changed half the page', () => {
    const log = new EditLog();
    log.add([box(1)]);
    log.add([box(2), box(3)]);
    log.add(Array.from({ length: 9 }, (_, k) => box(10 + k)));
    log.add([box(4)]);
    expect(log.newest(3)).toEqual([box(4), box(2), box(3)]);
    expect(log.newest(20)).toHaveLength(13);
  });
});

describe('painting', () => {
  it('takes small boxes that together hold the whole line', () => {
    const line = stroke('a');
    const whole = strokeBox(line);
    const boxes = markPieces(line);
    expect(Math.min(...boxes.map(({ minX }) => minX))).toBe(whole.minX);
    expect(Math.max(...boxes.map(({ maxY }) => maxY))).toBe(whole.maxY);
  });

  it('of a line that was changed in part takes the boxes in which it differs, of others all', () => {
    const nib: Nib = { name: 'Brush', size: 24, thinnest: 0.1, taperIn: 0, taperOut: 0, color: '#14161a' };
    const hand = Array.from({ length: 400 }, (_, k) => ({
      ...{ x: 3 * k, y: 300 + 90 * Math.sin(k / 20) },
      ...{ pressure: 0.5, time: 8 * k },
    }));
    const drawn = drawStroke(hand, nib, { way: 'raw' });
    const before: StrokeEntity = { kind: 'stroke', id: 'long', layerId: 'ink', order: 'a0', ...drawn };
    const place = placeAlong(courseOf(before.spine), 900);
    const spine = tug(before.spine, place, { x: 10, y: 40 }, { radius: 120, falloff: 0.5, isPinned: false });
    const after = { ...before, spine };
    const boxes = changedPieces(before, after);
    const area = (all: readonly Box[]) => all.reduce((sum, b) => sum + (b.maxX - b.minX) * (b.maxY - b.minY), 0);
    expect(area(boxes)).toBeLessThan(0.5 * area([...markPieces(before), ...markPieces(after)]));
    for (const [one, other] of [
      [before.spine, spine],
      [spine, before.spine],
    ])
      for (let at = 0; at < endOf(one); at += 0.1) {
        const { x, y, width } = pointAt(one, placeOf(one, at));
        if (nearestOnSpine(other, { x, y }).distance < 1e-6) continue;
        const [top, bottom] = [y - width / 2, y + width / 2];
        expect(boxes.some((b) => b.minX <= x && x <= b.maxX && b.minY <= top + 1 && bottom - 1 <= b.maxY)).toBe(true);
      }
    const wider = { ...after, nib: { ...after.nib, color: '#aa3322' } };
    expect(changedPieces(before, wider)).toEqual([...markPieces(before), ...markPieces(wider)]);
    expect(changedPieces(undefined, after)).toEqual(markPieces(after));
  });

  it('strays less than a tenth of a device px from 1:1 on, and a quarter where the page is shown small', () => {
    for (const scale of [1, 1.7, 8, 64]) expect(paintTolerance(scale) * scale).toBeLessThan(0.1);
    for (const scale of [0.02, 0.3, 0.99]) expect(paintTolerance(scale) * scale).toBeLessThanOrEqual(0.25);
  });
});

/** A context that remembers how far the paths it was given reach: to the left, and all around. */
function reaching() {
  const nothing = () => undefined;
  const reach = { x: Infinity, box: emptyBox };
  let map: Matrix = identity;
  const to = (x: number, y: number) => {
    // Beyond the page lies the contour that keeps the rasteriser on one way of counting.
    if (Math.abs(x) > 1e4) return;
    const at = apply(map, { x, y });
    reach.x = Math.min(reach.x, at.x);
    reach.box = uniteBoxes(reach.box, { minX: at.x, minY: at.y, maxX: at.x, maxY: at.y });
  };
  const context = {
    ...{ save: nothing, restore: nothing, clearRect: nothing, rect: nothing, clip: nothing },
    ...{ beginPath: nothing, closePath: nothing, fill: nothing, moveTo: to, lineTo: to },
    setTransform: (...next: Matrix) => {
      map = next;
    },
  };
  return { context: context as unknown as CanvasRenderingContext2D, reach };
}

describe('a line under way', () => {
  it('begins as wide as the pen was pressed where it came down, as the kept line does', () => {
    const nib = { name: 'Brush', size: 40, thinnest: 0.1, taperIn: 0, taperOut: 0, color: '#14161a' };
    const live = new LiveStroke(nib, { way: 'even', strength: 0 });
    const { context, reach } = reaching();
    const ink = new LiveInk(live, context, identity);
    const pressures = [0.1, 0.5, 1, 0.9, 0.8, 0.7, 0.6, 0.5];
    pressures.forEach((pressure, k) => {
      live.add([{ x: 100 + 12 * Math.max(0, k - 2), y: 100, pressure, time: 8 * k }]);
      reach.x = Infinity;
      ink.paint();
    });
    expect(reach.x).toBeCloseTo(outlineOf(live.stroke(), paintTolerance(1)).box.minX, 1);
    expect(reach.x).toBeLessThan(81);
  });

  it('tapers as the kept line does where its layer shows lines with a nib that tapers', () => {
    const nib = { name: 'Liner', size: 40, thinnest: 1, taperIn: 0, taperOut: 0, color: '#14161a' };
    const style = { nib: { ...nib, taperIn: 3, taperOut: 3 }, widthFactor: 1, edge: 'soft' } as const;
    const live = new LiveStroke(nib, { way: 'even', strength: 0 });
    const { context, reach } = reaching();
    const ink = new LiveInk(live, context, identity, { style });
    for (let k = 0; k < 30; k++) {
      live.add([{ x: 100 + 12 * k, y: 100, pressure: 0.5, time: 8 * k }]);
      reach.x = Infinity;
      ink.paint();
    }
    // A point at its start, not half a disc.
    const kept = outlineOf(styledStroke(live.stroke(), style), paintTolerance(1)).box.minX;
    expect(kept).toBeGreaterThan(99);
    expect(reach.x).toBeCloseTo(kept, 1);
  });

  const plain = { name: 'Flat', size: 30, thinnest: 0.2, taperIn: 0, taperOut: 0, color: '#14161a' } as const;
  const centre = { x: 140, y: 160 };
  it.each([
    ['a round nib', plain],
    ['a flat one', { ...plain, tip: { shape: 'flat', angle: 0.4, thickness: 0.3 } }],
    ['a rough one', { ...plain, edge: { kind: 'rough', amount: 0.6, grain: 8 } }],
  ] as const)('shows its copies where they will be kept: %s', (_what, nib: Nib) => {
    const maps: Matrix[] = [identity, about(centre, rotation(1)), about(centre, [0.6, 0.8, 0.8, -0.6, 0, 0])];
    const live = new LiveStroke(nib, { way: 'even', strength: 0 }, 1, { seed: 5 });
    for (let k = 0; k < 6; k++) live.add([{ x: 100 + 9 * k, y: 100 + k * k, pressure: 0.3 + 0.1 * k, time: 8 * k }]);
    const { context, reach } = reaching();
    new LiveInk(live, context, identity, { copies: maps }).paint();
    const kept = live.stroke();
    const boxes = maps.map((map) => {
      const copy = { ...kept, spine: mapSpine(kept.spine, map), nib: mapNib(nib, 1, map) };
      return outlineOf(copy, paintTolerance(1)).box;
    });
    const whole = boxes.reduce(uniteBoxes);
    for (const side of ['minX', 'minY', 'maxX', 'maxY'] as const) expect(reach.box[side]).toBeCloseTo(whole[side], 1);
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
