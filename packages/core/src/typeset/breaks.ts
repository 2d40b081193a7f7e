import type { Word } from './words';

/** Lines as the words from one number to another, and how uneven they are: 0 is perfect. */
export interface Lines {
  readonly lines: readonly (readonly [from: number, to: number])[];
  readonly cost: number;
}

/** What one word alone on a line costs, in squares of a line's length: more than any unevenness. */
export const ALONE = 4;
/** What a line costs that is longer than it may be. */
const TOO_LONG = 1e4;
/** Words that one line may have. */
const MOST = 60;

/** How wide words are on one line, page px. */
export function lineWidth(words: readonly Word[], from: number, to: number, hyphen: number): number {
  let width = 0;
  for (let k = from; k < to; k++) width += words[k].width + (k < to - 1 ? words[k].space : 0);
  return width + (words[to - 1]?.hyphen && !words[to - 1].isLast ? hyphen : 0);
}

/** How long lines should be, and how long they may be. */
export interface Wanted {
  readonly wanted: readonly number[];
  readonly most: readonly number[];
}

/**
 * Breaks words into so many lines that their lengths come as near as can be to those that are wanted: the least sum of squares, as
 * Knuth & Plass (1981) find it, with one word alone where it can be helped held against it. Nothing where so many lines cannot be.
 */
export function brokenInto(words: readonly Word[], { wanted, most }: Wanted, hyphen: number): Lines | undefined {
  const [count, lines] = [words.length, wanted.length];
  if (lines > count) return undefined;
  const scale = Math.max(...wanted, 1e-9);
  // The least cost of so many words on so many lines, and where the last of these begins.
  const best = Array.from({ length: lines + 1 }, () => new Float64Array(count + 1).fill(Infinity));
  const from = Array.from({ length: lines }, () => new Int32Array(count + 1));
  best[0][0] = 0;
  const alone = lines > 1 ? ALONE : 0;
  for (let line = 0; line < lines; line++) {
    const [before, row, back] = [best[line], best[line + 1], from[line]];
    const [target, limit] = [wanted[line], most[line] + 1e-6];
    for (let start = line; start < count; start++) {
      if (before[start] === Infinity) continue;
      let width = 0;
      for (let end = start + 1; end <= count && end <= start + MOST; end++) {
        const word = words[end - 1];
        width += word.width;
        const whole = word.hyphen && !word.isLast ? width + hyphen : width;
        const off = (whole - target) / scale;
        let cost = before[start] + off * off + (end === start + 1 ? alone : 0);
        if (whole > limit) cost += TOO_LONG * (1 + (whole - limit) / scale);
        if (cost < row[end]) {
          row[end] = cost;
          back[end] = start;
        }
        if (word.isLast || whole > LONGEST * scale) break;
        width += word.space;
      }
    }
  }
  const cost = best[lines][count];
  if (cost === Infinity) return undefined;
  const found: [number, number][] = [];
  for (let line = lines - 1, end = count; line >= 0; line--) {
    const start = from[line][end];
    found.unshift([start, end]);
    end = start;
  }
  return { lines: found, cost };
}

/** Lines longer than so many times the longest one wanted are not looked at. */
const LONGEST = 2;

/** Whether words go into lines no longer than these, a line being filled before the next is begun. */
export function fitInto(words: readonly Word[], most: readonly number[], hyphen: number): boolean {
  let next = 0;
  for (const limit of most) {
    if (next === words.length) return false;
    let width = 0;
    // The last word after which a line may end here; a soft hyphen takes room only where it does.
    let end = next;
    for (let k = next; k < words.length; k++) {
      const { width: own, space, isLast, hyphen: broken } = words[k];
      width += own;
      if (width > limit + 1e-6) break;
      if (!broken || isLast || width + hyphen <= limit + 1e-6) end = k + 1;
      if (isLast) break;
      width += space;
    }
    if (end === next) return false;
    next = end;
  }
  return next === words.length;
}

/** Whether lines are within what they may be. */
export const isWithin = ({ cost }: Lines): boolean => cost < TOO_LONG;
