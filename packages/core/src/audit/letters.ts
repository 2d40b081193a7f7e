import { balloonRings } from '../balloon';
import { markBox } from '../drawn';
import type { FontFaces, LetteringEntity } from '../lettering';
import { boxCorners, boxHolds, boxMiddle, growBox, localScaleOf, windingOf, type Point } from '../math';
import { find, mmToPx, pxToPt, trimBox, type Page } from '../page';
import type { Finding, PressSettings } from './finding';

/** mm as printed that letters keep from where the page is cut (common practice). */
const CLEAR_MM = 3;

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

/** Whether a corner of what is lettered lies outside of its balloon. */
function overflows(page: Page, text: LetteringEntity): boolean {
  if (text.fit.as !== 'balloon') return false;
  const balloon = find(page, 'balloon', text.fit.balloonId);
  if (!balloon) return false;
  const rings = balloonRings(balloon, LOOSE);
  const isOut = (at: Point) => rings.reduce((sum, ring) => sum + windingOf(ring, at), 0) === 0;
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
