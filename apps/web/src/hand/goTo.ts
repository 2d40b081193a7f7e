import { apply, type Point } from '@true-nib/core/math';
import type { Board } from '../board';
import { panned, zoomedAt, zoomOf } from '../render';

/** CSS px per page px that a place is shown at, at least. */
const CLOSE = 1.5;

/** Shows a place of the page from near, in the middle of what is free of panels. */
export function goTo({ picture, hand }: Board, place: Point, close = CLOSE): void {
  const { width, height } = picture.free;
  const near = zoomedAt(picture.view, apply(picture.view, place), Math.max(1, close / zoomOf(picture.view)));
  const at = apply(near, place);
  hand.show(panned(near, width / 2 - at.x, height / 2 - at.y));
}
