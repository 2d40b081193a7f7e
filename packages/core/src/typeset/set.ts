import { bodyRing, type Body } from '../balloon';
import { boxOfFlat, clamp, emptyBox } from '../math';
import { STRIDE, pointAt, courseOf, directionAt, lengthOf, placeAlong, placeOf, type Spine } from '../curve';
import { PageError } from '../gate';
import { LETTER_LIMITS, type LetterRun, type LetterStyle, type SetLetters } from '../lettering';
import { brokenInto, fitInto, isWithin, lineWidth, type Lines } from './breaks';
import type { LetterFont } from './font';
import { asTheyStand, fontOf, widthOf, wordsOf, type Piece, type ReadFonts, type Word } from './words';

/** What letters are set into: lines as they come, lines so wide, a body of a balloon with air round them, a course, or an arch. */
export type Shape =
  | { readonly as: 'free'; readonly width?: number }
  | { readonly as: 'body'; readonly body: Body; readonly air: number }
  | { readonly as: 'course'; readonly course: Spine }
  | { readonly as: 'arch'; readonly rise: number };

/** Letters as they stand, what does not fit, and what no letter is there for. */
export interface Setting {
  readonly set: SetLetters;
  /** How many lines there are. */
  readonly lines: number;
  /** It is wider or higher than what it is set into. */
  readonly overflows: boolean;
  /** Characters that the fonts have no letter for. */
  readonly missing: readonly string[];
}

/** Lines more than the fewest that fit, up to which others are tried. */
const MORE = 3;
/** Lines that are tried for a shape. */
const MOST_LINES = 60;

/** A text, set. Throws a PageError for more letters than one text may have. */
export const setLettering = (runs: readonly LetterRun[], style: LetterStyle, fonts: ReadFonts, shape: Shape): Setting =>
  laidOut(measured(runs, style, fonts), shape);

/** A text whose words are measured: what is tried in several shapes is measured once. */
export interface Measured {
  readonly words: readonly Word[];
  readonly style: LetterStyle;
  readonly hyphen: number;
  readonly missing: readonly string[];
}

export const measured = (runs: readonly LetterRun[], style: LetterStyle, fonts: ReadFonts): Measured => ({
  words: wordsOf(runs, style, fonts),
  style,
  hyphen: widthOf({ text: '-', font: fonts.plain }, style),
  missing: [...new Set(runs.flatMap((run) => fontOf(fonts, run).missing(run.text)))],
});

/** Whether a text is too large for a body with so much air, however it is broken. */
export function isTooLarge({ words, style, hyphen }: Measured, body: Body, air: number): boolean {
  if (words.length === 0) return false;
  const within = roomWithin(body, air);
  const { fewest, room } = countsIn(words, style, body, air);
  for (let count = fewest; count <= Math.min(words.length, room); count++)
    if (fitInto(words, roomIn(within, count, style), hyphen)) return false;
  return true;
}

/** Page px by which the ring of a body may stray where lines are fitted into it. */
const RING = 0.5;

/** The fewest lines of a text, and how many there is room for in a body. */
function countsIn(words: readonly Word[], { leading, size }: LetterStyle, body: Body, air: number) {
  const fewest = Math.max(
    1,
    words.reduce((sum, { isLast }) => sum + Number(isLast), 0),
  );
  return { fewest, room: Math.min(MOST_LINES, Math.max(1, Math.floor((body.height - 2 * air) / (leading * size)))) };
}

/** What lines are fitted into: a ring, with air beside each line and over and under it. */
interface Within {
  readonly ring: Float64Array;
  readonly beside: number;
  readonly over: number;
}

/** An oval that leaves air beside its lines leaves it over them too. */
const roomWithin = (body: Body, air: number): Within => ({
  ring: bodyRing(body, RING),
  beside: air,
  over: body.shape === 'oval' ? 0 : air,
});

/** How long each of so many lines may be. */
function roomIn({ ring, beside, over }: Within, count: number, { leading, size }: LetterStyle): number[] {
  const reach = REACH * size + over;
  return Array.from({ length: count }, (_, line) => {
    const middle = (line + 0.5 - count / 2) * leading * size;
    return Math.max(0, roomBetween(ring, middle - reach, middle + reach) - 2 * beside);
  });
}

/** How far letters reach over and under the middle of their line, in sizes. */
const REACH = 0.36;

/** A measured text, set. Throws a PageError as `setLettering` does. */
export function laidOut({ words, style, hyphen, missing }: Measured, shape: Shape): Setting {
  const { lines, overflows } = linesFor(words, style, shape, hyphen);
  const laid = new Laying(style);
  const height = lines.length * style.leading * style.size;
  const widths = lines.map(([from, to]) => lineWidth(words, from, to, hyphen));
  const width = Math.max(0, ...widths);
  lines.forEach(([from, to], line) => {
    const middle = (line + 0.5) * style.leading * style.size - height / 2;
    const free = width - widths[line];
    const left = -width / 2 + (style.align === 'left' ? 0 : style.align === 'right' ? free : free / 2);
    laid.line(piecesOf(words, from, to), left, middle);
  });
  if (shape.as === 'course') laid.alongCourse(shape.course, width);
  if (shape.as === 'arch') laid.arched(width, shape.rise);
  // What is taken hold of: all of the course, or of the arch.
  const { minX, minY, maxX, maxY } = shape.as === 'course' ? boxOfFlat(shape.course.points, STRIDE) : emptyBox;
  const along = shape.as === 'course' ? { width: maxX - minX, height: Math.max(maxY - minY, height) } : undefined;
  const risen = shape.as === 'arch' ? Math.abs(shape.rise) * width : 0;
  const set = laid.letters(along?.width ?? width, along?.height ?? height + 2 * risen);
  if (set.glyphs.length > LETTER_LIMITS.glyphs || set.places.length / 7 > LETTER_LIMITS.letters)
    throw new PageError('This is more than one text can hold. Part it in two.');
  return { set, lines: lines.length, overflows, missing };
}

/** The pieces of a line, with spaces between words and a hyphen where a word is broken. */
function piecesOf(words: readonly Word[], from: number, to: number): Piece[] {
  const pieces: Piece[] = [];
  for (let k = from; k < to; k++) {
    const { pieces: own, space, hyphen, isLast } = words[k];
    pieces.push(...own);
    if (k < to - 1 && space > 0) pieces.push({ text: ' ', font: own.at(-1)?.font ?? words[from].pieces[0].font });
    if (k === to - 1 && hyphen && !isLast) pieces.push(hyphen);
  }
  return pieces;
}

interface Broken {
  readonly lines: Lines['lines'];
  readonly overflows: boolean;
}

function linesFor(words: readonly Word[], style: LetterStyle, shape: Shape, hyphen: number): Broken {
  if (words.length === 0) return { lines: [], overflows: false };
  if (shape.as === 'body') return linesInBody(words, style, shape, hyphen);
  if (shape.as === 'free' && shape.width !== undefined) return evenLines(words, shape.width, hyphen);
  // As they come: a line for each that was ended by hand.
  const lines: [number, number][] = [];
  let start = 0;
  words.forEach(({ isLast }, k) => {
    if (!isLast && k < words.length - 1) return;
    lines.push([start, k + 1]);
    start = k + 1;
  });
  return { lines, overflows: false };
}

/** As few lines as there is room for, and those evenly long. */
function evenLines(words: readonly Word[], width: number, hyphen: number): Broken {
  const total = lineWidth(words, 0, words.length, hyphen);
  const least = Math.max(words.filter(({ isLast }) => isLast).length, Math.ceil(total / width), 1);
  let last: Lines | undefined;
  for (let count = least; count <= Math.min(words.length, least + MOST_LINES); count++) {
    const even = Math.min(width, total / count);
    const found = brokenInto(words, { wanted: Array(count).fill(even), most: Array(count).fill(width) }, hyphen);
    if (found && isWithin(found)) return { lines: found.lines, overflows: false };
    last ??= found;
    if (found && (!last || found.cost < last.cost)) last = found;
  }
  return { lines: last?.lines ?? [[0, words.length]], overflows: true };
}

/** Lines that swell and ebb as a body does, as many as come nearest to its shape. */
function linesInBody(
  words: readonly Word[],
  style: LetterStyle,
  { body, air }: { readonly body: Body; readonly air: number },
  hyphen: number,
): Broken {
  const within = roomWithin(body, air);
  const total = lineWidth(words, 0, words.length, hyphen);
  const space = words.reduce((widest, word) => Math.max(widest, word.space), 0);
  const { fewest, room } = countsIn(words, style, body, air);
  let best: Lines | undefined;
  let firstFit = Infinity;
  for (let count = fewest; count <= Math.min(words.length, Math.max(fewest, room)); count++) {
    if (count > firstFit + MORE) break;
    const most = roomIn(within, count, style);
    const sum = most.reduce((all, one) => all + one, 0);
    // Where even perfect lines would not fit, none do; a space at the end of a line takes no room.
    if (sum < total - (count - 1) * space && count < room) continue;
    const share = Math.min(1, total / Math.max(sum, 1e-9));
    const found = brokenInto(words, { wanted: most.map((one) => one * share), most }, hyphen);
    if (!found) continue;
    if (isWithin(found)) firstFit = Math.min(firstFit, count);
    // Lines that fill the shape: many short ones in a wide balloon, or few long ones, leave much of it bare.
    const bare = 1 - share;
    const cost = found.cost + bare * bare * 0.5;
    if (!best || cost < best.cost) best = { lines: found.lines, cost };
  }
  if (!best) return evenLines(words, Math.max(1, body.width - 2 * air), hyphen);
  return { lines: best.lines, overflows: !isWithin(best) || best.lines.length > room };
}

/** How wide a ring is between two heights where it is narrowest, about its middle: twice what its nearer side leaves. */
function roomBetween(ring: ArrayLike<number>, top: number, bottom: number): number {
  let [left, right] = [-Infinity, Infinity];
  for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
    const [ax, ay, bx, by] = [ring[j], ring[j + 1], ring[i], ring[i + 1]];
    if (Math.max(ay, by) <= top || Math.min(ay, by) >= bottom) continue;
    const slope = ay === by ? 0 : (bx - ax) / (by - ay);
    // The part of the side that lies between the heights.
    const from = slope === 0 ? ax : ax + (clamp(ay, top, bottom) - ay) * slope;
    const to = slope === 0 ? bx : bx + (clamp(by, top, bottom) - by) * slope;
    const [least, most] = from < to ? [from, to] : [to, from];
    if (least < 0 && most > 0) return 0;
    if (most <= 0) left = Math.max(left, most);
    else right = Math.min(right, least);
  }
  const room = 2 * Math.min(-left, right);
  return Number.isFinite(room) ? room : 0;
}

/** Gathers letters where they stand. */
class Laying {
  private readonly outlines: string[] = [];
  private readonly numbers = new Map<string, number>();
  private readonly places: number[] = [];
  /** How wide each letter is, page px. */
  private readonly wide: number[] = [];

  constructor(private readonly style: LetterStyle) {}

  line(pieces: readonly Piece[], left: number, middle: number): void {
    const { size, tracking } = this.style;
    let x = left;
    for (const { text, font } of asTheyStand(pieces)) {
      const scale = size / font.perEm;
      const base = middle + (font.capitals * scale) / 2;
      for (const { glyph, advance, dx, dy } of font.shape(text)) {
        const number = this.numberOf(font, glyph);
        if (number !== undefined) {
          this.places.push(number, scale, 0, 0, scale, x + dx * scale, base + dy * scale);
          this.wide.push(advance * scale);
        }
        x += advance * scale + tracking * size;
      }
    }
  }

  private numberOf(font: LetterFont, glyph: number): number | undefined {
    const outline = font.outline(glyph);
    if (outline === '') return undefined;
    let number = this.numbers.get(outline);
    if (number === undefined) {
      number = this.outlines.push(outline) - 1;
      this.numbers.set(outline, number);
    }
    return number;
  }

  /** Each letter turned to stand on a course, in the middle of it; what the course is too short for goes straight on. */
  alongCourse(course: Spine, width: number): void {
    const along = courseOf(course);
    const length = lengthOf(along);
    const start = (length - width) / 2;
    this.bend((x) => {
      const at = start + x + width / 2;
      const place = placeOf(course, placeAlong(along, Math.min(length, Math.max(0, at))));
      const { x: px, y: py } = pointAt(course, place);
      const { x: dx, y: dy } = directionAt(course, place);
      const beyond = at - Math.min(length, Math.max(0, at));
      return [dx, dy, px + beyond * dx, py + beyond * dy];
    });
  }

  /** Each letter turned to stand on an arc that rises by a share of the width. */
  arched(width: number, rise: number): void {
    if (Math.abs(rise) < 1e-3 || width <= 0) return;
    const sagitta = rise * width;
    const radius = (width * width) / (8 * sagitta) + sagitta / 2;
    this.bend((x) => {
      const angle = x / radius;
      return [Math.cos(angle), Math.sin(angle), radius * Math.sin(angle), radius * (1 - Math.cos(angle))];
    });
  }

  private bend(at: (x: number) => readonly [dx: number, dy: number, x: number, y: number]): void {
    const { places, wide } = this;
    for (let i = 0, k = 0; i < places.length; i += 7, k++) {
      const half = wide[k] / 2;
      const scale = places[i + 1];
      const [dx, dy, x, y] = at(places[i + 5] + half);
      const base = places[i + 6];
      places[i + 1] = scale * dx;
      places[i + 2] = scale * dy;
      places[i + 3] = -scale * dy;
      places[i + 4] = scale * dx;
      places[i + 5] = x - half * dx - base * dy;
      places[i + 6] = y - half * dy + base * dx;
    }
  }

  letters(width: number, height: number): SetLetters {
    return { glyphs: this.outlines, places: Float64Array.from(this.places), width, height };
  }
}
