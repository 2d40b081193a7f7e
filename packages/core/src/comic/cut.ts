import { flattenCubic, partOf, pointAt, SEGMENT, segmentCount, startedAt, movedPlace, type Spine } from '../curve';
import { PageError } from '../gate';
import type { Point } from '../math';
import { asPanelRing } from '../panel';
import {
  besideLine,
  checkPanelRing,
  lineBeside,
  closedSpine,
  endOf,
  lineThrough,
  startOf,
  wayBetween,
  type Line,
} from './sides';

/**
 * The two rings that a cut makes of one: along the line through two places, with a gutter between. The first lies to the left of
 * the way from `from` to `to`, in a plane whose y goes down. Throws a PageError for a cut that does not part the ring in two, or
 * that leaves less than `least` page px.
 */
export function cutRing(
  ring: Spine,
  {
    from,
    to,
    gutter,
    least,
  }: { readonly from: Point; readonly to: Point; readonly gutter: number; readonly least: number },
): readonly [Spine, Spine] {
  const line = lineThrough(from, to);
  if (!line) throw new PageError('Drag across the panel to cut it.');
  const halves = [
    keptBeside(ring, lineBeside(line, gutter / 2), 1),
    keptBeside(ring, lineBeside(line, -gutter / 2), -1),
  ] as const;
  for (const half of halves) checkPanelRing(half, least);
  return halves;
}

/** What of a ring lies to one side of a line: 1 to its left. */
function keptBeside(ring: Spine, line: Line, sign: 1 | -1): Spine {
  const places = placesOn(ring, line);
  if (places.length !== 2) throw new PageError('A cut goes once across the panel, from border to border.');
  const [first, second] = places;
  const count = segmentCount(ring);
  const turned = startedAt(ring, first);
  const end = movedPlace(second, first, count);
  const parts = [partOf(turned, 0, end), partOf(turned, end, segmentCount(turned))];
  const kept = parts.find((part) => besideLine(line, farthestFrom(part, line)) * sign > 0);
  if (!kept) throw new PageError('A cut goes once across the panel, from border to border.');
  return asPanelRing(closedSpine([kept, wayBetween(endOf(kept), startOf(kept))]));
}

function farthestFrom(part: Spine, line: Line): Point {
  let farthest: Point = pointAt(part, { segment: 0, t: 0.5 });
  for (let segment = 0; segment < segmentCount(part); segment++)
    for (const t of [0, 0.25, 0.5, 0.75, 1]) {
      const at = pointAt(part, { segment, t });
      if (Math.abs(besideLine(line, at)) > Math.abs(besideLine(line, farthest))) farthest = at;
    }
  return farthest;
}

/** Where a ring crosses a line, as places along it, rising. */
function placesOn(ring: Spine, line: Line): number[] {
  const places: number[] = [];
  const away = (segment: number, t: number) => besideLine(line, pointAt(ring, { segment, t }));
  for (let segment = 0; segment < segmentCount(ring); segment++) {
    const legs = legsOf(ring, segment);
    for (let k = 0; k < legs; k++) {
      let [low, high] = [k / legs, (k + 1) / legs];
      const start = away(segment, low);
      if (start > 0 === away(segment, high) > 0) continue;
      // Halving comes as near as numbers do.
      for (let step = 0; step < 60; step++) {
        const middle = (low + high) / 2;
        if (away(segment, middle) > 0 === start > 0) low = middle;
        else high = middle;
      }
      places.push(segment + (low + high) / 2);
    }
  }
  return places;
}

/** Into how many legs a side is parted so that each crosses a line once. */
function legsOf({ points }: Spine, segment: number): number {
  const line: number[] = [];
  flattenCubic(points, segment * SEGMENT, 0.05, line);
  return Math.max(1, line.length / 3);
}
