import { bodyMiddle } from '@true-nib/core/balloon';
import {
  balloonsOn,
  copyLetters,
  letteringOn,
  middleOfText,
  moveLetters,
  restackLetters,
  type StackEnd,
} from '@true-nib/core/comic';
import type { EntityId } from '@true-nib/core/kind';
import { about, projectiveOf, rotation, type Point } from '@true-nib/core/math';
import { draftChange, find, mmToPx, type Page } from '@true-nib/core/page';
import type { Board } from '../../board';
import { letterSlot } from './letterHand';
import { newId } from '../../session';
import { setLetters, useLetters } from './letterStore';

/** Puts what is chosen over all other lettering, or under it. */
export function restackChosen(board: Board, end: StackEnd): void {
  board.of(letterSlot).settle();
  board.session.attempt((page) => restackLetters(page, useLetters.getState().chosen, end));
}

/** mm by which a copy lies beside what it is a copy of. */
const BESIDE_MM = 6;

/** Copies what is chosen, and chooses the copies. */
export function copyChosen(board: Board): void {
  board.of(letterSlot).settle();
  const { session } = board;
  const by = mmToPx(BESIDE_MM, session.page.size.ppi);
  const known = new Set([...balloonsOn(session.page), ...letteringOn(session.page)].map(({ id }) => id));
  session.attempt((page) => copyLetters(page, useLetters.getState().chosen, { x: by, y: by }, newId));
  const copies = [
    ...balloonsOn(session.page),
    ...letteringOn(session.page).filter(({ fit }) => fit.as !== 'balloon'),
  ].filter(({ id }) => !known.has(id));
  setLetters({ chosen: copies.map(({ id }) => id), isNew: false, trouble: undefined });
}

/** About which place something that is chosen turns, and how far it is turned: radians. */
export function turnOf(
  page: Page,
  id: EntityId | undefined,
): { readonly angle: number; readonly middle: Point } | undefined {
  if (id === undefined) return undefined;
  const body = find(page, 'balloon', id)?.bodies[0];
  if (body) return { angle: Math.atan2(body.place[1], body.place[0]), middle: bodyMiddle(body) };
  const text = find(page, 'lettering', id);
  return text && { angle: Math.atan2(text.place[3], text.place[0]), middle: middleOfText(text) };
}

/** Turns all that is chosen about the middle of the first of it. */
export function turnChosen(
  board: Board,
  { angle, middle }: { readonly angle: number; readonly middle: Point },
  to: number,
): void {
  board.of(letterSlot).settle();
  const map = projectiveOf(about(middle, rotation(to - angle)));
  board.session.attempt((page) =>
    draftChange('Turn the lettering', moveLetters(page, useLetters.getState().chosen, map)),
  );
}
