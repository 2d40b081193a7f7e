import { ownBody, resizedBody, type Body, type BodyShape } from '../balloon';
import { identity } from '../math';
import type { LetterRun, LetterStyle } from '../lettering';
import { isTooLarge, laidOut, measured, type Measured, type Setting } from './set';
import type { ReadFonts } from './words';

/** How wide to high a balloon looks best with letters in it (common practice). */
const ASPECT = 1.5;

/** A body that fits a text, and the text set into it. */
export interface FittedBody {
  readonly width: number;
  readonly height: number;
  readonly setting: Setting;
}

/**
 * The smallest body of a shape that holds a text with so much air round it, page px: breaks are chosen with it, so that lines swell to
 * the middle of an oval and are even in a box.
 */
export function fittedBody(
  runs: readonly LetterRun[],
  style: LetterStyle,
  fonts: ReadFonts,
  { shape, air, ring }: { readonly shape: BodyShape; readonly air: number; readonly ring?: Body['ring'] },
): FittedBody {
  const text = measured(runs, style, fonts);
  const whole = laidOut(text, { as: 'free' });
  const step = style.leading * style.size;
  // As large as the text would be in a body of the best proportion, and on from there.
  const area = Math.max(whole.set.width * whole.lines * step, step * step);
  let best: FittedBody | undefined;
  let least = Infinity;
  const own = ring && proportionOf(ring);
  for (const aspect of own ? [own] : [ASPECT * 0.7, ASPECT, ASPECT * 1.4, ASPECT * 2]) {
    const found = smallest(text, { shape, air, ring, aspect, from: Math.sqrt(area / aspect) });
    const cost = found.width * found.height * (1 + 0.25 * Math.abs(Math.log(found.width / found.height / ASPECT)));
    if (cost < least) [best, least] = [found, cost];
  }
  return best ?? { width: whole.set.width, height: whole.set.height, setting: whole };
}

interface Wanted {
  readonly shape: BodyShape;
  readonly air: number;
  readonly ring: Body['ring'] | undefined;
  /** Width to height. */
  readonly aspect: number;
  /** A height to begin with. */
  readonly from: number;
}

/** The smallest body of one proportion that a text fits into. */
function smallest(text: Measured, { shape, air, ring, aspect, from }: Wanted): FittedBody {
  const plain: Body = { shape, width: aspect, height: 1, place: identity };
  const own = ring && ownBody(ring);
  const bodyOf = (height: number): Body => resizedBody(own ?? plain, { width: height * aspect, height });
  const isTight = (height: number) => isTooLarge(text, bodyOf(height), air);
  let high = Math.max(from, 2 * air + text.style.size);
  for (let step = 0; isTight(high) && step < 24; step++) high *= 1.25;
  let low = high / 1.25;
  for (let step = 0; step < 6; step++) {
    const middle = (low + high) / 2;
    if (isTight(middle)) low = middle;
    else high = middle;
  }
  const body = bodyOf(high);
  const setting = laidOut(text, { as: 'body', body, air });
  const found: FittedBody = { width: body.width, height: body.height, setting };
  // Corners that are rounded would come too near to letters that fill a box.
  return shape === 'box' ? shrunk(found, air) : found;
}

/** A box as small as its letters let it be. */
function shrunk({ setting, height }: FittedBody, air: number): FittedBody {
  const { width, height: own } = setting.set;
  return { width: Math.max(width + 2 * air, 1), height: Math.max(own + 2 * air, Math.min(1, height)), setting };
}

function proportionOf(ring: NonNullable<Body['ring']>): number {
  const { width, height } = ownBody(ring);
  return width / height;
}
