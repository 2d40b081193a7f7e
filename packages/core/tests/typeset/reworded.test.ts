import fc from 'fast-check';
import { addLetters, balloonsOn, joinBalloons, letteringOn, newBalloon } from '../../src/comic';
import { PageError } from '../../src/gate';
import {
  foundIn,
  replacedIn,
  runsFrom,
  textOfRuns,
  typedFrom,
  type LetterRun,
  type LetterStyle,
} from '../../src/lettering';
import { applyChange, draftChange, find, newPage, type Page } from '../../src/page';
import { replaceWords, textInBody, type ReadFonts } from '../../src/typeset';
import { adding, change, layer } from '../page/entities';
import { COMIC, COMIC_BOLD, fontNamed } from './fonts';

const typedAfter = (typed: string, words: string, other: string, how = {}) =>
  typedFrom(replacedIn(runsFrom(typed), { words, ...how }, other));

describe('words', () => {
  it.each([
    ['in capitals or not', 'The FERRY, the ferry', 'ferry', 'boat', {}, 'The boat, the boat'],
    ['as they are written', 'The FERRY, the ferry', 'ferry', 'boat', { asWritten: true }, 'The FERRY, the boat'],
    ['whole ones only', 'He and the heron, he', 'he', 'she', { whole: true }, 'she and the heron, she'],
    ['over a break of lines', 'last\nboat', 'last boat', 'first one', {}, 'first one'],
    ['over runs: they look as their first letter did', 'a *lo*ud word', 'loud', 'quiet', {}, 'a *quiet* word'],
    ['that stand within one loud run', '*very loud*, yes', 'loud', 'slow', {}, '*very slow*, yes'],
    ['that mean something to a pattern', 'What (else)? a.c abc', 'a.c', 'x', {}, 'What (else)? x abc'],
    ['of other letters', 'Straße, ÉTÉ, дождь', 'été', 'hiver', {}, 'Straße, hiver, дождь'],
    ['by nothing', 'very very late', 'very ', '', {}, 'late'],
  ])('are replaced %s', (_how, typed, words, other, how, after) =>
    expect(typedAfter(typed, words, other, how)).toBe(after),
  );

  it('are not looked for where none are said', () => expect(foundIn(runsFrom('anything'), { words: '' })).toEqual([]));

  it('are replaced as in plain text, and every other letter looks as it did', () => {
    const run = fc.record(
      { text: fc.string({ unit: fc.constantFrom(...'abc'), minLength: 1 }), bold: fc.constant(true) },
      { requiredKeys: ['text'] },
    );
    const some = fc.string({ unit: fc.constantFrom(...'abc'), minLength: 1, maxLength: 3 });
    fc.assert(
      fc.property(fc.array(run, { maxLength: 8 }), some, (runs: LetterRun[], words) => {
        const after = replacedIn(runs, { words, asWritten: true }, '-');
        expect(textOfRuns(after)).toBe(textOfRuns(runs).replaceAll(words, '-'));
        const looks = (all: readonly LetterRun[]) =>
          all.flatMap(({ text, bold }) => [...text].map((one) => [one, bold]));
        const kept = looks(after).filter(([one]) => one !== '-');
        const gone = new Set(
          foundIn(runs, { words, asWritten: true }).flatMap(([from, to]) =>
            [...Array(to - from).keys()].map((k) => from + k),
          ),
        );
        expect(kept).toEqual(looks(runs).filter((_, k) => !gone.has(k)));
      }),
    );
  });
});

const fonts: ReadFonts = { plain: fontNamed(COMIC), bold: fontNamed(COMIC_BOLD) };
const style: LetterStyle = {
  fonts: { plain: { sha256: 'ab'.repeat(32), name: 'Comic' } },
  ...{ size: 40, leading: 1.15, tracking: 0, align: 'middle', capitals: true, color: '#14161a' },
};

function saying(...texts: readonly string[]): Page {
  let count = 0;
  const blank = applyChange(newPage({ width: 2000, height: 2000, ppi: 300 }), change(adding(layer('inks'))));
  const letters = texts.map((says, k) => {
    const { body, text } = textInBody({ runs: runsFrom(says), style }, fonts, {
      ...{ shape: 'oval', air: 20, at: { x: 500 + 700 * k, y: 500 } },
    });
    return { balloon: newBalloon(body, 'pointed', 300), texts: [text] };
  });
  return applyChange(
    blank,
    addLetters(blank, letters, 'Letter', () => `n-${++count}`),
  );
}
const wordsOn = (page: Page) => letteringOn(page).map(({ runs }) => textOfRuns(runs));
const widths = (page: Page) => balloonsOn(page).flatMap(({ bodies }) => bodies.map(({ width }) => width));

describe('words on a page', () => {
  const replaced = (page: Page, words: string, other: string) => {
    const done = replaceWords(page, { words }, other, () => fonts);
    return { ...done, page: applyChange(page, draftChange('Replace words', done.edits)) };
  };

  it('are replaced everywhere, are counted, and balloons fit them again', () => {
    const before = saying('The boat is late.', 'No other.', 'Boat! Boat!');
    const { page, count, tight, locked } = replaced(before, 'boat', 'paddle steamer');
    expect(wordsOn(page)).toEqual(['The paddle steamer is late.', 'No other.', 'paddle steamer! paddle steamer!']);
    expect({ count, tight, locked }).toEqual({ count: 3, tight: 0, locked: 0 });
    const [first, second] = [widths(before), widths(page)];
    expect(second[0]).toBeGreaterThan(first[0]);
    expect(second[1]).toBe(first[1]);
  });

  it('are replaced in both bodies of a balloon that was joined', () => {
    const apart = saying('The boat.', 'A boat?');
    const ids = balloonsOn(apart).map(({ id }) => id);
    const before = applyChange(apart, joinBalloons(apart, ids, true));
    const { page } = replaced(before, 'boat', 'paddle steamer');
    expect(wordsOn(page)).toEqual(['The paddle steamer.', 'A paddle steamer?']);
    const [first, second] = [widths(before), widths(page)];
    expect(second.every((width, k) => width > first[k])).toBe(true);
  });

  it('stay as they are on a locked layer, and are counted', () => {
    const page = saying('The boat.');
    const [{ layerId }] = letteringOn(page);
    const layerOf = find(page, 'layer', layerId)!;
    const locked = applyChange(page, draftChange('Lock', [{ before: layerOf, after: { ...layerOf, locked: true } }]));
    expect(replaceWords(locked, { words: 'boat' }, 'x', () => fonts)).toMatchObject({ count: 0, locked: 1, edits: [] });
  });

  it('that a font has no letters for are replaced, and the letters said', () =>
    expect(replaced(saying('The boat.'), 'boat', '⛵').missing).toEqual(['⛵']));

  it('that do not fit a balloon which they are fitted to are counted', () => {
    const page = saying('Boat');
    const [text] = letteringOn(page);
    const { fit } = text;
    if (fit.as !== 'balloon') throw new Error('It stands in a balloon.');
    const pressed = { ...text, fit: { ...fit, by: 'letters' as const } };
    const tight = applyChange(page, draftChange('Fit', [{ before: text, after: pressed }]));
    expect(replaced(tight, 'boat', 'A much longer word than would ever go in').tight).toBe(1);
  });

  it('may leave a text without any, and no text may get too long', () => {
    expect(wordsOn(replaced(saying('Boat'), 'boat', '').page)).toEqual(['']);
    expect(() => replaced(saying('Boat boat boat'), 'boat', 'x'.repeat(10_000))).toThrow(PageError);
  });
});
