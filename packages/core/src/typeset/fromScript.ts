import type { Balloon } from '../balloon';
import { newBalloon, tailTo, type NewLetters } from '../comic';
import { runsFrom, type LetterStyle } from '../lettering';
import { boxOfFlat, projectiveOf, rotation, then, translation, type Box, type Point } from '../math';
import { mmToPx, type Page } from '../page';
import type { PanelEntity } from '../panel';
import { freeText, textInBody } from './relettered';
import type { ScriptLine } from './script';
import type { ReadFonts } from './words';

/** mm of air round text in a balloon, and between a balloon and the border. */
const AIR_MM = 2;
const INSET_MM = 2.5;
/** How much larger sounds are than speech. */
const LOUD = 2.4;

/** What a script is lettered with: speech, and sounds. */
export interface ScriptFonts {
  readonly style: LetterStyle;
  readonly fonts: ReadFonts;
  readonly soundStyle: LetterStyle;
  readonly soundFonts: ReadFonts;
}

/**
 * Balloons, captions and sounds for the lines of a script, in the panels of a page as they are read: from the top of each panel down,
 * to the left and to the right by turns, tails towards the foot of the panel. They are to be moved. Lines for panels that are not there
 * go to the last one.
 */
export function scriptToBalloons(
  page: Page,
  panels: readonly PanelEntity[],
  lines: readonly ScriptLine[],
  how: ScriptFonts,
): NewLetters[] {
  const whole: Box = { minX: 0, minY: 0, maxX: page.size.width, maxY: page.size.height };
  const last = Math.max(1, panels.length);
  const below = new Map<number, number>();
  const count = new Map<number, number>();
  return lines.map((line): NewLetters => {
    const number = Math.min(last, Math.max(1, line.panel));
    const panel = panels[number - 1];
    const box = panel ? boxOfFlat(panel.ring.points, 3) : whole;
    const turn = count.get(number) ?? 0;
    count.set(number, turn + 1);
    const top = below.get(number) ?? box.minY + mmToPx(INSET_MM, page.size.ppi);
    const made = letters(page, line, { box, top, isLeft: turn % 2 === 0 }, how);
    below.set(number, made.bottom + mmToPx(INSET_MM / 2, page.size.ppi));
    return { ...made.letters, ...(panel && { panelId: panel.id }) };
  });
}

interface Room {
  readonly box: Box;
  readonly top: number;
  readonly isLeft: boolean;
}

function letters(
  { size: { ppi } }: Page,
  { as, text }: ScriptLine,
  { box, top, isLeft }: Room,
  { style, fonts, soundStyle, soundFonts }: ScriptFonts,
): { readonly letters: NewLetters; readonly bottom: number } {
  const inset = mmToPx(INSET_MM, ppi);
  const runs = runsFrom(text);
  const middle = { x: (box.minX + box.maxX) / 2, y: (box.minY + box.maxY) / 2 };
  if (as === 'sound') {
    const loud = { ...soundStyle, size: soundStyle.size * LOUD };
    const { text: laid } = freeText({ runs, style: loud }, soundFonts, middle);
    const turned = projectiveOf(then(rotation(-0.12), translation(middle.x, middle.y)));
    return { letters: { texts: [{ ...laid, place: turned }] }, bottom: top };
  }
  const shape = as === 'caption' ? 'box' : as === 'thought' ? 'cloud' : 'oval';
  const air = mmToPx(as === 'caption' ? AIR_MM * 0.8 : AIR_MM, ppi);
  const { body, text: laid } = textInBody({ runs, style }, fonts, { shape, air, at: middle });
  const { width, height } = body;
  const at: Point = {
    x: isLeft ? Math.min(box.minX + inset + width / 2, middle.x) : Math.max(box.maxX - inset - width / 2, middle.x),
    y: top + height / 2,
  };
  const place = translation(at.x, at.y);
  const bodies = [{ ...body, place }];
  const tip = { x: at.x + (middle.x - at.x) * 0.5, y: Math.min(box.maxY - inset, at.y + height / 2 + mmToPx(9, ppi)) };
  const balloon: Balloon = {
    ...newBalloon(bodies[0], 'none', ppi),
    tails: as === 'caption' ? [] : [tailTo({ bodies }, tip, as === 'thought' ? 'bubbles' : 'pointed')],
  };
  return { letters: { balloon, texts: [{ ...laid, place: projectiveOf(place) }] }, bottom: top + height };
}
