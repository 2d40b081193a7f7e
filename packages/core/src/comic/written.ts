import { holdOf } from '../drawn';
import { typedFrom, type LetteringEntity } from '../lettering';
import { boxMiddle } from '../math';
import { find, sheetOf, type Page, type Reading } from '../page';
import { letteringOn } from './balloons';
import { readingOrder } from './order';
import { panelsOn } from './panels';

/** How words reach a reader: said, thought, told, or heard. */
export type Voice = 'speech' | 'thought' | 'caption' | 'sound';

/** A text of a page with where it is read. */
export interface Written {
  readonly text: LetteringEntity;
  /** The place of its panel in the reading order, from 1 on; 0 where it lies in none. */
  readonly panel: number;
  readonly voice: Voice;
}

/** All texts of a page as they are read: panel by panel, and within a panel row by row. Those in no panel come first. */
export function writtenOn(page: Page): Written[] {
  const { reads } = sheetOf(page);
  const numbers = new Map(readingOrder(panelsOn(page), reads).map(({ id }, k) => [id, k + 1]));
  const panels = new Map<number, LetteringEntity[]>();
  for (const text of letteringOn(page)) {
    const panel = (text.panelId === undefined ? undefined : numbers.get(text.panelId)) ?? 0;
    panels.set(panel, [...(panels.get(panel) ?? []), text]);
  }
  return [...panels]
    .sort(([a], [b]) => a - b)
    .flatMap(([panel, texts]) => inRows(texts, reads).map((text) => ({ text, panel, voice: voiceOf(page, text) })));
}

/** Texts row by row from the top: whatever has its middle beside the highest one stands in a row with it. */
function inRows(texts: readonly LetteringEntity[], reads: Reading): LetteringEntity[] {
  const turn = reads === 'left to right' ? 1 : -1;
  let left = texts.map((text) => {
    const box = holdOf(text);
    return { text, box, middle: boxMiddle(box) };
  });
  left.sort((a, b) => a.box.minY - b.box.minY);
  const order: LetteringEntity[] = [];
  while (left.length > 0) {
    const { maxY } = left[0].box;
    const row = left.filter(({ middle }, k) => k === 0 || middle.y < maxY);
    row.sort((a, b) => turn * (a.middle.x - b.middle.x));
    order.push(...row.map(({ text }) => text));
    left = left.filter((one) => !row.includes(one));
  }
  return order;
}

/** What a text is by what it stands in: a box without a tail tells, bubbles think, and what stands in nothing is heard. */
function voiceOf(page: Page, { fit }: LetteringEntity): Voice {
  const balloon = fit.as === 'balloon' ? find(page, 'balloon', fit.balloonId) : undefined;
  if (fit.as !== 'balloon' || !balloon) return 'sound';
  if (balloon.tails.some(({ kind }) => kind === 'bubbles')) return 'thought';
  return balloon.tails.length === 0 && balloon.bodies[fit.body]?.shape === 'box' ? 'caption' : 'speech';
}

/** What a line of the text file begins with. */
const NAMES: Readonly<Record<Voice, string>> = {
  speech: 'SPEECH',
  thought: 'SPEECH (thinks)',
  caption: 'CAPTION',
  sound: 'SOUND',
};

/** The texts of pages as a script that can be pasted again, page by page: `PANEL 2`, `SPEECH: Last boat tonight.` */
export function writtenAsText(
  pages: readonly { readonly name: string; readonly written: readonly Written[] }[],
): string {
  const parts = pages.map(({ name, written }, k) => {
    const lines = [`PAGE ${k + 1} — ${name}`, ''];
    let last = 0;
    for (const { text, panel, voice } of written) {
      if (panel !== last) lines.push(`PANEL ${panel}`);
      last = panel;
      lines.push(`${NAMES[voice]}: ${typedFrom(text.runs).replaceAll(/\s+/g, ' ').trim()}`);
    }
    return lines.join('\n');
  });
  return `${parts.join('\n\n')}\n`;
}
