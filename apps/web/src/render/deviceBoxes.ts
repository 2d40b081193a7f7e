import { growBox, intersectBoxes, isEmptyBox, mapBox, type Box, type Matrix } from '@true-nib/core/math';
import { wholePx } from './liveInk';

/** Boxes that are looked at each with each; of more, only the same ones are told. */
const MOST_COMPARED = 80;

/** Page boxes as whole device px within the canvas; those inside another are left out. */
export function deviceBoxes(boxes: readonly Box[], map: Matrix, canvas: Box): Box[] {
  const device = boxes
    .map((box) => intersectBoxes(wholePx(growBox(mapBox(map, box), 2)), canvas))
    .filter((box) => !isEmptyBox(box));
  if (device.length > MOST_COMPARED)
    return [...new Map(device.map((box) => [Object.values(box).join(), box])).values()];
  const holds = (a: Box, b: Box) => a.minX <= b.minX && a.minY <= b.minY && a.maxX >= b.maxX && a.maxY >= b.maxY;
  return device.filter(
    (box, k) => !device.some((other, j) => j !== k && holds(other, box) && (!holds(box, other) || j < k)),
  );
}
