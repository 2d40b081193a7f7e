import fc from 'fast-check';
import paper from 'paper';
import { flatRing } from '../../src/area';
import {
  addPanels,
  bordersOn,
  boxRing,
  checkPanelRing,
  closedCourses,
  copyPanels,
  cutPanel,
  cutRing,
  evenRows,
  joinedRing,
  joinPanels,
  lyingIn,
  moveBorder,
  moveCorner,
  bendBorder,
  movePanels,
  panelGrid,
  panelsOn,
  plainBorder,
  readingOrder,
  readInOrder,
  removePanels,
  restackPanels,
  sidesAlong,
  sideEnds,
} from '../../src/comic';
import { SEGMENT, segmentCount, type Spine } from '../../src/curve';
import { changedPieces, framesOf, markBox, marksOf } from '../../src/drawn';
import { PageError } from '../../src/gate';
import {
  anchorOf,
  FRAME_PRESETS,
  framePreset,
  planeHomography,
  type GuideEntity,
  type GuideShape,
} from '../../src/guides';
import { areaOfRings, box, projectiveOf, ringArea, translation, windingOf, type Box, type Point } from '../../src/math';
import { applyChange, checkEntity, find, invertChange, mmToPx, newPage, type Page, type Reading } from '../../src/page';
import type { PanelEntity } from '../../src/panel';
import { polylineSpine } from '../../src/shapes';
import { pack, unpackEntity } from '../../src/wire';
import { adding, change, layer, stroke } from '../page/entities';

// Source of areas: paper.js.
paper.setup([10, 10]);

const ppi = 300;
const mm = (value: number) => mmToPx(value, ppi);
const blank = newPage({ width: 2000, height: 2800, ppi });
const withInks = applyChange(blank, change(adding(layer('inks'))));
const margins = box(150, 200, 1850, 2600);
const gutter = mm(5);

/** Ids in their order: `one-1`, `one-2` … */
function ids(word: string) {
  let count = 0;
  return () => `${word}-${++count}`;
}

const laidOut = (page: Page, rings: readonly Spine[], word = 'panel'): Page =>
  applyChange(
    page,
    addPanels(
      page,
      rings.map((ring) => ({ ring })),
      ids(word),
    ),
  );
const grid = (counts: readonly number[]) =>
  panelGrid({ within: margins, rows: evenRows(counts), across: gutter, down: gutter }, mm(2));
const areaOf = ({ ring }: { readonly ring: Spine }) => ringArea(flatRing(ring));
const corners = (ring: Spine): Point[] =>
  Array.from({ length: segmentCount(ring) }, (_, k) => ({
    x: ring.points[k * SEGMENT],
    y: ring.points[k * SEGMENT + 1],
  }));

/** How far two sides lie apart at the ends of the second, measured square to the first. */
function apart(a: Spine, j: number, b: Spine, k: number): readonly [number, number] {
  const [from, to] = sideEnds(a, j);
  const length = Math.hypot(to.x - from.x, to.y - from.y);
  const beside = ({ x, y }: Point) => ((x - from.x) * (to.y - from.y) - (y - from.y) * (to.x - from.x)) / length;
  const [start, end] = sideEnds(b, k);
  return [beside(start), beside(end)];
}

describe('a grid of panels', () => {
  it('fills the margins, with gutters as wide as they are asked for', () => {
    const rings = panelGrid(
      {
        within: margins,
        rows: [
          { height: 2, widths: [1, 1, 2] },
          { height: 1, widths: [1] },
        ],
        across: gutter,
        down: mm(8),
      },
      mm(2),
    );
    expect(rings).toHaveLength(4);
    const [first, second, third, last] = rings.map((ring) => boxOf(ring));
    expect(first.minX).toBe(margins.minX);
    expect(third.maxX).toBeCloseTo(margins.maxX, 9);
    expect(last).toMatchObject({ minX: margins.minX, maxY: margins.maxY });
    expect(second.minX - first.maxX).toBeCloseTo(gutter, 9);
    expect(last.minY - first.maxY).toBeCloseTo(mm(8), 9);
    expect((third.maxX - third.minX) / (first.maxX - first.minX)).toBeCloseTo(2, 9);
    expect((first.maxY - first.minY) / (last.maxY - last.minY)).toBeCloseTo(2, 9);
  });

  it('is refused where it does not fit, is empty, or has too many panels', () => {
    const even = (counts: readonly number[], across = gutter) =>
      panelGrid({ within: margins, rows: evenRows(counts), across, down: gutter }, mm(2));
    expect(() => even([40])).toThrow(/under 2 mm/);
    expect(() => even([3], 900)).toThrow(/does not fit/);
    expect(() => even([])).toThrow(PageError);
    expect(() => even([2, 0])).toThrow(/a panel at least/);
    expect(() =>
      even(
        Array.from({ length: 40 }, () => 5),
        0,
      ),
    ).toThrow(/at most 150 panels; this would be 200/);
  });
});

const boxOf = (ring: Spine): Box =>
  corners(ring).reduce(
    (all, { x, y }) => box(Math.min(all.minX, x), Math.min(all.minY, y), Math.max(all.maxX, x), Math.max(all.maxY, y)),
    box(Infinity, Infinity, -Infinity, -Infinity),
  );

describe('a panel', () => {
  it('passes the gate, packed and not, and names what is wrong', () => {
    const [panel] = panelsOn(laidOut(withInks, grid([2])));
    const bordered: PanelEntity = {
      ...panel,
      border: {
        nib: { name: 'Border', size: 7, thinnest: 1, taperIn: 0, taperOut: 0, color: '#14161a' },
        gaps: [{ side: 1, from: 0.2, to: 0.4 }],
      },
      gutter: 12,
      reads: 3,
    };
    expect(unpackEntity(pack(bordered))).toEqual(bordered);
    expect(() => checkEntity({ ...panel, ring: { ...panel.ring, closed: false } })).toThrow(/closed ring/);
    expect(() => checkEntity({ ...bordered, gutter: -1 })).toThrow(/gutter/);
    expect(() =>
      checkEntity({ ...bordered, border: { ...bordered.border, gaps: [{ side: 4, from: 0, to: 1 }] } }),
    ).toThrow(/side/);
  });

  it('turns one way however its ring came', () => {
    const [panel] = panelsOn(laidOut(withInks, grid([1])));
    const backwards = corners(panel.ring).reverse();
    const points = Float64Array.from(
      [...backwards, backwards[0]].flatMap(({ x, y }, k) => (k === 0 ? [x, y, 5] : [x, y, 5, x, y, 5, x, y, 5])),
    );
    const back = checkEntity({ ...panel, ring: { points, closed: true } });
    expect(back.kind === 'panel' && areaOf(back)).toBeGreaterThan(0);
  });
});

describe('a cut', () => {
  const whole = boxRing(margins);

  it('parts a panel at any angle with the gutter between, and loses nothing else', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: Math.PI, noNaN: true }),
        fc.integer({ min: -500, max: 500 }),
        (angle, off) => {
          const [dx, dy] = [Math.cos(angle), Math.sin(angle)];
          const [x, y] = [1000 - off * dy, 1400 + off * dx];
          const at = (t: number) => ({ x: x + t * dx, y: y + t * dy });
          const [left, right] = cutRing(whole, { from: at(-100), to: at(100), gutter, least: mm(2) });
          // Both are convex here: their corners nearest to the cut lie just half a gutter from it.
          const away = ({ x: u, y: v }: Point) => (u - x) * dy - (v - y) * dx;
          expect(Math.min(...corners(left).map(away))).toBeCloseTo(gutter / 2, 6);
          expect(Math.max(...corners(right).map(away))).toBeCloseTo(-gutter / 2, 6);
          const band = areaOf({ ring: whole }) - areaOf({ ring: left }) - areaOf({ ring: right });
          const inside = new paper.Path(corners(whole).map((p) => [p.x, p.y]));
          inside.closed = true;
          const far = (t: number, side: number) => [
            x + t * dx - side * dy * (gutter / 2),
            y + t * dy + side * dx * (gutter / 2),
          ];
          const strip = new paper.Path([far(-9e3, 1), far(9e3, 1), far(9e3, -1), far(-9e3, -1)]);
          strip.closed = true;
          // Source of the area: paper.js.
          const common = inside.intersect(strip);
          expect(band).toBeCloseTo(Math.abs('area' in common ? Number(common.area) : NaN), 2);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('keeps curved sides curved', () => {
    const page = laidOut(withInks, [whole]);
    const [bent] = bendBorder(panelsOn(page), { panelId: 'panel-2', side: 1 }, { x: 1950, y: 1400 }, bordersOn(page));
    const [upper, lower] = cutRing(bent.ring, {
      ...{ from: { x: 0, y: 1000 }, to: { x: 2000, y: 1050 } },
      ...{ gutter, least: mm(2) },
    });
    const band = areaOf(bent) - areaOf({ ring: upper }) - areaOf({ ring: lower });
    expect(segmentCount(upper)).toBe(4);
    expect(band).toBeGreaterThan(gutter * 1700);
    expect(band).toBeLessThan(gutter * 1810);
  });

  it('is refused where it misses, crosses more than twice, or leaves less than 2 mm', () => {
    const cut = (from: Point, to: Point, ring = whole) => cutRing(ring, { from, to, gutter, least: mm(2) });
    expect(() => cut({ x: 0, y: 100 }, { x: 100, y: 100 })).toThrow(/from border to border/);
    expect(() => cut({ x: 500, y: 500 }, { x: 500, y: 500 })).toThrow(/Drag across/);
    expect(() => cut({ x: 0, y: 240 }, { x: 100, y: 240 })).toThrow(/2 mm/);
  });

  it('leaves what was begun in a part in that part, and undo puts all back', () => {
    const page = laidOut(withInks, [whole]);
    const [panel] = panelsOn(page);
    const high = { ...stroke('high'), panelId: panel.id, ...at(400, 400) };
    const low = { ...stroke('low'), panelId: panel.id, ...at(400, 2400) };
    const inked = applyChange(page, change(adding(high, low)));
    const cut = cutPanel(
      inked,
      panel.id,
      { from: { x: 100, y: 1300 }, to: { x: 1900, y: 1300 }, gutter, reading: 'left to right' },
      ids('cut'),
    );
    const after = applyChange(inked, cut);
    expect(find(after, 'stroke', 'high')?.panelId).toBe(panel.id);
    expect(find(after, 'stroke', 'low')?.panelId).toBe('cut-1');
    const joined = applyChange(after, joinPanels(after, [panel.id, 'cut-1']));
    expect(areaOf(panelsOn(joined)[0])).toBeCloseTo(areaOf(panel), 3);
    expect(segmentCount(panelsOn(joined)[0].ring)).toBe(4);
    expect(find(joined, 'stroke', 'low')?.panelId).toBe(panel.id);
    expect([...applyChange(after, invertChange(cut)).entities]).toEqual([...inked.entities]);
  });
});

const at = (x: number, y: number) => ({
  spine: { points: Float64Array.of(x, y, 6, x + 30, y, 6, x + 60, y, 6, x + 90, y, 6), closed: false },
});

describe('joined panels', () => {
  it('have the gutter between them, and step where one is longer', () => {
    const [a, b, wide] = grid([2, 1]);
    const both = joinedRing({ ring: a }, { ring: b }, mm(15));
    expect(segmentCount(both)).toBe(4);
    expect(areaOf({ ring: both })).toBeCloseTo(areaOf({ ring: wide }), 3);
    const stepped = joinedRing({ ring: a }, { ring: wide }, mm(15));
    expect(segmentCount(stepped)).toBe(6);
    const bridge = boxOf(a).maxX - boxOf(a).minX;
    expect(areaOf({ ring: stepped })).toBeCloseTo(areaOf({ ring: a }) + areaOf({ ring: wide }) + gutter * bridge, 2);
  });

  it('must lie side by side', () => {
    const [a, , c, d] = grid([2, 2]);
    expect(() => joinedRing({ ring: a }, { ring: d }, mm(15))).toThrow(/side by side/);
    expect(() => joinedRing({ ring: a }, { ring: c }, mm(2))).toThrow(/side by side/);
  });
});

describe('borders', () => {
  it('move with those that face them: gutters stay equal to 0.01 px after any series of drags', () => {
    const drag = fc.record({
      panel: fc.nat(4),
      side: fc.nat(3),
      by: fc.integer({ min: -120, max: 120 }),
      corner: fc.boolean(),
      dx: fc.integer({ min: -60, max: 60 }),
    });
    let moved = 0;
    fc.assert(
      fc.property(fc.array(drag, { minLength: 1, maxLength: 25 }), (drags) => {
        const page = laidOut(withInks, grid([2, 3]));
        let panels = panelsOn(page);
        const options = bordersOn(page);
        const pairs = panels.flatMap((a) =>
          [0, 1, 2, 3].flatMap((side) =>
            sidesAlong(panels, { panelId: a.id, side }, options.widest)
              .filter(({ panelId }) => panelId !== a.id)
              .map((other) => [{ panelId: a.id, side }, other] as const),
          ),
        );
        const first = new Map(panels.map(({ id, ring }) => [id, ring]));
        const firstRing = (id: string) => first.get(id) ?? panels[0].ring;
        for (const { panel, side, by, corner, dx } of drags) {
          const { id, ring } = panels[panel];
          try {
            const node = corners(ring)[side];
            const changed = corner
              ? moveCorner(panels, id, side, { x: node.x + dx, y: node.y + by / 4 }, options)
              : moveBorder(panels, { panelId: id, side }, by, options);
            panels = panels.map((one) => changed.find((other) => other.id === one.id) ?? one);
            moved++;
          } catch (error) {
            // A drag that folds a panel over changes nothing.
            expect(error).toBeInstanceOf(PageError);
          }
        }
        const ringOf = (id: string) => panels.find((one) => one.id === id)?.ring ?? panels[0].ring;
        for (const [a, b] of pairs) {
          const gaps = apart(ringOf(a.panelId), a.side, ringOf(b.panelId), b.side);
          const before = apart(firstRing(a.panelId), a.side, firstRing(b.panelId), b.side);
          for (const [k, gap] of gaps.entries()) expect(Math.abs(gap - before[k])).toBeLessThan(0.01);
        }
      }),
      { numRuns: 40 },
    );
    expect(moved).toBeGreaterThan(100);
  });

  it('are refused where a panel would fold over or be under 2 mm, and nothing has changed', () => {
    const page = laidOut(withInks, grid([2]));
    const panels = panelsOn(page);
    const options = bordersOn(page);
    const width = boxOf(panels[0].ring).maxX - boxOf(panels[0].ring).minX;
    expect(() => moveBorder(panels, { panelId: panels[0].id, side: 1 }, -width + 10, options)).toThrow(/2 mm/);
    expect(() => moveBorder(panels, { panelId: panels[0].id, side: 1 }, -width - 50, options)).toThrow(PageError);
    expect(() => moveCorner(panels, panels[0].id, 0, { x: 5000, y: 1400 }, options)).toThrow(/cross each other|2 mm/);
    expect(() => moveBorder(panels, { panelId: 'gone', side: 1 }, 5, options)).toThrow(/no longer/);
  });

  it('bend with those that face them, and alone where that is asked', () => {
    const page = laidOut(withInks, grid([2]));
    const panels = panelsOn(page);
    const middle = { x: 1040, y: 1400 };
    const [a, b] = bendBorder(panels, { panelId: panels[0].id, side: 1 }, middle, bordersOn(page));
    const grown = areaOf(a) - areaOf(panels[0]);
    expect(grown).toBeGreaterThan(1e4);
    expect(areaOf(b) - areaOf(panels[1])).toBeCloseTo(-grown, 0);
    const alone = bendBorder(panels, { panelId: panels[0].id, side: 1 }, middle, { ...bordersOn(page), alone: true });
    expect(alone).toHaveLength(1);
  });
});

describe('the order of reading (common practice)', () => {
  const panel = (id: string, minX: number, minY: number, maxX: number, maxY: number): PanelEntity => ({
    ...{ kind: 'panel', id, layerId: 'inks', order: 'a0' },
    ring: boxRing(box(minX, minY, maxX, maxY)),
  });
  const read = (panels: readonly PanelEntity[], reading: Reading) =>
    readingOrder(panels, reading)
      .map(({ id }) => id)
      .join('');

  it.each([
    ['rows', [panel('c', 0, 60, 100, 100), panel('b', 55, 0, 100, 50), panel('a', 0, 0, 50, 50)], 'abc', 'bac'],
    [
      'a tall one and two beside it',
      [panel('a', 0, 0, 40, 100), panel('b', 50, 0, 100, 45), panel('c', 50, 55, 100, 100)],
      'abc',
      'bca',
    ],
    [
      'two stacked and a tall one after them',
      [panel('a', 0, 0, 50, 45), panel('b', 0, 55, 50, 100), panel('c', 60, 0, 100, 100)],
      'abc',
      'cab',
    ],
    [
      'rows that a slant lets run into each other',
      [panel('a', 0, 0, 100, 52), panel('b', 0, 40, 45, 100), panel('c', 50, 44, 100, 100)],
      'abc',
      'acb',
    ],
    [
      'an inset after what it lies in',
      [panel('a', 0, 0, 100, 45), panel('c', 0, 55, 100, 100), panel('b', 60, 5, 95, 40)],
      'abc',
      'abc',
    ],
    ['a scroll', [panel('b', 20, 120, 90, 300), panel('a', 0, 0, 100, 100), panel('c', 0, 340, 60, 500)], 'abc', 'abc'],
  ])('of %s', (_name, panels, fromLeft, fromRight) => {
    expect(read(panels, 'left to right')).toBe(fromLeft);
    expect(read(panels, 'right to left')).toBe(fromRight);
  });

  it('is as it was said, and a panel that came later follows its neighbour', () => {
    const page = laidOut(withInks, grid([2, 2]));
    const [a, b, c, d] = panelsOn(page).map(({ id }) => id);
    const said = applyChange(page, readInOrder(page, [d, a], 'left to right'));
    expect(readingOrder(panelsOn(said), 'left to right').map(({ id }) => id)).toEqual([d, a, b, c]);
    const more = laidOut(said, [boxRing(box(160, 2620, 1800, 2790))], 'late');
    expect(readingOrder(panelsOn(more), 'left to right').map(({ id }) => id)).toEqual([d, 'late-1', a, b, c]);
  });
});

describe('ink in panels', () => {
  const page = laidOut(withInks, grid([2]));
  const [left, right] = panelsOn(page);
  const line = (id: string, x: number, panelId?: string) => ({
    ...stroke(id),
    ...at(x, 900),
    ...(panelId && { panelId }),
  });
  const border = boxOf(left.ring).maxX;

  it('is cut at the border, wholly shown within it and not at all beside it', () => {
    const inked = applyChange(
      page,
      change(
        adding(
          line('in', 300, left.id),
          line('over', border - 40, left.id),
          line('out', border + 50, left.id),
          line('free', border - 40),
        ),
      ),
    );
    const frames = framesOf(inked);
    const marks = ['in', 'over', 'out', 'free'].map((id) => {
      const entity = find(inked, 'stroke', id);
      return entity ? marksOf(entity, frames) : [];
    });
    expect(marks.map((all) => all.length)).toEqual([1, 1, 0, 1]);
    expect(marks.map(([mark]) => mark?.clip !== undefined)).toEqual([false, true, false, false]);
    const clip = marks[1][0].clip?.rings(0.05) ?? [];
    expect(areaOfRings(clip)).toBeCloseTo(areaOf(left), 3);
    const free = applyChange(inked, change([{ before: layer('inks'), after: { ...layer('inks'), free: true } }]));
    const over = find(free, 'stroke', 'over');
    expect(over && marksOf(over, framesOf(free))[0].clip).toBeUndefined();
  });

  it('does not show under a panel that lies over it, nor in the gutter round that', () => {
    const inset = { ...{ ring: boxRing(box(200, 300, 600, 700)) }, gutter: 20 };
    const over = applyChange(page, addPanels(page, [inset], ids('inset')));
    const [first, , last] = panelsOn(over);
    const inked = applyChange(over, change(adding({ ...stroke('under'), ...at(560, 500), panelId: first.id })));
    const under = find(inked, 'stroke', 'under');
    const [mark] = under ? marksOf(under, framesOf(inked)) : [];
    // Source of the area: paper.js.
    const rect = ({ minX, minY, maxX, maxY }: Box) =>
      new paper.Path.Rectangle({ from: [minX, minY], to: [maxX, maxY] });
    const left = rect(boxOf(first.ring)).subtract(rect(box(180, 280, 620, 720)));
    const off = areaOfRings(mark.clip?.rings(0.05) ?? []) - Math.abs('area' in left ? Number(left.area) : NaN);
    // Corners lie on 1/1024 px.
    expect(Math.abs(off)).toBeLessThan(6_500 / 1024);
    expect(framesOf(inked).panelAt({ x: 300, y: 400 })?.id).toBe(last.id);
    const isShown = (one: Box) => framesOf(inked).showsIn({ ...stroke('under'), panelId: first.id }, one);
    expect(isShown(box(295, 395, 305, 405))).toBe(false);
    // In the gutter of the inset, across its edge, and in the panel of the next column.
    expect(isShown(box(185, 395, 195, 405))).toBe(false);
    expect(isShown(box(170, 395, 190, 405))).toBe(true);
    expect(isShown(box(1200, 395, 1210, 405))).toBe(false);
  });

  it('goes along with its panel, is copied with it, and is free when that is deleted', () => {
    const inked = applyChange(page, change(adding(line('in', 300, left.id), line('else', 1500, right.id))));
    const moved = applyChange(
      inked,
      change(movePanels(inked, [left.id], projectiveOf(translation(40, -30)), { scaleWidth: false })),
    );
    expect(find(moved, 'stroke', 'in')?.spine.points[0]).toBe(340);
    expect(find(moved, 'stroke', 'else')).toBe(find(inked, 'stroke', 'else'));
    const copied = applyChange(inked, copyPanels(inked, [left.id], { x: 0, y: 500 }, ids('copy')));
    const copy = panelsOn(copied).at(-1);
    expect(lyingIn(copied, new Set([copy?.id ?? '']))).toHaveLength(1);
    expect(markBox(lyingIn(copied, new Set([copy?.id ?? '']))[0] as never).minY).toBeGreaterThan(1300);
    const removal = removePanels(inked, [left.id]);
    const freed = applyChange(inked, removal);
    expect(find(freed, 'stroke', 'in')).toEqual(line('in', 300));
    expect([...applyChange(freed, invertChange(removal)).entities]).toEqual([...inked.entities]);
  });

  it('takes guides along with those that hang on them, copies them, and lets them go', () => {
    const guide = (id: string, shape: GuideShape, panelId?: string): GuideEntity => ({
      ...{ kind: 'guide', id, order: `a${id}`, name: id, seen: true, acting: true, locked: false, tethers: false },
      ...{ reach: 'all', hue: 0, shape, ...(panelId !== undefined && { panelId }) },
    });
    const frame = framePreset(FRAME_PRESETS[2], blank.size);
    const plane: GuideShape = {
      ...{ kind: 'plane', frame: 'frame', plane: 'floor', rings: [boxRing(box(-100, -100, 100, 100))] },
      map: planeHomography(frame, 'floor', { x: 900, y: 2300 }, blank.size),
      place: { x: 0, y: 0, scaleX: 1, scaleY: 1, angle: 0 },
    };
    const guided = applyChange(
      page,
      change(
        adding(
          guide('rails', { kind: 'rails', x: 300, y: 400, angle: 1 }, left.id),
          guide('frame', frame, left.id),
          guide('plane', plane),
          guide('free', { kind: 'rails', x: 300, y: 400, angle: 1 }),
        ),
      ),
    );
    const shapeOn = (on: Page, id: string) => find(on, 'guide', id)!.shape;
    const moved = applyChange(
      guided,
      change(movePanels(guided, [left.id], projectiveOf(translation(40, -30)), { scaleWidth: false })),
    );
    expect(shapeOn(moved, 'rails')).toEqual({ kind: 'rails', x: 340, y: 370, angle: 1 });
    expect(shapeOn(moved, 'free')).toBe(shapeOn(guided, 'free'));
    for (const id of ['frame', 'plane']) {
      const [from, to] = [anchorOf(shapeOn(guided, id)), anchorOf(shapeOn(moved, id))];
      expect([to.x - from.x, to.y - from.y].map((way) => Math.round(way * 1e6) / 1e6)).toEqual([40, -30]);
    }
    const copied = applyChange(guided, copyPanels(guided, [left.id], { x: 0, y: 500 }, ids('copy')));
    const copies = lyingIn(copied, new Set([panelsOn(copied).at(-1)!.id]));
    expect(copies.map(({ kind }) => kind)).toEqual(['guide', 'guide']);
    const freed = applyChange(guided, removePanels(guided, [left.id]));
    expect(find(freed, 'guide', 'rails')?.panelId).toBeUndefined();
    expect(checkEntity({ ...find(guided, 'guide', 'rails')! })).toEqual(find(guided, 'guide', 'rails'));
  });

  it('is seen otherwise only where a side passed over the page that was pulled', () => {
    const panel: PanelEntity = {
      ...{ kind: 'panel', id: 'one', layerId: 'inks', order: 'a0', gutter: 12 },
      ...{ ring: boxRing(box(400, 500, 1400, 1700)), border: plainBorder(ppi) },
    };
    const spread = fc.integer({ min: -90, max: 90 });
    fc.assert(
      fc.property(fc.array(fc.tuple(spread, spread), { minLength: 4, maxLength: 4 }), spread, (corners, bend) => {
        const [a, b, c, d] = [
          { x: 400, y: 500 },
          { x: 1400, y: 500 },
          { x: 1400, y: 1700 },
          { x: 400, y: 1700 },
        ].map(({ x, y }, k) => ({ x: x + corners[k][0], y: y + (k === 3 ? 0 : corners[k][1]) }));
        const ring = polylineSpine([a, b, c, d], true);
        const points = ring.points.slice();
        points[SEGMENT + 3] += bend;
        const after: PanelEntity = { ...panel, ring: { ...ring, points } };
        const boxes = changedPieces(panel, after);
        // Whether ink that lies in it shows at a place, and whether its border does.
        const looks = (one: PanelEntity) => {
          const shown = flatRing(one.ring, 0.05);
          const marks = marksOf(one).flatMap((mark) => mark.rings(0.05));
          return (at: Point) => [
            windingOf(shown, at) !== 0,
            marks.reduce((sum, each) => sum + windingOf(each, at), 0) !== 0,
          ];
        };
        const [was, is] = [looks(panel), looks(after)];
        for (let x = 300.5; x < 1500; x += 37)
          for (let y = 400.5; y < 1800; y += 41) {
            const at = { x, y };
            if (was(at).join() === is(at).join()) continue;
            expect(boxes.some((one) => x >= one.minX && x <= one.maxX && y >= one.minY && y <= one.maxY)).toBe(true);
          }
      }),
      { numRuns: 40 },
    );
    const [strip, ...others] = changedPieces(panel, { ...panel, ring: boxRing(box(400, 560, 1400, 1700)) });
    expect(strip.maxY - strip.minY).toBeLessThan(160);
    expect(others).toHaveLength(2);
    expect(changedPieces(panel, { ...panel, gutter: 20 }).every((one) => one.maxY - one.minY > 1200)).toBe(true);
  });

  it('is over other panels, or under them, in the order in which it was', () => {
    const three = laidOut(
      withInks,
      [0, 1, 2].map((k) => boxRing(box(100 + 300 * k, 100, 350 + 300 * k, 400))),
    );
    const [a, b, c] = panelsOn(three).map(({ id }) => id);
    const after = (ids: readonly string[], end: 'front' | 'back') =>
      panelsOn(applyChange(three, restackPanels(three, ids, end))).map(({ id }) => id);
    expect(after([b, a], 'front')).toEqual([c, a, b]);
    expect(after([c, b], 'back')).toEqual([b, c, a]);
  });

  it('gets the shape of a line that was drawn round, closed or nearly so, and of no other', () => {
    const round = (share: number, closed = false) => {
      const places = Array.from({ length: 40 }, (_, k) => {
        const angle = (2 * Math.PI * share * k) / 39;
        return { x: 800 + 300 * Math.cos(angle), y: 900 + 200 * Math.sin(angle) };
      });
      return { ...stroke('round'), spine: polylineSpine(places, closed) };
    };
    for (const line of [round(0.98), round(0.95, true)]) {
      const [ring] = closedCourses([line]);
      expect(ring.closed).toBe(true);
      expect(Math.abs(ringArea(flatRing(ring)))).toBeCloseTo(Math.PI * 300 * 200, -4);
    }
    expect(closedCourses([round(0.8)])).toEqual([]);
  });

  it('goes into no panel that folds over', () => {
    const through = (...corners: readonly Point[]) => polylineSpine(corners, true);
    const [a, b, c] = [
      { x: 0, y: 0 },
      { x: 400, y: 0 },
      { x: 400, y: 400 },
    ];
    expect(() => checkPanelRing(through(a, b, c, { x: 0, y: 300 }), mm(2))).not.toThrow();
    // Its loops have not the same area, and its sense is that of a panel.
    expect(() => checkPanelRing(through(a, b, c, { x: 300, y: -60 }), mm(2))).toThrow(/cross each other/);
    expect(() => checkPanelRing(through(c, b, a), mm(2))).toThrow(/cross each other/);
    expect(() => checkPanelRing(boxRing(box(0, 0, 400, mm(1))), mm(2))).toThrow(/2 mm/);
  });
});
