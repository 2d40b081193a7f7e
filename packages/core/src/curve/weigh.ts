import { cutAtLengths } from './reweigh';
import { segmentLengths } from './length';
import { SEGMENT, type Spine } from './spine';

/**
 * The same course with widths given by the length along it, page px. `marks` are the lengths, rising, where the width
 * bends: nodes are added there, so that cubics can follow it.
 */
export function weighedBy(spine: Spine, marks: readonly number[], widthAt: (along: number) => number): Spine {
  const { points, ways } = cutAtLengths(spine, segmentLengths(spine), marks, 1e-6);
  const at = (along: number) => Math.max(0, widthAt(along));
  let along = 0;
  let before = at(0);
  points[2] = before;
  for (let i = 0, k = 0; i + SEGMENT < points.length; i += SEGMENT, k++) {
    const way = ways[k];
    const after = at(along + way);
    // The cubic through four of its values.
    const third = at(along + way / 3);
    const twoThirds = at(along + (2 * way) / 3);
    points[i + 5] = Math.max(0, (18 * third - 9 * twoThirds - 5 * before + 2 * after) / 6);
    points[i + 8] = Math.max(0, (18 * twoThirds - 9 * third - 5 * after + 2 * before) / 6);
    points[i + 11] = after;
    before = after;
    along += way;
  }
  return { points, closed: spine.closed };
}
