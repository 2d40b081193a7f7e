import type { AreaEntity } from '../area';
import { mapSpine, STRIDE, type Spine } from '../curve';
import { PageError } from '../gate';
import { planeHomography, type FramePlane, type FrameShape } from '../guides';
import { laidOf, type EntityId } from '../kind';
import { letterRings, type LetterFit, type LetteringEntity } from '../lettering';
import {
  applyProjective,
  boxMiddle,
  boxOfFlat,
  projectiveOf,
  translation,
  withoutRings,
  type Matrix3x3,
  type Point,
} from '../math';
import { ringsFrom } from '../mend';
import { draftChange, find, type Change, type Page } from '../page';

/** Page px that blots of letters may stray from them. */
const STRAY = 0.02;

/** Where the middle of a text lies on the page. */
export const middleOfText = ({ place }: Pick<LetteringEntity, 'place'>): Point => applyProjective(place, 0, 0);

/**
 * The place of a text that lies on a plane of a frame, about the same middle and as large there as it is set; or flat on the page.
 * Throws a PageError where the plane is seen edge on.
 */
export function placeOnPlane(
  page: Page,
  text: Pick<LetteringEntity, 'place'>,
  on: { readonly frame: FrameShape; readonly plane: FramePlane } | undefined,
): Matrix3x3 {
  const middle = middleOfText(text);
  return on ? planeHomography(on.frame, on.plane, middle, page.size) : projectiveOf(translation(middle.x, middle.y));
}

/** How a text stands along a course of the page: the course about its own middle, and where that lies. */
export function alongCourse(course: Spine): { readonly fit: LetterFit; readonly place: Matrix3x3 } {
  const { x, y } = boxMiddle(boxOfFlat(course.points, STRIDE));
  return {
    fit: { as: 'course', course: mapSpine(course, translation(-x, -y)) },
    place: projectiveOf(translation(x, y)),
  };
}

/** Makes a blot of a text, as a change: its letters are mended as any other blot, and are no words any more. */
export function lettersToBlot(page: Page, id: EntityId, newId: () => EntityId): Change {
  const text = find(page, 'lettering', id);
  if (!text) throw new PageError('This text is no longer on the page.');
  const rings = ringsFrom(withoutRings(letterRings(text.set, text.place, STRAY), []));
  if (rings.length === 0) throw new PageError('There are no letters in this text.');
  const fill = { as: 'colour', color: text.style.color } as const;
  const after: AreaEntity = { kind: 'area', ...laidOf(text), id: newId(), rings, fill };
  return draftChange('Letters to a blot', [
    { before: text, after: null },
    { before: null, after },
  ]);
}
