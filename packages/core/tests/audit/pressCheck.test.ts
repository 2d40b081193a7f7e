import {
  blackShares,
  heardAgain,
  leakFindings,
  mended,
  mendedAll,
  PRESS_SETTINGS,
  pressCheck,
  pressChecking,
  silenced,
  weightsOf,
  type PressSettings,
} from '../../src/audit';
import type { AreaEntity } from '../../src/area';
import { makeSpine } from '../../src/curve';
import { applyChange, find, newPage, type Entity, type Page } from '../../src/page';
import { polylineSpine } from '../../src/shapes';
import type { StrokeEntity } from '../../src/stroke';
import { liner } from '../hands';
import { adding, change, layer } from '../page/entities';

// 300 px an inch: 0.1 mm is 1.18 px.
const SIZE = { width: 1200, height: 900, ppi: 300 } as const;
const pageOf = (...entities: readonly Entity[]): Page =>
  applyChange(newPage(SIZE), change(adding(layer('inks'), ...entities)));

const line = (id: string, points: readonly number[], more: Partial<StrokeEntity> = {}): StrokeEntity => ({
  ...{ kind: 'stroke', id, layerId: 'inks', order: id, nib: liner, ends: ['round', 'round'] },
  spine: makeSpine(Float64Array.from(points)),
  ...more,
});
/** A straight line of one width. */
const straight = (id: string, [x, y]: readonly [number, number], [u, v]: readonly [number, number], w = 6) =>
  line(id, [x, y, w, (2 * x + u) / 3, (2 * y + v) / 3, w, (x + 2 * u) / 3, (y + 2 * v) / 3, w, u, v, w]);
const ring = (x0: number, y0: number, x1: number, y1: number) =>
  polylineSpine(
    [
      { x: x0, y: y0 },
      { x: x1, y: y0 },
      { x: x1, y: y1 },
      { x: x0, y: y1 },
    ],
    true,
  );
const area = (id: string, rings: AreaEntity['rings'], fill: AreaEntity['fill']): AreaEntity => ({
  ...{ kind: 'area', id, layerId: 'inks', order: id, rings, fill },
});
const black = { as: 'colour', color: '#000000' } as const;

const found = (page: Page, settings: Partial<PressSettings> = {}) =>
  pressCheck(page, { ...PRESS_SETTINGS, ...settings }).map(({ id }) => id);

describe('A press check', () => {
  it('of a clean page finds nothing', () => {
    expect(found(pageOf(straight('a', [100, 100], [500, 300]), area('b', [ring(600, 100, 800, 300)], black)))).toEqual(
      [],
    );
  });

  it('finds lines that are too thin for a stretch, and lets pointed tips be', () => {
    const wide = [100, 100, 6, 140, 100, 0.5, 180, 100, 0.5];
    const thin = line('thin', [...wide, 220, 100, 0.5, 260, 100, 0.5, 300, 100, 0.5, 340, 100, 6]);
    const pointed = line('pointed', [100, 300, 6, 200, 300, 6, 300, 300, 3, 400, 300, 0]);
    expect(found(pageOf(thin, pointed))).toEqual(['thin line:thin']);
    const [{ at, words, mending }] = pressCheck(pageOf(thin), PRESS_SETTINGS);
    expect(Math.abs((at?.x ?? 0) - 220)).toBeLessThan(12);
    expect(words).toMatch(/^A line gets down to 0\.\d\d mm; 0\.1 mm/);
    expect(mending).toMatchObject({ as: 'thicken', id: 'thin' });
  });

  it('goes by the printed size: what prints as it is may vanish when it is reduced', () => {
    const page = pageOf(straight('a', [100, 100], [500, 300], 1.5));
    expect(found(page)).toEqual([]);
    expect(found(page, { scale: 0.6 })).toEqual(['thin line:a']);
  });

  it('finds an end that stops just short of the line that it runs towards, and no end that meets or aims elsewhere', () => {
    const wall = straight('wall', [600, 50], [600, 800]);
    // Half of either line is 3 px: a gap of 4 px, none, and one beside the wall.
    const short = straight('short', [200, 200], [590, 200]);
    const meets = straight('meets', [200, 400], [597, 400]);
    const beside = straight('beside', [590, 500], [590, 700]);
    expect(found(pageOf(wall, short, meets, beside))).toEqual(['loose end:short:1']);
    const [{ words }] = pressCheck(pageOf(wall, short), PRESS_SETTINGS);
    // 4 px at 300 an inch.
    expect(words).toContain('0.34 mm');
  });

  it('finds specks, and says that they can be dropped', () => {
    const page = pageOf(area('s', [ring(300, 300, 302, 302)], black), straight('a', [100, 100], [500, 300]));
    expect(pressCheck(page, PRESS_SETTINGS)).toMatchObject([{ kind: 'speck', mending: { as: 'drop', id: 's' } }]);
  });

  it('finds what goes over the trim and not to the edge of the bleed', () => {
    const sheet = { kind: 'sheet', id: 'sheet', reads: 'left to right', bleed: 40, margin: 60 } as const;
    const page = pageOf(
      sheet,
      area('short', [ring(20, 100, 300, 200)], black),
      area('full', [ring(-5, 300, 300, 400)], black),
      area('inside', [ring(60, 500, 300, 600)], black),
    );
    expect(found(page)).toEqual(['bleed:short']);
  });

  it('finds tones that are too fine at this size, and two that make waves', () => {
    const tone = (angle: number, period = 5) =>
      ({ as: 'tone', color: '#000000', screen: 'dots', period, angle, share: 0.3, at: { x: 0, y: 0 } }) as const;
    const one = area('one', [ring(100, 100, 400, 400)], tone(Math.PI / 4));
    expect(found(pageOf(one))).toEqual([]);
    expect(found(pageOf(one), { scale: 0.5 })).toEqual(
      ['resolution', 'fine tone:one'].filter((id) => id !== 'resolution'),
    );
    const near = area('near', [ring(300, 100, 600, 400)], tone(Math.PI / 4 + 0.1));
    const turned = area('turned', [ring(300, 100, 600, 400)], tone(Math.PI / 4 + Math.PI / 6));
    const same = area('same', [ring(300, 100, 600, 400)], tone((3 * Math.PI) / 4));
    expect(found(pageOf(one, near))).toEqual(['moiré:one+near']);
    expect(found(pageOf(one, turned))).toEqual([]);
    expect(found(pageOf(one, same))).toEqual([]);
  });

  it('finds too few px an inch where the page is enlarged, stand-ins, faded inks, and greys where there can be none', () => {
    const plain = pageOf(straight('a', [100, 100], [500, 300]));
    expect(found(plain, { scale: 1.5 })).toEqual(['resolution']);
    const inks = find(plain, 'layer', 'inks');
    if (!inks) throw new Error('There is a layer.');
    const after = { ...inks, standIn: '#ff0000', opacity: 0.5 };
    const faded = applyChange(plain, change([{ before: inks, after }]));
    expect(found(faded)).toEqual(['stand-in:inks', 'faded:inks']);
    const grey = pageOf(area('g', [ring(100, 100, 300, 300)], { as: 'colour', color: '#808080' }));
    expect(found(grey)).toEqual([]);
    expect(found(grey, { isOneBit: true })).toEqual(['grey:inks']);
  });

  it('lets hidden layers be', () => {
    const page = applyChange(
      newPage(SIZE),
      change(adding({ ...layer('inks'), hidden: true }, straight('a', [100, 100], [500, 300], 0.2))),
    );
    expect(found(page)).toEqual([]);
  });

  it('finds what lies beside the page, or out of its panel, where nobody sees it', () => {
    const panel = { kind: 'panel', id: 'p', layerId: 'inks', order: 'a1', ring: ring(100, 100, 600, 800) } as const;
    const out = { ...straight('out', [700, 200], [900, 300]), panelId: 'p' };
    const over = { ...straight('over', [500, 300], [900, 400]), panelId: 'p' };
    const page = pageOf(
      panel,
      out,
      over,
      straight('off', [1300, 100], [1400, 200]),
      straight('on', [650, 50], [900, 60]),
    );
    expect(found(page)).toEqual(['unseen:off', 'unseen:out']);
    expect(
      found(
        applyChange(
          page,
          change(
            mendedAll(
              page,
              pressCheck(page, PRESS_SETTINGS).flatMap(({ mending }) => mending ?? []),
            ),
          ),
        ),
      ),
    ).toEqual([]);
  });

  it('tells what is quick to find before all lines were looked at', () => {
    const page = pageOf(straight('a', [100, 100], [500, 300], 0.5));
    const some = pressChecking(page, { ...PRESS_SETTINGS, scale: 1.5 });
    expect(some.next().value).toMatchObject({ kind: 'resolution' });
    some.return();
  });
});

describe('Weights', () => {
  it('are told by the widths of technical pens (ISO 9175-1), and how long the lines of each are', () => {
    // 0.5 mm is 5.91 px at 300 an inch; 600 px of it are 50.8 mm.
    const shares = weightsOf(
      pageOf(straight('a', [100, 100], [700, 100], 5.91), straight('b', [100, 200], [400, 200], 1.6)),
    );
    expect(shares.find(({ pen }) => pen === 0.5)?.length).toBeCloseTo(50.8, 1);
    expect(shares.find(({ pen }) => pen === 0.13)?.length).toBeCloseTo(25.4, 1);
    expect(shares.filter(({ length }) => length > 0)).toHaveLength(2);
    // At half the size half as wide and half as long: three steps of √2 finer than 0.5 would be 0.18; two are 0.25.
    const half = weightsOf(pageOf(straight('a', [100, 100], [700, 100], 5.91)), 0.5);
    expect(half.find(({ pen }) => pen === 0.25)?.length).toBeCloseTo(25.4, 1);
  });
});

describe('Blacks', () => {
  it('are counted over the page and within each panel', () => {
    const panel = { kind: 'panel', id: 'p', layerId: 'inks', order: 'a1', ring: ring(0, 0, 600, 900) } as const;
    const bits = { width: 120, height: 90, at: (x: number) => (x < 20 ? 1 : x < 40 ? 0.5 : 0) };
    expect(blackShares(pageOf(panel), bits)).toEqual({ page: 0.25, panels: [{ id: 'p', share: 0.5 }] });
  });
});

describe('What a press check finds', () => {
  const after = (page: Page, k = 0): Page => {
    const { mending } = pressCheck(page, PRESS_SETTINGS)[k];
    if (!mending) throw new Error('It can be mended.');
    return applyChange(page, change(mended(page, mending)));
  };

  it('is mended at a touch: thin lines are as wide as prints, ends meet what they ran towards, specks are gone', () => {
    const wall = straight('wall', [600, 50], [600, 800]);
    const page = pageOf(
      wall,
      straight('thin', [100, 100], [500, 300], 0.8),
      straight('short', [200, 500], [590, 500]),
      area('speck', [ring(300, 700, 302, 702)], black),
    );
    expect(found(page)).toEqual(['thin line:thin', 'speck:speck', 'loose end:short:1']);
    expect(found(after(after(after(page))))).toEqual([]);
  });

  it('is mended so that an end which comes in at a slant meets what it ran towards, too', () => {
    // At 50° from straight across the way on is half as long again as the gap.
    const page = pageOf(straight('wall', [600, 50], [600, 800]), straight('slant', [400, 250], [588, 474]));
    expect(found(page)).toEqual(['loose end:slant:1']);
    expect(found(after(page))).toEqual([]);
  });

  it('is mended many at once, and what is gone since is left', () => {
    const page = pageOf(
      straight('wall', [600, 50], [600, 800]),
      straight('other', [100, 50], [100, 800]),
      straight('short', [110, 500], [590, 500]),
    );
    const mendings = pressCheck(page, PRESS_SETTINGS).flatMap(({ mending }) => mending ?? []);
    expect(mendings).toHaveLength(2);
    const edits = mendedAll(page, [...mendings, { as: 'drop', id: 'gone' }]);
    // Both ends of one line are one edit of it.
    expect(edits).toHaveLength(1);
    expect(found(applyChange(page, change(edits)))).toEqual([]);
    expect(() => mendedAll(page, [{ as: 'drop', id: 'gone' }])).toThrow('not there any more');
  });

  it('is found alike where much was known from the last look', () => {
    const known = {};
    const again = (page: Page) =>
      [...pressChecking(page, PRESS_SETTINGS, known)].flatMap((finding) => (finding ? [finding.id] : []));
    const wall = straight('wall', [600, 50], [600, 800]);
    const page = pageOf(wall, straight('a', [200, 200], [590, 200]), straight('b', [200, 600], [590, 600]));
    expect(again(page)).toEqual(['loose end:a:1', 'loose end:b:1']);
    // What they ran towards is gone, or has come nearer: nothing that is known of them holds.
    const gone = applyChange(page, change([{ before: wall, after: null }]));
    expect(again(gone)).toEqual([]);
    expect(again(applyChange(gone, change(adding(straight('short', [598, 100], [598, 300])))))).toEqual([
      'loose end:a:1',
    ]);
    expect(again(page)).toEqual(['loose end:a:1', 'loose end:b:1']);
  });

  it('is told up to so many of a kind, which hides no other', () => {
    const specks = Array.from({ length: 260 }, (_, k) => {
      const [x, y] = [20 + 40 * (k % 28), 20 + 40 * Math.floor(k / 28)];
      return area(`speck-${k}`, [ring(x, y, x + 2, y + 2)], black);
    });
    // A page has its things in no order: some of these come after most specks.
    const off = Array.from({ length: 40 }, (_, k) => straight(`off-${k}`, [1300, 20 * k], [1400, 20 * k]));
    const kinds = pressCheck(pageOf(...specks, ...off), PRESS_SETTINGS).map(({ kind }) => kind);
    expect(kinds.filter((kind) => kind === 'speck')).toHaveLength(200);
    expect(kinds.filter((kind) => kind === 'unseen')).toHaveLength(off.length);
  });

  it('is of what the style of a layer shows, and mended so that this is right', () => {
    const thin = straight('thin', [100, 100], [500, 300], 2);
    const page = pageOf(thin);
    expect(found(page)).toEqual([]);
    const inks = find(page, 'layer', 'inks');
    if (!inks) throw new Error('There is a layer.');
    // A quarter of 2 px is less than the 1.18 px that print.
    const styled = applyChange(
      page,
      change([{ before: inks, after: { ...inks, style: { widthFactor: 0.25, edge: 'soft' } } }]),
    );
    expect(found(styled)).toEqual(['thin line:thin']);
    expect(found(after(styled))).toEqual([]);
    expect(weightsOf(styled).find(({ length }) => length > 0)?.pen).toBe(0.13);
  });

  it('is mended where a line that is too thin runs out to points: it still does', () => {
    const page = pageOf(line('thin', [100, 100, 0.1, 300, 100, 0.8, 400, 100, 0.8, 600, 100, 0.1]));
    expect(found(page)).toEqual(['thin line:thin']);
    const mendedPage = after(page);
    expect(found(mendedPage)).toEqual([]);
    const { spine } = find(mendedPage, 'stroke', 'thin') ?? line('none', []);
    for (const width of [spine.points[2], spine.points.at(-1)]) expect(width).toBeCloseTo(0.1, 9);
  });

  it('is mended by hand, as the line says: what its samples tell is not drawn over it', () => {
    const origin: StrokeEntity['origin'] = { samples: 'hand', calm: { way: 'even', strength: 30 }, zoom: 1 };
    const page = pageOf(
      { kind: 'samples', id: 'hand', packed: new Uint8Array(0) },
      { ...straight('thin', [100, 100], [500, 300], 0.8), origin },
      straight('wall', [600, 350], [600, 800]),
      { ...straight('short', [200, 500], [590, 500]), origin },
    );
    const edits = mendedAll(
      page,
      pressCheck(page, PRESS_SETTINGS).flatMap(({ mending }) => mending ?? []),
    );
    expect(edits).toHaveLength(2);
    for (const { after: line } of edits) expect(line).toMatchObject({ origin: { left: 'edited' } });
  });

  it('is silenced, and heard again', () => {
    const page = pageOf(straight('thin', [100, 100], [500, 300], 0.8));
    const [finding] = pressCheck(page, PRESS_SETTINGS);
    const quiet = applyChange(page, change(silenced(finding, 'hush')));
    expect(found(quiet)).toEqual([]);
    expect(found(applyChange(quiet, change(heardAgain(quiet))))).toEqual(['thin line:thin']);
    const leaks = [{ x: 100.4, y: 200, width: 6, regions: [1, 2], weight: 1 } as const];
    const [leak] = leakFindings(page, leaks, 1);
    expect(leak.words).toContain('0.51 mm');
    expect(leakFindings(applyChange(page, change(silenced(leak, 'hush'))), leaks, 1)).toEqual([]);
  });

  it('is left alone on a locked layer, or where it is gone', () => {
    const page = pageOf(straight('thin', [100, 100], [500, 300], 0.8));
    const inks = find(page, 'layer', 'inks');
    if (!inks) throw new Error('There is a layer.');
    const locked = applyChange(page, change([{ before: inks, after: { ...inks, locked: true } }]));
    const [{ mending }] = pressCheck(page, PRESS_SETTINGS);
    if (!mending) throw new Error('It can be mended.');
    expect(() => mended(locked, mending)).toThrow('locked');
    expect(() => mended(newPage(SIZE), mending)).toThrow('not there any more');
    // An end that was moved since would reach to where nothing is.
    const short = straight('short', [200, 500], [590, 500]);
    const loose = pageOf(straight('wall', [600, 50], [600, 800]), short);
    const [{ mending: reach }] = pressCheck(loose, PRESS_SETTINGS);
    const moved = applyChange(loose, change([{ before: short, after: straight('short', [200, 500], [500, 500]) }]));
    expect(reach && (() => mended(moved, reach))).toThrow('not there any more');
  });
});
