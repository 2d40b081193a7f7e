import { cutAtLengths } from './reweigh';
import { segmentLengths } from './length';
import { SEGMENT, STRIDE, type Spine } from './spine';

/** The same course as wide everywhere. */
export function evenlyWide({ points: old, closed }: Spine, width: number): Spine {
  const points = old.slice();
  for (let i = 2; i < points.length; i += STRIDE) points[i] = width;
  return { points, closed };
}

/** Widths along a line by the length along it, page px, and by how much they grow there in a px. */
export interface WidthLaw {
  widthAt(along: number): number;
  wideningAt(along: number): number;
}

/**
 * The same course with other widths. `marks` are the lengths, rising, between which a cubic follows them: nodes are added
 * there, on both sides of which the line widens alike.
 */
export function weighedBy(spine: Spine, marks: readonly number[], { widthAt, wideningAt }: WidthLaw): Spine {
  const { points, ways } = cutAtLengths(spine, segmentLengths(spine), marks, 1e-6);
  const reach = (i: number) => Math.hypot(points[i + 3] - points[i], points[i + 4] - points[i + 1]);
  let along = 0;
  points[2] = Math.max(0, widthAt(0));
  for (let i = 0, k = 0; i + SEGMENT < points.length; i += SEGMENT, k++) {
    points[i + 5] = Math.max(0, points[i + 2] + wideningAt(along) * reach(i));
    along += ways[k];
    points[i + 11] = Math.max(0, widthAt(along));
    points[i + 8] = Math.max(0, points[i + 11] - wideningAt(along) * reach(i + 6));
  }
  return { points, closed: spine.closed };
}
