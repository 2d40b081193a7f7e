import bidi from 'bidi-js';
import LineBreaker from 'linebreak';
import { PageError } from '../gate';
import { LETTER_LIMITS, type LetterRun, type LetterStyle } from '../lettering';
import type { LetterFont } from './font';

/** The fonts of a text, read. Where there is none for a style, the plain one is used. */
export interface ReadFonts {
  readonly plain: LetterFont;
  readonly bold?: LetterFont | undefined;
  readonly italic?: LetterFont | undefined;
  readonly boldItalic?: LetterFont | undefined;
}

/** Letters of one font that stand together. */
export interface Piece {
  readonly text: string;
  readonly font: LetterFont;
}

/** What stands between two places where a line may break. Widths in page px. */
export interface Word {
  readonly pieces: readonly Piece[];
  readonly width: number;
  /** The room after it, where the line goes on. */
  readonly space: number;
  /** A line ends after it. */
  readonly isLast: boolean;
  /** Broken here, it takes a hyphen. */
  readonly hyphen?: Piece;
}

const SOFT_HYPHEN = '\u00ad';

/** The font of a run. */
export const fontOf = (fonts: ReadFonts, { bold, italic }: LetterRun): LetterFont => {
  if (bold && italic) return fonts.boldItalic ?? fonts.bold ?? fonts.italic ?? fonts.plain;
  return (bold ? fonts.bold : italic ? fonts.italic : undefined) ?? fonts.plain;
};

/** How wide letters are, page px. */
export function widthOf({ text, font }: Piece, { size, tracking }: Pick<LetterStyle, 'size' | 'tracking'>): number {
  const letters = font.shape(text);
  return letters.reduce((sum, { advance }) => sum + (advance * size) / font.perEm + tracking * size, 0);
}

/**
 * A text as words, parted where lines may break (UAX #14, by `linebreak`). Throws a PageError for more letters than one text may have.
 */
export function wordsOf(runs: readonly LetterRun[], style: LetterStyle, fonts: ReadFonts): Word[] {
  const written = runs.map((run) => ({ ...run, text: asWritten(run.text, style) }));
  const text = written.map((run) => run.text).join('');
  if (text.length > LETTER_LIMITS.characters)
    throw new PageError(`A text has at most ${LETTER_LIMITS.characters.toLocaleString('en-GB')} letters.`);
  const words: Word[] = [];
  const breaker = new LineBreaker(text);
  let from = 0;
  for (let found = breaker.nextBreak(); found; found = breaker.nextBreak()) {
    const { position } = found;
    const isEnd = position >= text.length;
    words.push(wordBetween(written, [from, position], found.required || isEnd, { style, fonts }));
    from = position;
  }
  return words;
}

const asWritten = (text: string, { capitals }: LetterStyle): string => {
  const whole = text.normalize('NFC').replace(/\r\n?/g, '\n').replace(/\t/g, ' ');
  return capitals ? whole.toUpperCase() : whole;
};

function wordBetween(
  runs: readonly LetterRun[],
  [from, to]: readonly [number, number],
  isLast: boolean,
  { style, fonts }: { readonly style: LetterStyle; readonly fonts: ReadFonts },
): Word {
  const pieces: Piece[] = [];
  let at = 0;
  for (const run of runs) {
    const [a, b] = [Math.max(from, at), Math.min(to, at + run.text.length)];
    if (a < b) pieces.push({ text: run.text.slice(a - at, b - at), font: fontOf(fonts, run) });
    at += run.text.length;
  }
  const raw = pieces.map(({ text }) => text).join('');
  const last = pieces.at(-1)?.font ?? fonts.plain;
  const spaces = raw.length - raw.trimEnd().length;
  const shown = trimmed(pieces, spaces);
  const space = spaces > 0 && !isLast ? widthOf({ text: ' ', font: last }, style) : 0;
  return {
    pieces: shown,
    width: shown.reduce((sum, piece) => sum + widthOf(piece, style), 0),
    ...{ space, isLast },
    ...(raw.endsWith(SOFT_HYPHEN) && { hyphen: { text: '-', font: last } }),
  };
}

/** Pieces without the last characters, and without what is only there to be broken at. */
function trimmed(pieces: readonly Piece[], spaces: number): Piece[] {
  let left = spaces;
  const shown: Piece[] = [];
  for (const { text, font } of [...pieces].reverse()) {
    const cut = Math.min(left, text.length);
    left -= cut;
    const kept = text
      .slice(0, text.length - cut)
      .replaceAll(SOFT_HYPHEN, '')
      .replaceAll(/[\n\u200b]/g, '');
    if (kept !== '') shown.unshift({ text: kept, font });
  }
  return shown;
}

/** Pieces of a line from left to right, in the order of UAX #9 (by `bidi-js`); the letters of each are turned by its font. */
export function asTheyStand(pieces: readonly Piece[]): readonly Piece[] {
  const text = pieces.map((piece) => piece.text).join('');
  if (!RIGHT_TO_LEFT.test(text)) return pieces;
  const levels = order.getEmbeddingLevels(text);
  const parts: (Piece & { readonly level: number })[] = [];
  let at = 0;
  for (const { text: own, font } of pieces)
    for (const letter of own) {
      const level = levels.levels[at];
      const last = parts.at(-1);
      if (last && last.level === level && last.font === font)
        parts[parts.length - 1] = { ...last, text: last.text + letter };
      else parts.push({ text: letter, font, level });
      at += letter.length;
    }
  const most = Math.max(...parts.map(({ level }) => level));
  // UAX #9, L2: from the highest level down, every run of that level or more is turned around.
  for (let level = most; level > 0; level--)
    for (let from = 0; from < parts.length; from++) {
      let to = from;
      while (to < parts.length && parts[to].level >= level) to++;
      if (to > from) parts.splice(from, to - from, ...parts.slice(from, to).reverse());
      from = Math.max(from, to);
    }
  return parts.map(({ text: own, font }) => ({ text: own, font }));
}

const order = bidi();
const RIGHT_TO_LEFT = /[\u0590-\u08ff\ufb1d-\ufdff\ufe70-\ufefc]/u;
