import fc from 'fast-check';
import opentype from 'opentype.js';
import { bodyRing, ownBody, type Body } from '../../src/balloon';
import { PageError } from '../../src/gate';
import type { LetterRun, LetterStyle, SetLetters } from '../../src/lettering';
import { letterRings, marked, runsFrom, typedFrom } from '../../src/lettering';
import { boxOfRings, identity, isInRing, projectiveOf } from '../../src/math';
import { lineSpine, polylineSpine } from '../../src/shapes';
import {
  brokenInto,
  fittedBody,
  isWithin,
  lineWidth,
  MOST_FONT_BYTES,
  readFont,
  setLettering,
  textInBody,
  widthOf,
  wordsOf,
  type ReadFonts,
} from '../../src/typeset';
import { COMIC, COMIC_BOLD, fontBytes, fontNamed, LOUD } from './fonts';

const fonts: ReadFonts = { plain: fontNamed(COMIC), bold: fontNamed(COMIC_BOLD) };
const style: LetterStyle = {
  fonts: { plain: { sha256: 'ab'.repeat(32), name: 'Comic' } },
  ...{ size: 40, leading: 1.15, tracking: 0, align: 'middle', capitals: true, color: '#14161a' },
};
const said = (text: string): LetterRun[] => [{ text }];
const here = projectiveOf(identity);
const LAST_BOAT =
  'Last boat tonight. If you are not aboard when the lamp goes down, you will wait for the tide like everybody else.';
const oval = (width: number, height: number): Body => ({ shape: 'oval', width, height, place: identity });

/** A font as a second library reads it (opentype.js). */
function opened(file: string): opentype.Font {
  const bytes = fontBytes(file);
  return opentype.parse(bytes.slice().buffer);
}

describe('letters as they are typed', () => {
  it.each<[string, LetterRun[]]>([
    ['plain', [{ text: 'plain' }]],
    ['the *last* boat', [{ text: 'the ' }, { text: 'last', bold: true }, { text: ' boat' }]],
    [
      '_slow *and loud*_',
      [
        { text: 'slow ', italic: true },
        { text: 'and loud', bold: true, italic: true },
      ],
    ],
    [String.raw`5 \* 3 \* 2, snake\_case\_too`, [{ text: '5 * 3 * 2, snake_case_too' }]],
    ['up \\ down *\\**', [{ text: 'up \\ down ' }, { text: '*', bold: true }]],
    ['a star * alone', [{ text: 'a star * alone' }]],
    ['', []],
  ])('%s', (typed, runs) => expect(runsFrom(typed)).toEqual(runs));

  it.each([
    ['what is chosen', 'Last boat tonight', 5, 9, '*', 'Last *boat* tonight'],
    ['the word that one is in', 'Last boat tonight', 7, 7, '_', 'Last _boat_ tonight'],
    ['a place without a word', 'Hm  ha', 3, 3, '*', 'Hm ** ha'],
    ['what is marked already', 'Last *boat* tonight', 6, 10, '*', 'Last boat tonight'],
    ['what is marked otherwise', 'Last *boat* tonight', 6, 10, '_', 'Last *_boat_* tonight'],
  ] as const)('get marks round %s, or lose them', (_what, typed, from, to, mark, after) => {
    const made = marked({ typed, from, to }, mark);
    expect(made.typed).toBe(after);
    const back = marked(made, mark);
    expect([back.typed, back.to - back.from]).toEqual([typed, made.to - made.from]);
  });

  it('are typed anew as they stand', () => {
    const run = fc.record(
      {
        text: fc.string({ unit: fc.constantFrom(...'ab *_\\'), minLength: 1 }),
        bold: fc.boolean(),
        italic: fc.boolean(),
      },
      { requiredKeys: ['text'] },
    );
    const looks = (runs: readonly LetterRun[]) =>
      runs.flatMap(({ text, bold = false, italic = false }) => [...text].map((letter) => [letter, bold, italic]));
    fc.assert(fc.property(fc.array(run), (runs) => expect(looks(runsFrom(typedFrom(runs)))).toEqual(looks(runs))));
  });
});

describe('a font', () => {
  it.each([COMIC, LOUD])('%s has the advances, kerning and outlines that another library reads', (file) => {
    const own = fontNamed(file);
    const other = opened(file);
    let kerned = 0;
    for (const word of ['FERRYMAN', 'AVATAR', 'Tomorrow', 'waxy', 'To. Yo,']) {
      const glyphs = [...word].map((letter) => other.charToGlyph(letter));
      const letters = own.shape(word);
      expect(letters.map(({ glyph }) => glyph)).toEqual(glyphs.map(({ index }) => index));
      letters.forEach(({ glyph, advance }, k) => {
        const kerning = k < glyphs.length - 1 ? other.getKerningValue(glyphs[k], glyphs[k + 1]) : 0;
        expect(Math.abs(advance - (glyphs[k].advanceWidth ?? 0) - kerning)).toBeLessThan(1);
        if (kerning !== 0) kerned++;
        const place = Float64Array.of(0, 1, 0, 0, 1, 0, 0);
        const rings = letterRings({ glyphs: [own.outline(glyph)], places: place, width: 0, height: 0 }, here, 0.01);
        if (rings.length === 0) return;
        const box = boxOfRings(rings);
        const { x1, x2, y1, y2 } = glyphs[k].getBoundingBox();
        expect(Math.abs(box.minX - x1) + Math.abs(box.maxX - x2)).toBeLessThan(2);
        expect(Math.abs(-box.maxY - y1) + Math.abs(-box.minY - y2)).toBeLessThan(2);
      });
    }
    expect(kerned).toBeGreaterThan(0);
  });

  it('is refused where it is cut off, is none, is too large, or has no Latin letters', () => {
    const whole = fontBytes(COMIC);
    for (const share of [0.02, 0.3, 0.6])
      expect(() => readFont(whole.subarray(0, Math.floor(whole.length * share)))).toThrow(
        /no font that can be read|no Latin/,
      );
    expect(() => readFont(new Uint8Array(5_000))).toThrow(PageError);
    expect(() => readFont(new TextEncoder().encode('%PDF-1.7 not a font at all'))).toThrow(/no font/);
    expect(() => readFont(new Uint8Array(MOST_FONT_BYTES + 1))).toThrow(/20 MB at most/);
  });

  it('names the letters that it does not have', () => {
    const { missing } = setLettering(said('Tide 😀 שלום é'), style, fonts, { as: 'free' });
    expect(missing).toContain('😀');
    expect(missing).toContain('ש');
    expect(missing).not.toContain('é');
    expect(missing).not.toContain(' ');
  });
});

describe('breaks', () => {
  // Examples of UAX #14: quotation marks, numbers, closing brackets, no-break spaces, hyphens and ideographs.
  it.each([
    ['the (ferry) sails', ['the', '(ferry)', 'sails']],
    ['pay £3.50 now', ['pay', '£3.50', 'now']],
    ['half-past one', ['half-', 'past', 'one']],
    ['10\u00a0mm wide', ['10\u00a0mm', 'wide']],
    ['What?! No…', ['What?!', 'No…']],
    ['soft\u00adly now', ['soft', 'ly', 'now']],
  ])('of %j', (text, expected) => {
    const words = wordsOf(said(text), { ...style, capitals: false }, fonts);
    expect(words.map(({ pieces }) => pieces.map((piece) => piece.text).join(''))).toEqual(expected);
  });

  it('are as even as a brute-force optimum (Knuth & Plass 1981)', () => {
    for (const text of ['Last boat tonight. Mind the wet step.', 'The lamp goes down with the tide at nine.']) {
      const words = wordsOf(said(text), style, fonts);
      for (const count of [2, 3, 4]) {
        const total = lineWidth(words, 0, words.length, 0);
        const wanted = Array.from({ length: count }, (_, k) => (total / count) * (k % 2 === 0 ? 1 : 1.2));
        const most = wanted.map(() => Infinity);
        const found = brokenInto(words, { wanted, most }, 0);
        const scale = Math.max(...wanted);
        let least = Infinity;
        const tryAll = (start: number, line: number, cost: number) => {
          if (line === count) return void (start === words.length && (least = Math.min(least, cost)));
          for (let end = start + 1; end <= words.length; end++) {
            const off = (lineWidth(words, start, end, 0) - wanted[line]) / scale;
            tryAll(end, line + 1, cost + off * off + (end === start + 1 ? 4 : 0));
          }
        };
        tryAll(0, 0, 0);
        expect(found?.cost).toBeCloseTo(least, 9);
      }
    }
  });

  it('leave no word alone where it can be helped', () => {
    for (const width of [380, 460, 540, 700]) {
      const words = wordsOf(said(LAST_BOAT), style, fonts);
      const { set, lines } = setLettering(said(LAST_BOAT), style, fonts, { as: 'free', width });
      expect(set.width).toBeLessThanOrEqual(width + 1e-6);
      expect(lines).toBeGreaterThan(1);
      const total = lineWidth(words, 0, words.length, 0);
      const found = brokenInto(words, { wanted: Array(lines).fill(total / lines), most: Array(lines).fill(width) }, 0);
      expect(found && isWithin(found) && found.lines.every(([from, to]) => to - from > 1)).toBe(true);
    }
  });

  it('are kept where they were made by hand, and a soft hyphen shows only where it breaks', () => {
    const two = setLettering(said('Hold fast!\nNow!'), style, fonts, { as: 'free' });
    expect(two.lines).toBe(2);
    const whole = setLettering(said('everlast\u00adingly'), style, fonts, { as: 'free' });
    const parted = setLettering(said('everlast\u00adingly'), style, fonts, { as: 'free', width: 200 });
    expect(whole.lines).toBe(1);
    expect(parted.lines).toBe(2);
    expect(parted.set.places.length - whole.set.places.length).toBe(7);
  });
});

/** How many places of letters, moved down by page px, lie outside a ring. */
function outside(set: SetLetters, ring: Float64Array, down = 0): number {
  let count = 0;
  for (const letter of letterRings(set, here, 0.1))
    for (let i = 0; i < letter.length; i += 2) if (!isInRing(ring, { x: letter[i], y: letter[i + 1] + down })) count++;
  return count;
}

describe('lettering', () => {
  it('is 1/72 inch high for each point: capitals stand as high as the font says', () => {
    const ppi = 300;
    const size = (12 / 72) * ppi;
    const { set } = setLettering(said('H'), { ...style, size }, fonts, { as: 'free' });
    const { minY, maxY } = boxOfRings(letterRings(set, here, 0.01));
    const other = opened(COMIC);
    const { y1, y2 } = other.charToGlyph('H').getBoundingBox();
    expect((maxY - minY) / size).toBeCloseTo((y2 - y1) / other.unitsPerEm, 3);
    expect((minY + maxY) / 2).toBeCloseTo(0, 0);
  });

  it('swells to the middle of an oval, within it on every line', () => {
    const body = oval(640, 420);
    const air = 24;
    const { set, lines, overflows } = setLettering(said(LAST_BOAT), style, fonts, { as: 'body', body, air });
    expect(overflows).toBe(false);
    expect(lines).toBeGreaterThan(3);
    const rings = letterRings(set, here, 0.1);
    for (const ring of rings)
      for (let i = 0; i < ring.length; i += 2)
        expect((ring[i] / (body.width / 2)) ** 2 + (ring[i + 1] / (body.height / 2)) ** 2).toBeLessThan(1);
    const step = style.leading * style.size;
    const wide = Array.from({ length: lines }, (_, line) => {
      const top = (line - lines / 2) * step;
      const own = rings.filter((ring) => {
        const { minY, maxY } = boxOfRings([ring]);
        return (minY + maxY) / 2 > top && (minY + maxY) / 2 <= top + step;
      });
      const { minX, maxX } = boxOfRings(own);
      return maxX - minX;
    });
    const middle = Math.floor(lines / 2);
    expect(wide[middle]).toBeGreaterThan(wide[0]);
    expect(wide[middle]).toBeGreaterThan(wide[lines - 1]);
  });

  it('says at once what does not fit', () => {
    const tight = setLettering(said(LAST_BOAT), style, fonts, { as: 'body', body: oval(200, 120), air: 10 });
    expect(tight.overflows).toBe(true);
    expect(tight.set.places.length).toBeGreaterThan(0);
    expect(setLettering(said('Unbreakable'), style, fonts, { as: 'free', width: 40 }).overflows).toBe(true);
  });

  it.each(['oval', 'box', 'rounded', 'cloud', 'burst'] as const)('makes a %s just large enough for itself', (shape) => {
    const { width, height, setting } = fittedBody(said(LAST_BOAT), style, fonts, { shape, air: 20 });
    expect(setting.overflows).toBe(false);
    const smaller: Body = { shape, width: width * 0.8, height: height * 0.8, place: identity };
    expect(setLettering(said(LAST_BOAT), style, fonts, { as: 'body', body: smaller, air: 20 }).overflows).toBe(true);
    expect(width / height).toBeGreaterThan(0.7);
    expect(width / height).toBeLessThan(4);
    expect(bodyRing({ shape, width, height, place: identity }, 0.5).every(Number.isFinite)).toBe(true);
    // However many words there are: notches of bursts and clouds come between lines too.
    const words = LAST_BOAT.split(' ');
    for (let count = 1; count <= words.length; count++) {
      const some = fittedBody(said(words.slice(0, count).join(' ')), style, fonts, { shape, air: 8 });
      const ring = bodyRing({ shape, width: some.width, height: some.height, place: identity }, 0.5);
      expect(outside(some.setting.set, ring)).toBe(0);
      // An oval keeps its letters off its top by the room that it leaves beside them.
      if (shape !== 'oval') for (const way of [-6, 6]) expect(outside(some.setting.set, ring, way)).toBe(0);
    }
  });

  it('stands within a course of one’s own, which grows with it and keeps its proportion', () => {
    const star = Array.from({ length: 10 }, (_, k) => {
      const [angle, radius] = [(k * Math.PI) / 5, k % 2 === 0 ? 90 : 60];
      return { x: 700 + 2 * radius * Math.cos(angle), y: 300 + radius * Math.sin(angle) };
    });
    const { ring: course, width: wide, height: high } = ownBody(polylineSpine(star, true));
    const { body, setting, text } = textInBody({ runs: said(LAST_BOAT), style }, fonts, {
      ...{ shape: 'own', air: 10, at: { x: 50, y: 60 }, ring: course },
    });
    expect(setting.overflows).toBe(false);
    expect(body.width / body.height).toBeCloseTo(wide / high, 6);
    const ring = bodyRing(body, 0.5);
    const { minX, maxX, minY, maxY } = boxOfRings([ring]);
    expect([maxX - minX, maxY - minY, minX + maxX, minY + maxY]).toEqual([
      ...[body.width, body.height, 0, 0].map((value) => expect.closeTo(value, 1)),
    ]);
    expect(outside(text.set, ring)).toBe(0);
  });

  it('makes words loud by runs, and writes capitals where they are wanted', () => {
    const runs: LetterRun[] = [{ text: 'Hold ' }, { text: 'fast', bold: true }, { text: '!' }];
    const loud = setLettering(runs, style, fonts, { as: 'free' });
    const plain = setLettering(said('Hold fast!'), style, fonts, { as: 'free' });
    expect(loud.set.width).not.toBeCloseTo(plain.set.width, 1);
    const shouted = setLettering(said('HOLD FAST!'), { ...style, capitals: false }, fonts, { as: 'free' });
    expect(shouted.set).toEqual(plain.set);
  });

  it('stands on a course, and arches', () => {
    const course = lineSpine({ x: 0, y: 0 }, { x: 0, y: 900 });
    const down = setLettering(said('Whoom'), style, fonts, { as: 'course', course });
    const { minX, maxX, minY, maxY } = boxOfRings(letterRings(down.set, here, 0.1));
    expect(maxY - minY).toBeGreaterThan(2 * (maxX - minX));
    expect((minY + maxY) / 2).toBeCloseTo(450, -1);
    const arched = setLettering(said('Whoom'), style, fonts, { as: 'arch', rise: 0.25 });
    const flat = setLettering(said('Whoom'), style, fonts, { as: 'free' });
    const height = (set: typeof flat.set) => {
      const box = boxOfRings(letterRings(set, here, 0.1));
      return box.maxY - box.minY;
    };
    expect(height(arched.set)).toBeGreaterThan(height(flat.set) + 0.15 * flat.set.width);
  });

  it('turns right-to-left text around, and leaves numbers in it as they are', () => {
    const letters = (text: string) => {
      const { set } = setLettering(said(text), { ...style, capitals: false }, fonts, { as: 'free' });
      return set.places.length / 7;
    };
    // The font has no Hebrew: all its letters are one, and the numbers are not.
    expect(letters('שלום 12')).toBe(6);
  });

  it('is empty where there is no text, and refuses a book', () => {
    expect(setLettering([], style, fonts, { as: 'free' }).set.places).toHaveLength(0);
    expect(setLettering(said('\n\n'), style, fonts, { as: 'free' }).set.places).toHaveLength(0);
    expect(() => setLettering(said('tide '.repeat(5_000)), style, fonts, { as: 'free' })).toThrow(/20,000 letters/);
  });

  it('adds room between letters where that is asked for', () => {
    const piece = { text: 'TIDE', font: fonts.plain };
    expect(widthOf(piece, { ...style, tracking: 0.1 }) - widthOf(piece, style)).toBeCloseTo(4 * 0.1 * style.size, 6);
  });
});
