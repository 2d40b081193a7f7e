import type { LetterRun } from './types';

/** A mark as it stands, where a backslash comes before it. */
const MARK = /\\[*_\\]|[*_]/g;

/**
 * Runs as they are typed: `*loud*` is bold, `_slanted_` italic, both may be nested; after a backslash a mark stands for itself. A mark
 * that nothing closes is a letter.
 */
export function runsFrom(typed: string): LetterRun[] {
  const runs: LetterRun[] = [];
  let [bold, italic] = [false, false];
  let text = '';
  const end = () => {
    if (text !== '') runs.push({ text, ...(bold && { bold }), ...(italic && { italic }) });
    text = '';
  };
  const marks = [...typed.matchAll(MARK)];
  let from = 0;
  marks.forEach(({ 0: mark, index }, k) => {
    text += typed.slice(from, index);
    from = index + mark.length;
    const isOn = mark === '*' ? bold : italic;
    const turns = mark.length === 1 && (isOn || marks.slice(k + 1).some(([later]) => later === mark));
    if (!turns) {
      text += mark.at(-1);
      return;
    }
    end();
    if (mark === '*') bold = !bold;
    else italic = !italic;
  });
  text += typed.slice(from);
  end();
  return runs;
}

/** Runs as they would be typed. */
export function typedFrom(runs: readonly LetterRun[]): string {
  let typed = '';
  let [bold, italic] = [false, false];
  const turnTo = (run: { readonly bold?: boolean; readonly italic?: boolean }) => {
    if (bold !== (run.bold ?? false)) typed += '*';
    if (italic !== (run.italic ?? false)) typed += '_';
    [bold, italic] = [run.bold ?? false, run.italic ?? false];
  };
  for (const run of runs) {
    turnTo(run);
    typed += run.text.replaceAll(/[*_\\]/g, String.raw`\$&`);
  }
  turnTo({});
  return typed;
}

/** A text as it is typed, with what is chosen in it: letters from one place to another. */
export interface TypedText {
  readonly typed: string;
  readonly from: number;
  readonly to: number;
}

/**
 * Puts a mark round what is chosen, or takes it away where it is there; where nothing is chosen, round the word that the place is in.
 * Answers the same words, chosen.
 */
export function marked({ typed, from, to }: TypedText, mark: '*' | '_'): TypedText {
  const [start, end] = from === to ? wordAt(typed, from) : [from, to];
  const words = typed.slice(start, end);
  if (typed[start - 1] === mark && typed[end] === mark)
    return {
      typed: `${typed.slice(0, start - 1)}${words}${typed.slice(end + 1)}`,
      from: start - 1,
      to: end - 1,
    };
  return { typed: `${typed.slice(0, start)}${mark}${words}${mark}${typed.slice(end)}`, from: start + 1, to: end + 1 };
}

const isLetter = (letter: string | undefined): boolean => letter !== undefined && /[\p{L}\p{M}\p{N}’']/u.test(letter);

function wordAt(typed: string, at: number): readonly [number, number] {
  let [start, end] = [at, at];
  while (isLetter(typed[start - 1])) start--;
  while (isLetter(typed[end])) end++;
  return [start, end];
}
