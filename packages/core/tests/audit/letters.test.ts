import { PRESS_SETTINGS, pressCheck, type PressSettings } from '../../src/audit';
import { addLetters, addPanels, boxRing, newBalloon } from '../../src/comic';
import { markBox } from '../../src/drawn';
import { runsFrom, type LetterStyle } from '../../src/lettering';
import { box, type Point } from '../../src/math';
import { applyChange, newPage, ofKind, type Page } from '../../src/page';
import { textInBody, type ReadFonts } from '../../src/typeset';
import { adding, change, layer } from '../page/entities';
import { COMIC, fontNamed } from '../typeset/fonts';

const fonts: ReadFonts = { plain: fontNamed(COMIC) };
const SHA256 = 'ab'.repeat(32);
// 40 px at 300 an inch are 9.6 pt; 3 mm are 35 px, 1 mm is 12.
const style: LetterStyle = {
  fonts: { plain: { sha256: SHA256, name: 'Comic' } },
  ...{ size: 40, leading: 1.15, tracking: 0, align: 'middle', capitals: true, color: '#14161a' },
};

/** A page of one panel with a text in a balloon, so that the text begins at `left`, page px, or is about the middle of the page. */
function lettered({ left, air = 20 }: { readonly left?: number; readonly air?: number } = {}): Page {
  let count = 0;
  const newId = () => `n-${++count}`;
  const blank = applyChange(newPage({ width: 1600, height: 2400, ppi: 300 }), change(adding(layer('inks'))));
  const laid = applyChange(blank, addPanels(blank, [{ ring: boxRing(box(50, 50, 1550, 2350)) }], newId));
  const at = (place: Point): Page => {
    const { body, text } = textInBody({ runs: runsFrom('Low water'), style }, fonts, { shape: 'box', air, at: place });
    return applyChange(
      laid,
      addLetters(laid, [{ balloon: newBalloon(body, 'pointed', 300), texts: [text] }], 'Letter', newId),
    );
  };
  const middle = at({ x: 800, y: 1200 });
  if (left === undefined) return middle;
  const [text] = ofKind(middle, 'lettering');
  return at({ x: 800 - markBox(text).minX + left, y: 1200 });
}

const words = (page: Page, settings: Partial<PressSettings> = {}): readonly string[] =>
  pressCheck(page, { ...PRESS_SETTINGS, ...settings }).map((finding) => finding.words);

describe('A press check of lettering', () => {
  it('finds nothing where it is large enough, keeps clear of cuts and borders, and fits', () =>
    expect(words(lettered(), { fonts: new Set([SHA256]) })).toEqual([]));

  it('finds what is too small as it is printed', () =>
    expect(words(lettered(), { scale: 0.5 })).toEqual([
      '“Low water” is set in 4.8 pt; less than 5.5 pt is hard to read.',
    ]));

  it('finds what comes near to the cut, or goes over it', () => {
    expect(words(lettered({ left: 30 }))).toEqual(['“Low water” comes nearer than 3 mm to where the page is cut.']);
    expect(words(lettered({ left: -10 }))).toEqual(['“Low water” goes over where the page is cut.']);
  });

  it('finds what comes near to a border, unless its balloon covers that', () => {
    expect(words(lettered({ left: 58, air: 4 }))).toEqual([
      '“Low water” comes nearer than 1 mm to the border of a panel.',
    ]);
    expect(words(lettered({ left: 58 }))).toEqual([]);
    expect(words(lettered({ left: 70, air: 4 }))).toEqual([]);
  });

  it('finds what does not fit into its balloon', () => {
    const page = lettered();
    const [before] = ofKind(page, 'balloon');
    const bodies = before.bodies.map((body) => ({ ...body, width: body.width / 2 }));
    expect(words(applyChange(page, change([{ before, after: { ...before, bodies } }])))).toEqual([
      '“Low water” does not fit into its balloon.',
    ]);
  });

  it('finds what is coloured where black and white alone is asked for', () => {
    const page = lettered();
    const [before] = ofKind(page, 'lettering');
    const red = { ...before, style: { ...before.style, color: '#c02010' } };
    const coloured = applyChange(page, change([{ before, after: red }]));
    expect(words(page, { isOneBit: true })).toEqual([]);
    expect(words(coloured, { isOneBit: true })).toEqual([expect.stringContaining('a thing in grey or colour')]);
  });

  it('finds a font that is not at hand', () =>
    expect(words(lettered(), { fonts: new Set() })).toEqual([
      '“Low water” is set in Comic, which is not on this desk: it stands, but cannot be set anew.',
    ]));
});
