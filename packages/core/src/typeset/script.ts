import type { Voice } from '../comic';
import { PageError } from '../gate';

/** What is said, or told, or heard in a panel. */
export interface ScriptLine {
  /** The panel that it belongs to, from 1 on. */
  readonly panel: number;
  readonly as: Voice;
  /** Who says it; empty for captions and sounds. */
  readonly who: string;
  readonly text: string;
}

/** Letters that a script may have: some 60 pages. */
const MOST = 200_000;
/** Lines that one page takes. */
const MOST_LINES = 400;

/**
 * Reads a script: `PANEL 2` begins a panel, `NAME: text` is said, `NAME (thinks): text` is thought, `CAPTION: text` is told and
 * `SOUND: text` (or `SFX:`) is heard. Names stand in capitals: what describes the
 * picture is left out. A line without a name goes on with the last one.
 * Throws a PageError for a text that is too long, or in which nothing is said.
 */
export function readScript(text: string): ScriptLine[] {
  if (text.length > MOST) throw new PageError('A script may have 200,000 letters. Paste one page at a time.');
  const lines: ScriptLine[] = [];
  let panel = 1;
  let isOpen = false;
  for (const raw of text.split(/\r\n?|\n/)) {
    const line = raw.trim();
    const begins = /^(?:PANEL|FRAME)\s+(\d{1,3})\b/i.exec(line);
    const says = /^([\p{Lu}\d][\p{Lu}\d .'’-]{0,40}?)\s*(\(([^)]{1,40})\))?\s*:\s*(.+)$/u.exec(line);
    if (begins) panel = Number(begins[1]) || 1;
    else if (says) lines.push(spoken(panel, says[1], says[3] ?? '', says[4]));
    else if (line !== '' && isOpen && lines.length > 0) {
      const last = lines[lines.length - 1];
      lines[lines.length - 1] = { ...last, text: `${last.text} ${line}` };
    }
    isOpen = !begins && line !== '' && (says !== null || isOpen);
    if (lines.length > MOST_LINES)
      throw new PageError('This is more than one page can hold. Paste one page at a time.');
  }
  if (lines.length === 0)
    throw new PageError(
      'Nothing is said in this script. Write “FERRYMAN: Last boat tonight.”, and PANEL 2 for the next panel.',
    );
  return lines;
}

function spoken(panel: number, name: string, how: string, text: string): ScriptLine {
  if (/^(caption|narrat)/i.test(name)) return { panel, as: 'caption', who: '', text };
  if (/^(sfx|sound|fx)\b/i.test(name)) return { panel, as: 'sound', who: '', text };
  return { panel, as: /think|thought/i.test(how) ? 'thought' : 'speech', who: name.trim(), text };
}
