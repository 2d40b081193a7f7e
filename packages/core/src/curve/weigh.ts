import { cutAtLengths, innerValues } from './reweigh';
import { segmentLengths } from './length';
import { SEGMENT, STRIDE, type Spine } from './spine';

/** The same course as wide everywhere. */
export function evenlyWide({ points: old, closed }: Spine, width: number): Spine {
  const points = old.slice();
  for (let i = 2; i < points.length; i += STRIDE) points[i] = width;
  return { points, closed };
}

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
    const [first, second] = innerValues(before, at(along + way / 3), at(along + (2 * way) / 3), after);
    points[i + 5] = first;
    points[i + 8] = second;
    points[i + 11] = after;
    before = after;
    along += way;
  }
  return { points, closed: spine.closed };
}
