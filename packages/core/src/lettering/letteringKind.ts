import {
  checkProjective,
  checkSpine,
  colour,
  fingerprint,
  flag,
  id,
  list,
  number,
  numbers,
  oneOf,
  optional,
  PageError,
  record,
  type Fields,
} from '../gate';
import { checkLaid, laidCopy, laidRefs, type BlobRef, type Kind } from '../kind';
import type { InkStyle } from '../nib';
import {
  ALIGNS,
  type FontFaces,
  type FontRef,
  type LetterFit,
  type LetteringEntity,
  type LetterRun,
  type LetterStyle,
  type SetLetters,
} from './types';

/** What one text may have: far beyond what anybody letters. */
export const LETTER_LIMITS = {
  characters: 20_000,
  runs: 500,
  glyphs: 2_000,
  outline: 20_000,
  letters: 20_000,
} as const;
const SIZE = { least: 0.5, most: 20_000 } as const;
/** Numbers of each letter that stands somewhere. */
const PLACE = 7;

/** What lettering is: it keeps its fonts, and knows the balloon that it stands in. */
export const letteringKind: Kind<LetteringEntity> = {
  isMany: false,
  most: { count: 5_000, inWords: 'A page holds at most 5,000 texts.' },
  check: checkLettering,
  refs: (lettering) => {
    const { needs, knows = [] } = laidRefs(lettering);
    const { fit, style } = lettering;
    return {
      needs,
      knows: [...knows, ...(fit.as === 'balloon' ? [fit.balloonId] : [])],
      blobs: Object.values<FontRef>({ ...style.fonts }).map(({ sha256 }): BlobRef => ({ sha256, as: 'font' })),
    };
  },
  remap: (lettering, copyId, renamed) => {
    const { fit } = lettering;
    const copy = laidCopy(lettering, copyId, renamed);
    return fit.as === 'balloon' ? { ...copy, fit: { ...fit, balloonId: renamed(fit.balloonId) } } : copy;
  },
  laidDown: styledLettering,
};

function checkLettering(fields: Fields): LetteringEntity {
  return {
    kind: 'lettering',
    ...checkLaid(fields),
    runs: checkRuns(fields.runs),
    style: checkStyle(record(fields.style, 'The style of a text')),
    fit: checkFit(record(fields.fit, 'The fit of a text')),
    place: checkProjective(fields.place),
    set: checkSet(record(fields.set, 'A text that was set')),
  };
}

function checkRuns(value: unknown): LetterRun[] {
  const runs = list(value, 'runs', LETTER_LIMITS.runs).map((run): LetterRun => {
    const { text, bold, italic } = record(run, 'A part of a text');
    if (typeof text !== 'string') throw new PageError('"text" needs a text.');
    return { text, ...(bold === true && { bold }), ...(italic === true && { italic }) };
  });
  if (runs.reduce((sum, { text }) => sum + text.length, 0) > LETTER_LIMITS.characters)
    throw new PageError(`A text has at most ${LETTER_LIMITS.characters.toLocaleString('en-GB')} letters.`);
  return runs;
}

function checkFont(value: unknown): FontRef {
  const fields = record(value, 'A font');
  return { sha256: fingerprint(fields.sha256), name: id(fields.name, 'name') };
}

function checkStyle(fields: Fields): LetterStyle {
  const fonts = record(fields.fonts, 'The fonts of a text');
  const faces: FontFaces = {
    plain: checkFont(fonts.plain),
    ...optional(fonts, 'bold', checkFont),
    ...optional(fonts, 'italic', checkFont),
    ...optional(fonts, 'boldItalic', checkFont),
  };
  return {
    fonts: faces,
    size: number(fields.size, 'size', SIZE.least, SIZE.most),
    leading: number(fields.leading, 'leading', 0.2, 5),
    tracking: number(fields.tracking, 'tracking', -0.5, 5),
    align: oneOf(fields.align, 'align', ALIGNS),
    capitals: flag(fields.capitals, 'capitals'),
    color: colour(fields.color, 'color'),
    ...optional(fields, 'outline', (value) => {
      const outline = record(value, 'An outline');
      return { color: colour(outline.color, 'color'), width: number(outline.width, 'width', 0, SIZE.most) };
    }),
  };
}

function checkFit(fields: Fields): LetterFit {
  const as = oneOf(fields.as, 'as', ['free', 'balloon', 'course', 'arch']);
  switch (as) {
    case 'free':
      return { as, ...optional(fields, 'width', (value) => number(value, 'width', 1, 1e5)) };
    case 'arch':
      return { as, rise: number(fields.rise, 'rise', -1, 1) };
    case 'course':
      return { as, course: checkSpine(fields.course) };
    case 'balloon':
      return {
        as,
        balloonId: id(fields.balloonId, 'balloonId'),
        body: number(fields.body, 'body', 0, 100),
        air: number(fields.air, 'air', 0, SIZE.most),
        by: oneOf(fields.by, 'by', ['balloon', 'letters']),
      };
  }
}

function checkSet(fields: Fields): SetLetters {
  const glyphs = list(fields.glyphs, 'glyphs', LETTER_LIMITS.glyphs).map(checkGlyph);
  const places = numbers(fields.places, 'places', PLACE * LETTER_LIMITS.letters);
  if (places.length % PLACE !== 0) throw new PageError('Letters come as a number and a map each.');
  for (let i = 0; i < places.length; i += PLACE)
    if (!Number.isInteger(places[i]) || places[i] < 0 || places[i] >= glyphs.length)
      throw new PageError('A letter has no outline.');
  return {
    glyphs,
    places,
    width: number(fields.width, 'width', 0, 1e6),
    height: number(fields.height, 'height', 0, 1e6),
  };
}

/** The outline of a letter: nothing but absolute moves, lines, cubics and ends. */
function checkGlyph(value: unknown): string {
  if (typeof value !== 'string' || value.length > LETTER_LIMITS.outline || !/^[MLCZ\d .-]*$/.test(value))
    throw new PageError('The outline of a letter is damaged.');
  return value;
}

const shown = new WeakMap<LetteringEntity, { readonly color: string; readonly lettering: LetteringEntity }>();

/** Lettering under a layer's style: in its colour, if it has one. The one last asked for is kept. */
function styledLettering(lettering: LetteringEntity, style: InkStyle | undefined): LetteringEntity {
  const color = style?.color;
  if (color === undefined) return lettering;
  const known = shown.get(lettering);
  if (known?.color === color) return known.lettering;
  const styled: LetteringEntity = { ...lettering, style: { ...lettering.style, color } };
  shown.set(lettering, { color, lettering: styled });
  return styled;
}
