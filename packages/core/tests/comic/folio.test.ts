import fc from 'fast-check';
import { addLetters, addPanels, boxRing, newBalloon, spreadsOf, writtenAsText, writtenOn } from '../../src/comic';
import { runsFrom, textOfRuns, typedFrom, type LetterStyle } from '../../src/lettering';
import { box, type Point } from '../../src/math';
import { applyChange, laySheet, newPage, READINGS, type Page } from '../../src/page';
import { freeText, readScript, textInBody, type ReadFonts } from '../../src/typeset';
import { adding, change, layer } from '../page/entities';
import { COMIC, fontNamed } from '../typeset/fonts';

interface Sheet {
  readonly name: string;
  readonly width: number;
  readonly height: number;
}
const upright = (name: string): Sheet => ({ name, width: 800, height: 1200 });
const lying = (name: string): Sheet => ({ name, width: 1600, height: 1200 });
const asWords = (pages: readonly Sheet[], opening: Parameters<typeof spreadsOf>[1]): string =>
  spreadsOf(pages, opening)
    .map(({ left, right, across }) => across?.name ?? `${left?.name ?? '-'}|${right?.name ?? '-'}`)
    .join(' ');

describe('spreads', () => {
  const four = ['1', '2', '3', '4'].map(upright);

  // Worked examples of bound books (common practice): odd pages are right-hand ones where a book is read from the left.
  it.each([
    ['left to right', true, '-|1 2|3 4|-'],
    ['left to right', false, '1|2 3|4'],
    ['right to left', true, '1|- 3|2 -|4'],
    ['right to left', false, '2|1 4|3'],
  ] as const)('of a folio read %s, first page alone: %s, are %s', (reads, firstAlone, spreads) =>
    expect(asWords(four, { reads, firstAlone })).toBe(spreads),
  );

  it('that one page fills lie between others, which begin anew after it', () =>
    expect(
      asWords([upright('1'), upright('2'), lying('3'), upright('4'), upright('5')], {
        ...{ reads: 'left to right', firstAlone: true },
      }),
    ).toBe('-|1 2|- 3 4|5'));

  it('hold every page once, in the order in which they are read', () => {
    const pages = fc.array(fc.boolean(), { maxLength: 40 });
    fc.assert(
      fc.property(pages, fc.constantFrom(...READINGS), fc.boolean(), (lies, reads, firstAlone) => {
        const all = lies.map((isLying, k) => (isLying ? lying : upright)(String(k)));
        const read = spreadsOf(all, { reads, firstAlone }).flatMap(({ left, right, across }) => {
          const sides = reads === 'left to right' ? [left, right] : [right, left];
          return [across, ...sides].flatMap((page) => page ?? []);
        });
        expect(read).toEqual(all);
      }),
    );
  });
});

const fonts: ReadFonts = { plain: fontNamed(COMIC) };
const style: LetterStyle = {
  fonts: { plain: { sha256: 'ab'.repeat(32), name: 'Comic' } },
  ...{ size: 40, leading: 1.15, tracking: 0, align: 'middle', capitals: true, color: '#14161a' },
};

/** A page of two panels one above the other, with texts where it is said. */
function lettered(
  texts: readonly {
    readonly says: string;
    readonly at: Point;
    readonly panel?: 0 | 1 | 2;
    readonly as?: 'oval' | 'box' | 'thought' | 'sound';
  }[],
): Page {
  let count = 0;
  const newId = () => `n-${++count}`;
  const blank = applyChange(newPage({ width: 1600, height: 2400, ppi: 300 }), change(adding(layer('inks'))));
  const panels = [box(50, 50, 1550, 1150), box(50, 1250, 1550, 2350)].map((one) => ({ ring: boxRing(one) }));
  const laid = applyChange(blank, addPanels(blank, panels, newId));
  const ids = [...laid.entities].filter(({ kind }) => kind === 'panel').map(({ id }) => id);
  const letters = texts.map(({ says, at, panel = 0, as = 'oval' }) => {
    const text = { runs: runsFrom(says), style };
    const panelId = panel === 0 ? undefined : ids[panel - 1];
    if (as === 'sound') return { texts: [freeText(text, fonts, at).text], panelId };
    const shape = as === 'thought' ? 'cloud' : as;
    const { body, text: set } = textInBody(text, fonts, { shape, air: 20, at });
    return { balloon: newBalloon(body, as === 'thought' ? 'bubbles' : 'pointed', 300), texts: [set], panelId };
  });
  return applyChange(laid, addLetters(laid, letters, 'Letter', newId));
}

const inOrder = (page: Page) => writtenOn(page).map(({ text, panel, voice }) => [panel, voice, textOfRuns(text.runs)]);

describe('what is written on a page', () => {
  const page = lettered([
    { says: 'Below', at: { x: 800, y: 1500 }, panel: 2, as: 'thought' },
    { says: 'Right', at: { x: 1200, y: 230 }, panel: 1 },
    { says: 'Foot', at: { x: 700, y: 900 }, panel: 1, as: 'box' },
    { says: 'Left', at: { x: 400, y: 250 }, panel: 1 },
    { says: 'Klonk', at: { x: 800, y: 1200 }, as: 'sound' },
  ]);

  it('is read panel by panel and row by row, and says how it is said', () =>
    expect(inOrder(page)).toEqual([
      [0, 'sound', 'Klonk'],
      [1, 'speech', 'Left'],
      [1, 'speech', 'Right'],
      [1, 'caption', 'Foot'],
      [2, 'thought', 'Below'],
    ]));

  it('is read from the right where the page is', () => {
    const turned = applyChange(page, laySheet(page, { reads: 'right to left' }));
    expect(inOrder(turned).map(([, , says]) => says)).toEqual(['Klonk', 'Right', 'Left', 'Foot', 'Below']);
  });

  it('is a script that says the same when it is read again', () => {
    const spoken = lettered([
      { says: 'Last *boat* tonight,\nand 5 \\* 3 is _late_.', at: { x: 400, y: 250 }, panel: 1 },
      { says: 'He says: that!', at: { x: 1100, y: 600 }, panel: 1, as: 'thought' },
      { says: 'Low water.', at: { x: 400, y: 1400 }, panel: 2, as: 'box' },
      { says: 'Klonk', at: { x: 800, y: 2000 }, panel: 2, as: 'sound' },
    ]);
    const text = writtenAsText([{ name: 'QUAY: low tide', written: writtenOn(spoken) }]);
    expect(readScript(text).map(({ panel, as, text: says }) => [panel, as, says])).toEqual(
      writtenOn(spoken).map(({ panel, voice, text: { runs } }) => [
        ...[panel, voice, typedFrom(runs).replaceAll(/\s+/g, ' ')],
      ]),
    );
  });

  it('names its pages, and one without words too', () =>
    expect(
      writtenAsText([
        { name: 'Quay', written: [] },
        { name: 'Stair', written: writtenOn(page).slice(0, 1) },
      ]),
    ).toBe('PAGE 1 — Quay\n\n\nPAGE 2 — Stair\n\nSOUND: Klonk\n'));
});
