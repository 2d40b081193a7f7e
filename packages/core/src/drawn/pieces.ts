import { SEGMENT, spineBox, STRIDE, type Spine } from '../curve';
import { sameValue } from '../gate';
import { boxArea, boxesMeet, emptyBox, uniteBoxes, type Box } from '../math';
import type { Stroke, StrokeEntity } from '../stroke';

const boxes = new WeakMap<Spine, Box>();

/** Where a stroke's ink lies; the same box for the same spine. */
export function strokeBox({ spine }: Stroke): Box {
  let box = boxes.get(spine);
  if (!box) boxes.set(spine, (box = spineBox(spine)));
  return box;
}

/** Small boxes that together hold all of a stroke's ink, so that a long stroke does not dirty the page. */
export function inkBoxes(stroke: Stroke, segmentsEach = 4): Box[] {
  const { points } = stroke.spine;
  const pieces: Box[] = [];
  for (let i = 0; i + SEGMENT < points.length; i += SEGMENT * segmentsEach)
    pieces.push(spineBox({ points: points.subarray(i, i + SEGMENT * segmentsEach + 3), closed: false }));
  return merged(pieces);
}

/**
 * Small boxes that together hold all of the ink in which a stroke differs from what it was, if it was there: cubics at either
 * end of it that stayed as they were are left out.
 */
export function changedInk(before: StrokeEntity, after: StrokeEntity): Box[] {
  if (!isLocal(before, after)) return [before, after].flatMap((stroke) => inkBoxes(stroke));
  const [p, q] = [before.spine.points, after.spine.points];
  const most = Math.min(p.length, q.length) - SEGMENT - STRIDE;
  let head = 0;
  while (head < most && p[head] === q[head]) head++;
  let tail = 0;
  while (tail < most - head && p[p.length - 1 - tail] === q[q.length - 1 - tail]) tail++;
  const [from, left] = [head - (head % SEGMENT), tail - (tail % SEGMENT)];
  const part = (stroke: StrokeEntity): StrokeEntity => {
    const points = stroke.spine.points.subarray(from, stroke.spine.points.length - left);
    return { ...stroke, spine: { points, closed: false } };
  };
  return [...inkBoxes(part(before)), ...inkBoxes(part(after))];
}

/** Whether two strokes look the same wherever their courses are: neither stands elsewhere, and no grain goes on along them. */
const isLocal = (before: StrokeEntity, after: StrokeEntity): boolean =>
  !before.spine.closed &&
  !after.spine.closed &&
  !before.fills &&
  !before.nib.edge &&
  before.layerId === after.layerId &&
  before.order === after.order &&
  sameValue(before.nib, after.nib) &&
  sameValue(before.ends, after.ends);

/** Joins neighbouring boxes while the joint box is not much larger than the two. */
function merged(pieces: readonly Box[]): Box[] {
  const result: Box[] = [];
  let current: Box = emptyBox;
  for (const piece of pieces) {
    const joint = uniteBoxes(current, piece);
    if (current === emptyBox) current = piece;
    else if (boxesMeet(current, piece) && boxArea(joint) <= 1.5 * (boxArea(current) + boxArea(piece))) current = joint;
    else {
      result.push(current);
      current = piece;
    }
  }
  if (current !== emptyBox) result.push(current);
  return result;
}
