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
