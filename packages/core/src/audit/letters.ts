import { flatRing } from '../area';
import { balloonRings } from '../balloon';
import { markBox } from '../drawn';
import type { FontFaces, LetteringEntity } from '../lettering';
import { boxCorners, boxHolds, boxMiddle, clippedSegment, growBox, localScaleOf, windingOf, type Point } from '../math';
import { find, mmToPx, ofKind, pxToPt, trimBox, type Page } from '../page';
import type { Finding, PressSettings } from './finding';

/** mm as printed that letters keep from where the page is cut (common practice). */
const CLEAR_MM = 3;

/** mm as printed that letters in a balloon keep from a border that is seen (common practice). */
const BORDER_MM = 1;

/** What is wrong with lettering: too small, too near to the cut, out of its balloon, in a font that is not there. */
export function* letters(
  page: Page,
  texts: readonly LetteringEntity[],
  { scale, leastPt, fonts }: PressSettings,
): Generator<Finding> {
  const { ppi } = page.size;
  const trim = trimBox(page);
  const clear = growBox(trim, -mmToPx(CLEAR_MM, ppi) / scale);
  for (const text of texts) {
    const box = markBox(text);
    const at = boxMiddle(box);
    const found = (kind: Finding['kind'], words: string): Finding => ({ id: `${kind}:${text.id}`, kind, at, words });
    const pt = pxToPt(text.style.size * localScaleOf(text.place, 0, 0), ppi) * scale;
    if (pt < leastPt - 0.05)
      yield found(
        'small letters',
        `“${begun(text)}” is set in ${pt.toFixed(1)} pt; less than ${leastPt} pt is hard to read.`,
      );
    // A sound may run over the cut; what somebody says may not.
    if (!boxHolds(trim, box) && text.fit.as === 'balloon')
      yield found('letters at the edge', `“${begun(text)}” goes over where the page is cut.`);
    else if (boxHolds(trim, box) && !boxHolds(clear, box))
      yield found('letters at the edge', `“${begun(text)}” comes nearer than ${CLEAR_MM} mm to where the page is cut.`);
    if (nearBorder(page, text, mmToPx(BORDER_MM, ppi) / scale))
      yield found(
        'letters at the edge',
        `“${begun(text)}” comes nearer than ${BORDER_MM} mm to the border of a panel.`,
      );
    if (overflows(page, text)) yield found('letters overflow', `“${begun(text)}” does not fit into its balloon.`);
    const missing = fonts && facesOf(text.style.fonts).find(({ sha256 }) => !fonts.has(sha256));
    if (missing)
      yield found(
        'font missing',
        `“${begun(text)}” is set in ${missing.name}, which is not on this desk: it stands, but cannot be set anew.`,
      );
  }
}

const facesOf = ({ plain, bold, italic, boldItalic }: FontFaces) =>
  [plain, bold, italic, boldItalic].flatMap((face) => face ?? []);

/** The first words of a text. */
function begun({ runs }: LetteringEntity): string {
  const words = runs
    .map(({ text }) => text)
    .join('')
    .replace(/\s+/g, ' ')
    .trim();
  return words.length > 24 ? `${words.slice(0, 22).trimEnd()}…` : words;
}

/** Page px by which a balloon's outline may stray where it is asked what lies in it. */
const LOOSE = 0.5;

/** Whether a border of a panel that its balloon does not cover comes nearer than so many page px to a text. */
function nearBorder(page: Page, text: LetteringEntity, by: number): boolean {
  const isOut = outOfBalloon(page, text);
  if (!isOut) return false;
  const near = growBox(markBox(text), by);
  return ofKind(page, 'panel').some(({ ring }) => {
    const flat = flatRing(ring, LOOSE);
    for (let i = 0, j = flat.length - 2; i < flat.length; j = i, i += 2) {
      const part = clippedSegment(near, { x: flat[j], y: flat[j + 1] }, { x: flat[i], y: flat[i + 1] });
      if (part && isOut({ x: (part[0].x + part[1].x) / 2, y: (part[0].y + part[1].y) / 2 })) return true;
    }
    return false;
  });
}

/** Tells of places whether they lie outside of a text's balloon; nothing where it has none. */
function outOfBalloon(page: Page, { fit }: LetteringEntity): ((at: Point) => boolean) | undefined {
  const balloon = fit.as === 'balloon' ? find(page, 'balloon', fit.balloonId) : undefined;
  if (!balloon) return undefined;
  const rings = balloonRings(balloon, LOOSE);
  return (at) => rings.reduce((sum, ring) => sum + windingOf(ring, at), 0) === 0;
}

/** Whether a corner of what is lettered lies outside of its balloon. */
function overflows(page: Page, text: LetteringEntity): boolean {
  const isOut = outOfBalloon(page, text);
  if (!isOut) return false;
  const box = markBox(text);
  const { minX, minY, maxX, maxY } = box;
  // Lines are widest in the middle: the corners of their box may lie outside of a round balloon.
  const { x, y } = boxMiddle(box);
  const middles = [
    { x: minX, y },
    { x: maxX, y },
    { x, y: minY },
    { x, y: maxY },
  ];
  return middles.some(isOut) || boxCorners(growBox(box, -0.25 * Math.min(maxX - minX, maxY - minY))).some(isOut);
}
