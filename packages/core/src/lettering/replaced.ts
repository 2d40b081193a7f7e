import type { LetterRun } from './types';

/** What is looked for in a text. */
export interface Sought {
  readonly words: string;
  /** Capitals and small letters are told apart. */
  readonly asWritten?: boolean;
  /** Not within a longer word. */
  readonly whole?: boolean;
}

/** Letters from one place of a text to another, counted as JavaScript does. */
export type Stretch = readonly [from: number, to: number];

export const textOfRuns = (runs: readonly LetterRun[]): string => runs.map(({ text }) => text).join('');

/** What words are made of. */
const LETTER = String.raw`[\p{L}\p{M}\p{N}]`;

/** Where words stand in a text, in whatever runs they do; a space stands for a break of lines too. Nothing is found twice. */
export function foundIn(runs: readonly LetterRun[], { words, asWritten = false, whole = false }: Sought): Stretch[] {
  if (words === '') return [];
  const literal = words.replaceAll(/[\\^$.*+?()[\]{}|/]/g, String.raw`\$&`).replaceAll(/\s+/g, String.raw`\s+`);
  const source = whole ? `(?<!${LETTER})${literal}(?!${LETTER})` : literal;
  const pattern = new RegExp(source, asWritten ? 'gu' : 'giu');
  return [...textOfRuns(runs).matchAll(pattern)].map(({ 0: { length }, index }) => [index, index + length]);
}

/** A text with words replaced wherever they are found; they look as the first letter did that they stand for. */
export function replacedIn(runs: readonly LetterRun[], sought: Sought, words: string): LetterRun[] {
  const places = foundIn(runs, sought);
  const made: LetterRun[] = [];
  let [at, next] = [0, 0];
  for (const run of runs) {
    const end = at + run.text.length;
    let [from, text] = [at, ''];
    // A place that began in an earlier run goes on into this one, and leaves nothing of its own there.
    while (next < places.length && places[next][0] < end) {
      const [start, stop] = places[next];
      text += run.text.slice(from - at, Math.max(from, start) - at);
      if (start >= at) text += words;
      from = Math.min(stop, end);
      if (stop > end) break;
      next++;
    }
    text += run.text.slice(from - at);
    if (text !== '') made.push({ ...run, text });
    at = end;
  }
  return made;
}
