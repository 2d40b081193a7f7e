import {
  bodyMiddle,
  directionTo,
  ownBody,
  placedOutlineAt,
  resizedBody,
  type Balloon,
  type Body,
  type Tail,
} from '../balloon';
import { PageError } from '../gate';
import type { EntityId } from '../kind';
import type { LetterFit, Lettering, LetteringEntity, LetterRun, LetterStyle } from '../lettering';
import { distance, projectiveOf, translation, type Matrix3x3, type Point } from '../math';
import { find, type Edit, type Page } from '../page';
import { fittedBody } from './fit';
import { setLettering, type Setting } from './set';
import type { ReadFonts } from './words';

/** A text before it is set. */
export interface Text {
  readonly runs: readonly LetterRun[];
  readonly style: LetterStyle;
}

/** A text with its balloon, or on its own, as it is to be laid down; and how it could be set. */
export interface LaidText {
  readonly text: Lettering;
  readonly body?: Body;
  readonly setting: Setting;
}

/** A balloon's body round a text, with so much air, about a place. */
export function textInBody(
  { runs, style }: Text,
  fonts: ReadFonts,
  {
    shape,
    air,
    at,
    ring,
  }: { readonly shape: Body['shape']; readonly air: number; readonly at: Point; readonly ring?: Body['ring'] },
): LaidText & { readonly body: Body } {
  const { width, height, setting } = fittedBody(runs, style, fonts, { shape, air, ...(ring && { ring }) });
  const place = translation(at.x, at.y);
  const plain: Body = { shape, width, height, place };
  const body = ring ? { ...resizedBody(ownBody(ring), { width, height }), place } : plain;
  const fit: LetterFit = { as: 'balloon', balloonId: '', body: 0, air, by: 'balloon' };
  return { body, setting, text: { runs, style, fit, place: projectiveOf(place), set: setting.set } };
}

/** A text of its own about a place. */
export function freeText(
  { runs, style }: Text,
  fonts: ReadFonts,
  at: Point,
  fit: LetterFit = { as: 'free' },
): LaidText {
  const setting = setLettering(runs, style, fonts, fit.as === 'balloon' ? { as: 'free' } : fit);
  return { setting, text: { runs, style, fit, place: projectiveOf(translation(at.x, at.y)), set: setting.set } };
}

/** What may be another for a text. */
export interface TextChange {
  readonly runs?: readonly LetterRun[];
  readonly style?: LetterStyle;
  readonly fit?: LetterFit;
  readonly place?: Matrix3x3;
}

/**
 * The edits by which a text of a page is set anew: where the balloon goes by its text, that is made to fit, else the text goes by the
 * balloon. Throws a PageError where the text is gone.
 */
export function relettered(
  page: Page,
  id: EntityId,
  change: TextChange,
  fonts: ReadFonts,
): { readonly edits: Edit[]; readonly setting: Setting } {
  const before = find(page, 'lettering', id);
  if (!before) throw new PageError('This text is no longer on the page.');
  const after: LetteringEntity = { ...before, ...change };
  const { fit } = after;
  const balloon = fit.as === 'balloon' ? find(page, 'balloon', fit.balloonId) : undefined;
  const body = fit.as === 'balloon' ? balloon?.bodies[fit.body] : undefined;
  if (fit.as !== 'balloon' || !balloon || !body) {
    const setting = setLettering(after.runs, after.style, fonts, fit.as === 'balloon' ? { as: 'free' } : fit);
    return { edits: [{ before, after: { ...after, set: setting.set } }], setting };
  }
  const scale = scaleOfBody(body);
  const air = fit.air / scale;
  const { style } = after;
  if (fit.by === 'letters') {
    const setting = setLettering(after.runs, style, fonts, { as: 'body', body, air });
    return { edits: [{ before, after: { ...after, set: setting.set, place: placeIn(body) } }], setting };
  }
  const fitted = fittedBody(after.runs, style, fonts, {
    shape: body.shape,
    air,
    ...(body.ring && { ring: body.ring }),
  });
  const larger = resizedBody(body, fitted);
  const bodies = balloon.bodies.map((one, k) => (k === fit.body ? larger : one));
  return {
    edits: [
      { before: balloon, after: { ...balloon, bodies, tails: keptOut(balloon, bodies, fit.body) } },
      { before, after: { ...after, set: fitted.setting.set, place: placeIn(larger) } },
    ],
    setting: fitted.setting,
  };
}

/** Tails whose tips a body has grown over, or nearly, stand out of it as far as they did. */
function keptOut({ bodies: old, tails }: Balloon, bodies: readonly Body[], index: number): readonly Tail[] {
  const [before, after] = [old[index], bodies[index]];
  const middle = bodyMiddle(after);
  return tails.map((tail) => {
    if (tail.body !== index) return tail;
    const direction = directionTo(after, tail.tip);
    const reach = (body: Body) => distance(middle, placedOutlineAt(body, direction));
    const away = distance(middle, tail.tip) || 1;
    const out = Math.max(away - reach(before), tail.width * LEAST_OUT);
    if (away >= reach(after) + out / 2) return tail;
    const share = (reach(after) + out) / away;
    return {
      ...tail,
      tip: { x: middle.x + (tail.tip.x - middle.x) * share, y: middle.y + (tail.tip.y - middle.y) * share },
    };
  });
}

/** How far a tip stands out at least, as a share of its tail's width. */
const LEAST_OUT = 0.8;

/** A text stands upright in its body: it turns with it. */
const placeIn = ({ place }: Body) => projectiveOf(place);

const scaleOfBody = ({ place: [a, b, c, d] }: Body): number => Math.sqrt(Math.abs(a * d - b * c)) || 1;
