import { evenlyWide, partOf, segmentCount, type Spine } from '../curve';
import type { Stroke } from '../stroke';
import type { Panel } from './types';

const drawn = new WeakMap<Panel, readonly Stroke[]>();

/** The border of a panel as strokes: one all round it, or one for each part between its gaps; the same for the same panel. */
export function borderStrokes(panel: Panel): readonly Stroke[] {
  let strokes = drawn.get(panel);
  if (!strokes) drawn.set(panel, (strokes = drawnBorder(panel)));
  return strokes;
}

function drawnBorder({ ring, border }: Panel): readonly Stroke[] {
  if (!border) return [];
  const { nib } = border;
  const of = (spine: Spine): Stroke => ({ spine: evenlyWide(spine, nib.size), nib, ends: ['flat', 'flat'] });
  return bordered(ring, border.gaps ?? []).map(of);
}

/** What takes the gaps out of a border: strokes along them that are twice as wide. */
export function gapStrokes({ ring, border }: Panel): Stroke[] {
  if (!border) return [];
  const { nib, gaps = [] } = border;
  const size = 2 * nib.size;
  return gaps.map(({ side, from, to }) => ({
    spine: evenlyWide(partOf(ring, side + from, side + to), size),
    nib: { ...nib, size },
    ends: ['flat', 'flat'],
  }));
}

/** The parts of a ring between gaps; all of it where there are none. */
function bordered(ring: Spine, gaps: readonly { side: number; from: number; to: number }[]): Spine[] {
  if (gaps.length === 0) return [ring];
  const count = segmentCount(ring);
  const bare = gaps.map(({ side, from, to }) => [side + from, side + to] as const).sort(([a], [b]) => a - b);
  const kept: (readonly [number, number])[] = [];
  let at = 0;
  for (const [from, to] of bare) {
    if (from > at + LEAST) kept.push([at, from]);
    at = Math.max(at, to);
  }
  if (at < count - LEAST) kept.push([at, count]);
  const parts = kept.map(([from, to]) => partOf(ring, from, to));
  const runsOn = kept.length > 1 && kept[0][0] === 0 && kept[kept.length - 1][1] === count;
  if (!runsOn) return parts;
  // What goes over the first corner is one line.
  const [first, ...others] = parts;
  const last = others.pop();
  return last ? [...others, joinedAtStart(last, first)] : parts;
}

/** A share of a side too short to be drawn. */
const LEAST = 1e-6;

function joinedAtStart(last: Spine, first: Spine): Spine {
  const points = new Float64Array(last.points.length + first.points.length - 3);
  points.set(last.points);
  points.set(first.points.subarray(3), last.points.length);
  return { points, closed: false };
}
