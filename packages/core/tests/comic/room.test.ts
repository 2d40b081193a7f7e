import { flatRing } from '../../src/area';
import {
  addPanels,
  alongCourse,
  bleedOver,
  bordersOn,
  boxRing,
  lettersToBlot,
  middleOfText,
  panelsOn,
  placeOnPlane,
  plainBorder,
  stretchRoom,
} from '../../src/comic';
import { marksOf } from '../../src/drawn';
import { framePreset, FRAME_PRESETS } from '../../src/guides';
import type { LetteringEntity } from '../../src/lettering';
import {
  areaOfRings,
  box,
  boxOfFlat,
  boxOfRings,
  localScaleOf,
  projectiveOf,
  translation,
  windingOf,
  type Box,
} from '../../src/math';
import { applyChange, find, newPage, type Page } from '../../src/page';
import { borderStrokes } from '../../src/panel';
import { lineSpine } from '../../src/shapes';
import { rubbedPanels } from '../../src/tools';
import { freeText, relettered, type ReadFonts } from '../../src/typeset';
import { adding, change, layer, stroke } from '../page/entities';
import { COMIC, fontNamed } from '../typeset/fonts';

const blank = applyChange(newPage({ width: 1600, height: 8000, ppi: 300 }), change(adding(layer('inks'))));
const at = (y: number) => ({
  spine: { points: Float64Array.of(400, y, 6, 430, y, 6, 460, y, 6, 490, y, 6), closed: false },
});
const panelled = (...boxes: readonly Box[]): Page => {
  let count = 0;
  const border = plainBorder(300);
  return applyChange(
    blank,
    addPanels(
      blank,
      boxes.map((one) => ({ ring: boxRing(one), border })),
      () => `p-${++count}`,
    ),
  );
};

describe('the room between panels of a scroll', () => {
  const page = panelled(box(100, 100, 1500, 1000), box(100, 1300, 1500, 2200), box(100, 2500, 1500, 3300));
  const [first, second, third] = panelsOn(page);
  const inked = applyChange(
    page,
    change(
      adding(
        { ...stroke('in-first'), ...at(400), panelId: first.id },
        { ...stroke('hangs'), ...at(1250), panelId: first.id },
        { ...stroke('in-second'), ...at(1500), panelId: second.id },
        { ...stroke('free-below'), ...at(2350) },
        { ...stroke('free-above'), ...at(1150) },
      ),
    ),
  );
  const yOf = (now: Page, id: string) => find(now, 'stroke', id)?.spine.points[1];

  it('is opened, and all below moves along: panels with their ink, and what lies in none', () => {
    const after = applyChange(inked, change(stretchRoom(inked, 1200, 340)));
    expect(panelsOn(after).map(({ ring }) => ring.points[1])).toEqual([100, 1640, 2840]);
    expect(yOf(after, 'in-second')).toBe(1840);
    expect(yOf(after, 'free-below')).toBe(2690);
    expect([yOf(after, 'in-first'), yOf(after, 'hangs'), yOf(after, 'free-above')]).toEqual([400, 1250, 1150]);
    expect(panelsOn(after)[0]).toBe(first);
    // Back by as much, all is where it was.
    const back = applyChange(after, change(stretchRoom(after, 1500, -340)));
    expect(panelsOn(back).map(({ ring }) => ring)).toEqual([first, second, third].map(({ ring }) => ring));
  });

  it('is not closed further than there is', () => {
    expect(() => stretchRoom(inked, 1200, -301)).toThrow(/no more room/);
    expect(() => stretchRoom(inked, 1200, -299)).not.toThrow();
    expect(() => stretchRoom(inked, 7000, 50)).toThrow(/Nothing lies below/);
  });
});

describe('a panel that bleeds', () => {
  const page = panelled(box(100, 100, 780, 900), box(820, 100, 1500, 900));
  const panels = panelsOn(page);
  const options = { ...bordersOn(page), page: page.size };

  it.each([
    ['left', 0, (b: Box) => -b.minX],
    ['top', 0, (b: Box) => -b.minY],
    ['right', 1, (b: Box) => b.maxX - 1600],
    ['bottom', 1, (b: Box) => b.maxY - 8000],
  ] as const)('reaches over the %s edge by more than its border, alone', (edge, which, beyond) => {
    const changed = bleedOver(panels, panels[which].id, edge, options);
    expect(changed.map(({ id }) => id)).toEqual([panels[which].id]);
    const over = beyond(boxOfFlat(changed[0].ring.points, 3));
    expect(over).toBeGreaterThan((panels[which].border?.nib.size ?? 0) / 2);
    expect(over).toBeLessThan(20);
  });

  it('has a side that lies that way, or is refused', () => {
    expect(() => bleedOver(panels, 'gone', 'left', options)).toThrow(/no longer/);
  });
});

describe('a border that is rubbed', () => {
  const [panel] = panelsOn(panelled(box(100, 100, 1100, 900)));
  const rub = (x: number, y: number, of = panel) =>
    rubbedPanels([of], {
      course: [
        { x, y },
        { x: x + 1, y },
      ],
      radius: 20,
    }).flatMap(({ after }) => (after?.kind === 'panel' ? [after] : []))[0];

  it('has a gap there and nowhere else; the panel is as it was', () => {
    const rubbed = rub(600, 100);
    expect(rubbed.ring).toBe(panel.ring);
    const [gap] = rubbed.border?.gaps ?? [];
    // The side is 1,000 px long: the gap reaches as far as brush and border together.
    const reach = 20 + (panel.border?.nib.size ?? 0) / 2;
    expect(gap.side).toBe(0);
    expect((gap.to - gap.from) * 1000).toBeCloseTo(2 * reach, -1);
    expect(borderStrokes(rubbed)).toHaveLength(1);
    const ink = (one: typeof panel) => areaOfRings(marksOf(one).flatMap((mark) => mark.rings(0.05)));
    const { size } = panel.border!.nib;
    // What is gone is the gap alone, cut straight across; corners are as sharp as without it.
    expect((ink(panel) - ink(rubbed)) / size).toBeCloseTo((gap.to - gap.from) * 1000, 0);
    const isInked = (x: number, y: number) =>
      marksOf(rubbed).some((mark) => mark.rings(0.05).reduce((sum, ring) => sum + windingOf(ring, { x, y }), 0) !== 0);
    expect(isInked(100 - 0.45 * size, 100 - 0.45 * size)).toBe(true);
    expect(isInked(600, 100)).toBe(false);
    const twice = rub(620, 100, rubbed);
    expect(twice.border?.gaps).toHaveLength(1);
    expect(rub(600, 900, twice).border?.gaps).toHaveLength(2);
  });

  it('is left alone where the brush does not touch it', () => {
    expect(rub(600, 500)).toBeUndefined();
    const { border: _none, ...bare } = panel;
    expect(rub(600, 100, bare)).toBeUndefined();
  });
});

describe('a text of its own', () => {
  const fonts: ReadFonts = { plain: fontNamed(COMIC) };
  const made = freeText(
    {
      runs: [{ text: 'Klonk' }],
      style: {
        fonts: { plain: { sha256: 'ab'.repeat(32), name: 'Comic' } },
        ...{ size: 90, leading: 1.1, tracking: 0, align: 'middle', capitals: true, color: '#14161a' },
      },
    },
    fonts,
    { x: 700, y: 900 },
  );
  const text: LetteringEntity = { kind: 'lettering', id: 'klonk', layerId: 'inks', order: 'a0', ...made.text };
  const page = applyChange(blank, change(adding(text)));
  const boxOf = (one: LetteringEntity) => boxOfRings(marksOf(one).flatMap((mark) => mark.rings(0.2)));

  it('lies on a plane of a frame about the same middle, as large there as on the page, and flat again', () => {
    const frame = framePreset(FRAME_PRESETS[1], page.size);
    const place = placeOnPlane(page, text, { frame, plane: 'right' });
    const { x, y } = middleOfText({ place });
    expect(x).toBeCloseTo(700, 3);
    expect(y).toBeCloseTo(900, 3);
    expect(localScaleOf(place, 0, 0)).toBeLessThanOrEqual(1 + 1e-9);
    const laid = { ...text, place };
    expect(boxOf(laid)).not.toEqual(boxOf(text));
    const flat = placeOnPlane(page, laid, undefined);
    expect(flat.map((value) => Math.round(value * 1e6) / 1e6)).toEqual([...projectiveOf(translation(700, 900))]);
  });

  it('stands along a course of the page', () => {
    const { edits } = relettered(
      page,
      'klonk',
      alongCourse(lineSpine({ x: 300, y: 1000 }, { x: 300, y: 2000 })),
      fonts,
    );
    const [{ after }] = edits;
    expect(after?.kind).toBe('lettering');
    if (after?.kind !== 'lettering') return;
    const { minX, maxX, minY, maxY } = boxOf(after);
    expect((minY + maxY) / 2).toBeCloseTo(1500, -1);
    expect(maxY - minY).toBeGreaterThan(2 * (maxX - minX));
    expect(Math.abs((minX + maxX) / 2 - 300)).toBeLessThan(90);
  });

  it('becomes a blot of the same ink', () => {
    const after = applyChange(
      page,
      lettersToBlot(page, 'klonk', () => 'blot'),
    );
    const blot = find(after, 'area', 'blot');
    const own = areaOfRings(marksOf(text).flatMap((mark) => mark.rings(0.02)));
    expect(areaOfRings(blot?.rings.map((ring) => flatRing(ring)) ?? [])).toBeCloseTo(own, -2);
  });
});
