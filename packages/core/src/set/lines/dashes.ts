import { cutAtLengths, segmentLengths, SEGMENT, STRIDE, type Spine } from '../../curve';

/** A line as dashes with gaps as long: it begins and ends with one. */
export function dashed(course: Spine, dash: number): Spine[] {
  const lengths = segmentLengths(course);
  const whole = lengths.reduce((sum, own) => sum + own, 0);
  // An odd number of parts that are all alike.
  const parts = 2 * Math.max(0, Math.round((whole / dash - 1) / 2)) + 1;
  if (parts === 1) return [course];
  const step = whole / parts;
  const marks = Array.from({ length: parts - 1 }, (_, k) => (k + 1) * step);
  const { points, ways } = cutAtLengths(course, lengths, marks, 0);
  const dashes: Spine[] = [];
  let along = 0;
  let begun: number | undefined;
  for (let k = 0; k < ways.length; k++) {
    const isDash = Math.floor((along + ways[k] / 2) / step) % 2 === 0;
    if (isDash) begun ??= k;
    along += ways[k];
    const isEnd = k + 1 === ways.length || Math.floor((along + ways[k + 1] / 2) / step) % 2 === 1;
    if (begun === undefined || !isEnd) continue;
    dashes.push({ points: points.slice(SEGMENT * begun, SEGMENT * (k + 1) + STRIDE), closed: false });
    begun = undefined;
  }
  return dashes;
}
