import { isInRing, ringArea, segmentDistanceSquared, withoutRings } from '../math';
import type { CutEnd, StrokeEnd } from '../stroke';

/** Ends that need no cutting. */
export type PlainEnds = readonly ['round' | 'flat', 'round' | 'flat'];

const isCut = (end: StrokeEnd): end is CutEnd => typeof end !== 'string';

/**
 * The rings of a line of discs (triples x, y, width) whose ends may be cut along a line. Only the discs at the end that
 * reach into what is gone are cut, so a line may come back to its own cut. `ringOf` inks a part of it with plain ends.
 */
export function cutRings(
  line: Float64Array,
  ends: readonly [StrokeEnd, StrokeEnd],
  ringOf: (part: Float64Array, ends: PlainEnds) => Float64Array,
): Float64Array[] {
  const [first, last] = ends;
  // Beyond a cut the ink goes on to the tip, so that it is whole up to the cut.
  const plain: PlainEnds = [isCut(first) ? 'round' : first, isCut(last) ? 'round' : last];
  if (!isCut(first) && !isCut(last)) return [ringOf(line, plain)];
  const count = line.length / 3;
  const from = isCut(first) ? freeFrom(line, first.gone, 0, 1) : 0;
  const to = isCut(last) ? freeFrom(line, last.gone, count - 1, -1) : count - 1;
  const part = (a: number, b: number) => line.subarray(3 * a, 3 * (b + 1));
  if (from >= to) return cutAway(ringOf(line, plain), [first, last]);
  const rings: Float64Array[] = [];
  if (isCut(first) && from > 0) rings.push(...cutAway(ringOf(part(0, from), [plain[0], 'round']), [first]));
  rings.push(ringOf(part(from, to), [isCut(first) ? 'round' : first, isCut(last) ? 'round' : last]));
  if (isCut(last) && to < count - 1) rings.push(...cutAway(ringOf(part(to, count - 1), ['round', plain[1]]), [last]));
  return rings;
}

const cutAway = (ring: Float64Array, ends: readonly StrokeEnd[]): Float64Array[] =>
  withoutRings(
    [ring],
    ends.flatMap((end) => (isCut(end) ? [end.gone] : [])),
    ringArea(ring) < 0,
  );

/** The first disc from an end that stays clear of a ring; one past the other end if there is none. */
function freeFrom(line: Float64Array, ring: Float64Array, start: number, step: 1 | -1): number {
  const count = line.length / 3;
  let k = start;
  while (k >= 0 && k < count && touches(ring, line[3 * k], line[3 * k + 1], line[3 * k + 2] / 2)) k += step;
  return k;
}

function touches(ring: Float64Array, x: number, y: number, radius: number): boolean {
  const at = { x, y };
  if (isInRing(ring, at)) return true;
  for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
    const [a, b] = [
      { x: ring[j], y: ring[j + 1] },
      { x: ring[i], y: ring[i + 1] },
    ];
    if (segmentDistanceSquared(at, at, a, b) <= radius * radius) return true;
  }
  return false;
}
