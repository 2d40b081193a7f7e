import ClipperLib from 'clipper-lib';
import fc from 'fast-check';
import paper from 'paper';
import sharp from 'sharp';
import { areaWithin, flatRing, isInArea, nested, type AreaEntity } from '../../src/area';
import { evenlyWide, widestOf, type Spine } from '../../src/curve';
import { gapTo, mapped, markBox, marksOf } from '../../src/drawn';
import { drawnToSvg, pageToSvg, svgToDrawn } from '../../src/formats';
import { PageError } from '../../src/gate';
import { applyProjective, projectiveOf, rotation, type Matrix3x3, type Point } from '../../src/math';
import {
  commonRings,
  edgesOf,
  joinedRings,
  lineNamed,
  ringsTakenFrom,
  ringsWithin,
  ringsWithout,
  snip,
  withoutEdges,
} from '../../src/mend';
import { applyChange, checkEntity, duplicateLayers, mergeLayers, newPage } from '../../src/page';
import { ellipseSpine, polylineSpine, rectSpine } from '../../src/shapes';
import { pack, unpackEntity } from '../../src/wire';
import { areaOf, laid as asLaid, liner } from '../hands';
import { bar } from '../mend/lines';
import { adding, change, layer, stroke } from '../page/entities';

const disc = (x: number, y: number, r: number): Spine => ellipseSpine({ centre: { x, y }, rx: r, ry: r });
const box = (x: number, y: number, u: number, v: number): Spine => rectSpine({ x, y }, { x: u, y: v }, 0);
const area = (courses: readonly Spine[], more: Partial<AreaEntity> = {}): AreaEntity => ({
  kind: 'area',
  id: 'area',
  layerId: 'inks',
  order: 'a1',
  rings: nested(courses),
  fill: { as: 'colour', color: '#14161a' },
  ...more,
});
const inked = (rings: readonly Spine[]): number =>
  Math.abs(rings.reduce((sum, ring) => sum + areaOf(flatRing(ring, 0.01)), 0));
const page = newPage({ width: 400, height: 400, ppi: 300 });
const inks = layer('inks');

describe('an area', () => {
  const ring = area([disc(200, 200, 100), disc(200, 200, 60)]);

  it('has holes that wind against what they lie in, however they were drawn', () => {
    const island = area([disc(200, 200, 20), disc(200, 200, 100), disc(200, 200, 60)]);
    const signs = island.rings.map((one) => Math.sign(areaOf(flatRing(one))));
    expect(signs[0]).toBe(signs[1]);
    expect(signs[2]).toBe(-signs[1]);
    for (const [x, isIn] of [
      [200, true],
      [240, false],
      [280, true],
      [310, false],
    ] as const)
      expect(isInArea(island, { x, y: 200 })).toBe(isIn);
  });

  it('closes a course that is open by a straight line', () => {
    const open = polylineSpine([
      { x: 0, y: 0 },
      { x: 40, y: 0 },
      { x: 40, y: 30 },
    ]);
    const { rings } = areaWithin([open], { as: 'nothing' });
    expect(rings[0].closed).toBe(true);
    expect(inked(rings)).toBeCloseTo(600, 6);
    // One that ends where it began gets no leg of no length.
    const back = polylineSpine([
      { x: 0, y: 0 },
      { x: 40, y: 0 },
      { x: 40, y: 30 },
      { x: 0, y: 0 },
    ]);
    expect(areaWithin([back], { as: 'nothing' }).rings[0].points).toHaveLength(back.points.length);
  });

  it('passes the gate, as JSON and packed, and names what is wrong', () => {
    expect(
      checkEntity(
        JSON.parse(JSON.stringify({ ...ring, rings: ring.rings.map((r) => ({ ...r, points: [...r.points] })) })),
      ),
    ).toEqual(ring);
    expect(unpackEntity(pack(ring))).toEqual(ring);
    const open = { ...ring.rings[0], closed: false };
    for (const [wrong, words] of [
      [{ ...ring, rings: [] }, /closed rings, one at least/],
      [{ ...ring, rings: [open] }, /closed rings/],
      [{ ...ring, rings: 'round' }, /"rings" needs a list/],
      [{ ...ring, fill: { as: 'gold' } }, /"as" is one of colour, tone, gradient, nothing/],
      [{ ...ring, fill: { as: 'colour', color: 'red' } }, /#rrggbb/],
      [{ ...ring, poured: { x: 0, y: NaN, by: 'hand' } }, /"y" needs a number/],
    ] as const) {
      expect(() => checkEntity(wrong)).toThrow(words);
      expect(() => checkEntity(wrong)).toThrow(PageError);
    }
  });

  it('is touched within its fill, not in its hole; the gap to it is that to its edge', () => {
    const at = (x: number): Point => ({ x, y: 200 });
    expect(gapTo(ring, at(280), at(280), 10)).toBe(0);
    expect(gapTo(ring, at(320), at(320), 30)).toBeCloseTo(20, 1);
    expect(gapTo(ring, at(200), at(200), 30)).toBe(Infinity);
    expect(gapTo(ring, at(235), at(235), 30)).toBeCloseTo(25, 1);
    // A hand that crosses its edge touches it.
    expect(gapTo(ring, at(320), at(270), 5)).toBe(0);
  });

  it('goes where a map takes every point of it, and takes its pour along', () => {
    const poured = area([box(50, 50, 90, 70)], { poured: { x: 60, y: 60, by: 'hand' } });
    const [turned] = mapped([poured], projectiveOf(rotation(Math.PI / 2)), { scaleWidth: false });
    expect(markBox(turned).minX).toBeCloseTo(-70, 6);
    expect(turned.poured).toMatchObject({ by: 'hand' });
    expect(turned.poured?.x).toBeCloseTo(-60, 6);
    const pull: Matrix3x3 = [1, 0.1, 5, 0.05, 0.9, 8, 0.0004, 0.0002, 1];
    const [pulled] = mapped([ring], pull, { scaleWidth: false });
    const edge = flatRing(pulled.rings[0], 0.01);
    for (let k = 0; k < 36; k++) {
      const [c, s] = [Math.cos((k * Math.PI) / 18), Math.sin((k * Math.PI) / 18)];
      const { x, y } = applyProjective(pull, 200 + 100 * c, 200 + 100 * s);
      const near = Array.from(edge)
        .filter((_, i) => i % 2 === 0)
        .map((u, i) => Math.hypot(u - x, edge[2 * i + 1] - y));
      expect(Math.min(...near)).toBeLessThan(1.5);
    }
    expect(() => mapped([ring], [1, 0, 0, 0, 1, 0, -0.005, 0, 1], { scaleWidth: false })).toThrow(/horizon/);
  });

  it('is copied with its layer, goes where that is merged to, and to the clipboard and back', () => {
    const two = applyChange(page, change(adding(inks, layer('above', 'a1'), { ...ring, layerId: 'above' })));
    const merged = applyChange(two, mergeLayers(two, ['inks', 'above']));
    expect(merged.entities.get('area')).toMatchObject({ kind: 'area', layerId: 'inks' });
    let count = 0;
    const copied = applyChange(
      two,
      duplicateLayers(two, ['above'], () => `copy-${++count}`),
    );
    expect(copied.entities.size).toBe(5);
    const [back] = svgToDrawn(drawnToSvg([ring]), liner);
    expect(back).toMatchObject({ kind: 'area', rings: ring.rings, fill: ring.fill });
  });

  it('lays its colour, and a nick takes away what lies beneath it on its layer', async () => {
    const below = layer('flats', 'Zz');
    const flat = area([box(0, 0, 400, 400)], {
      id: 'flat',
      layerId: 'flats',
      fill: { as: 'colour', color: '#c04020' },
    });
    const black = area([disc(200, 200, 150)], { id: 'black', order: 'a0' });
    const nick = area([box(150, 150, 250, 250)], { id: 'nick', fill: { as: 'nothing' } });
    const svg = pageToSvg(applyChange(page, change(adding(inks, below, flat, black, nick))));
    // Source of the picture: librsvg, by sharp.
    const { data } = await sharp(Buffer.from(svg))
      .resize(400, 400)
      .removeAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const at = (x: number, y: number) => [...data.subarray(3 * (400 * y + x), 3 * (400 * y + x) + 3)];
    expect(at(200, 200)).toEqual([0xc0, 0x40, 0x20]);
    expect(at(120, 200)).toEqual([0x14, 0x16, 0x1a]);
    expect(at(20, 20)).toEqual([0xc0, 0x40, 0x20]);
    // Nicks are geometry: programs that print know no masks.
    expect(svg).not.toMatch(/<mask/);
    expect(marksOf(nick)).toMatchObject([{ cuts: true }]);
  });
});

describe('areas that are joined, taken off each other, or cut', () => {
  const circle = {
    r: fc.integer({ min: 20, max: 90 }),
    x: fc.integer({ min: 0, max: 120 }),
    y: fc.integer({ min: 0, max: 60 }),
  };

  it('have the areas that paper.js finds, to half a px²', () => {
    paper.setup(new paper.Size(400, 400));
    fc.assert(
      fc.property(fc.record(circle), fc.record(circle), (a, b) => {
        const [p, q] = [area([disc(a.x, a.y, a.r)]), area([disc(b.x, b.y, b.r)])];
        const [u, v] = [a, b].map(({ x, y, r }) => new paper.Path.Circle(new paper.Point(x, y), r));
        const size = (item: paper.PathItem) => Math.abs((item as paper.Path).area);
        // Rings are fitted to 0.03 px all round, and a circle of cubics strays by 3 × 10⁻⁴ of its radius.
        const slack = 0.5 + 0.03 * 2 * Math.PI * (a.r + b.r) + 3e-4 * Math.PI * (a.r ** 2 + b.r ** 2);
        expect(Math.abs(inked(joinedRings([p, q])) - size(u.unite(v)))).toBeLessThan(slack);
        expect(Math.abs(inked(commonRings([p, q])) - size(u.intersect(v)))).toBeLessThan(slack);
        const left = ringsTakenFrom(p, q);
        expect(Math.abs(inked(left ?? p.rings) - size(u.subtract(v)))).toBeLessThan(slack);
      }),
      { numRuns: 30 },
    );
  });

  it('keep corners sharp and need few points: two boxes are joined into one of twelve', () => {
    const rings = joinedRings([area([box(0, 40, 120, 80)]), area([box(40, 0, 80, 120)])]);
    expect(rings).toHaveLength(1);
    expect(rings[0].points.length).toBe(9 * 12 + 3);
    expect(inked(rings)).toBeCloseTo(2 * 120 * 40 - 1600, 1);
  });

  it('have a hole where something is taken out of their middle, and are nothing where all is', () => {
    const square = area([box(0, 0, 100, 100)]);
    const gone = [flatRing(box(40, 40, 60, 60))];
    const rings = ringsWithout(square, gone);
    expect(rings).toHaveLength(2);
    expect(isInArea({ ...square, rings: rings ?? [] }, { x: 50, y: 50 })).toBe(false);
    expect(ringsWithout(square, [flatRing(box(-5, -5, 200, 200))])).toEqual([]);
    expect(ringsWithout(square, [flatRing(box(200, 0, 300, 90))])).toBeUndefined();
    expect(inked(ringsWithin(square, gone) ?? [])).toBeCloseTo(400, 3);
    expect(ringsWithin(square, [flatRing(box(-5, -5, 200, 200))])).toBeUndefined();
  });

  it('a loop that crosses itself is one area, filled where the hand went round (non-zero, by clipper-lib)', () => {
    const pentagram = polylineSpine(
      [0, 2, 4, 1, 3].map((k) => ({
        x: 100 + 80 * Math.sin((k * 2 * Math.PI) / 5),
        y: 100 - 80 * Math.cos((k * 2 * Math.PI) / 5),
      })),
      true,
    );
    const rings = joinedRings([area([pentagram])]);
    const path = Array.from({ length: 5 }, (_, k) => ({
      X: Math.round(1000 * pentagram.points[9 * k]),
      Y: Math.round(1000 * pentagram.points[9 * k + 1]),
    }));
    const clipper = new ClipperLib.Clipper();
    clipper.AddPath(path, ClipperLib.PolyType.ptSubject, true);
    const whole: { X: number; Y: number }[][] = [];
    const { pftNonZero } = ClipperLib.PolyFillType;
    clipper.Execute(ClipperLib.ClipType.ctUnion, whole, pftNonZero, pftNonZero);
    const size = whole.reduce((sum, one) => sum + Math.abs(ClipperLib.Clipper.Area(one)), 0) / 1e6;
    expect(Math.abs(inked(rings) - size)).toBeLessThan(1);
    expect(isInArea(area([pentagram]), { x: 100, y: 100 })).toBe(true);
  });
});

describe('the edges of an area', () => {
  const two = area([disc(200, 200, 100), disc(200, 200, 60)]);
  const laid = applyChange(page, change(adding(inks, two, stroke('line'))));

  it('are closed lines that are found by their names, and the same for the same area', () => {
    const [outer, hole] = edgesOf(two);
    expect(edgesOf(two)[0]).toBe(outer);
    expect(lineNamed(laid, hole.id)).toBe(hole);
    expect(lineNamed(laid, 'line')?.id).toBe('line');
    expect(lineNamed(laid, 'area/edge/7')).toBeUndefined();
    expect([outer.spine.closed, hole.spine.closed]).toEqual([true, true]);
  });

  it('are mended as lines: the area has the new ring, and others beside it are left alone', () => {
    const [outer, hole] = edgesOf(two);
    const smaller = { ...hole, spine: disc(200, 200, 30) };
    const line = stroke('line');
    const other = { before: line, after: { ...line, order: 'a5' } };
    const edits = withoutEdges(laid, [{ before: hole, after: smaller }, other]);
    expect(edits).toHaveLength(2);
    const after = edits.find(({ before }) => before?.kind === 'area')?.after;
    expect(after).toMatchObject({ id: 'area', rings: [outer.spine, smaller.spine] });
    expect(applyChange(laid, change(edits)).entities.get('line')).toMatchObject({ order: 'a5' });
  });

  it('is snipped beyond lines that cross it: it goes straight along there, on one side, or on both by a drag', () => {
    const square = area([box(0, 0, 100, 60)]);
    const drawn = applyChange(page, change(adding(layer('inks'), square)));
    const lines = [...edgesOf(square), ...[70, 30].map((x) => asLaid(bar([x, -20], [x, 80], 6), `at ${x}`))];
    const left = (course: readonly Point[]) => {
      const [edit, ...more] = withoutEdges(
        drawn,
        snip(lines, course, { reach: 5, gap: 0, newId: () => 'new', mayCut: ({ fills }) => fills === true }),
      );
      expect(more).toEqual([]);
      return edit.after?.kind === 'area' ? inked(edit.after.rings) : undefined;
    };
    expect(left([{ x: 100, y: 30 }])).toBeCloseTo(70 * 60, 3);
    // A line that merely ends on its edge parts nothing.
    const touching = [...edgesOf(square), asLaid(bar([100, 30], [150, 30], 6), 'touching')];
    expect(snip(touching, [{ x: 0, y: 30 }], { reach: 5, gap: 0, newId: () => 'new' })).toEqual([]);
    // A blot of an old page keeps the weight of its outline.
    const [edge] = edgesOf(square);
    const blot = { ...edge, id: 'blot', spine: evenlyWide(edge.spine, 8) };
    const [cut] = snip([blot, ...lines.slice(-2)], [{ x: 100, y: 30 }], { reach: 8, gap: 0, newId: () => 'new' });
    expect(cut.after?.kind === 'stroke' && widestOf(cut.after.spine)).toBe(8);
    expect(
      left([
        { x: -5, y: 30 },
        { x: 105, y: 31 },
      ]),
    ).toBeCloseTo(40 * 60, 3);
  });

  it('a ring that goes leaves the others, and the last one takes the area with it', () => {
    const [outer, hole] = edgesOf(two);
    const [one] = withoutEdges(laid, [{ before: hole, after: null }]);
    expect(one.after).toMatchObject({ rings: [outer.spine] });
    const all = withoutEdges(
      laid,
      [hole, outer].map((before) => ({ before, after: null })),
    );
    expect(all).toEqual([{ before: two, after: null }]);
  });
});
