import {
  boxEdges,
  equalBays,
  gridLineAt,
  headedWay,
  inFrame,
  march,
  PLANE_WAYS,
  projectedStroke,
  stairEdges,
  trueDistance,
} from '@true-nib/core/guides';
import { box, clippedSegment, distance, type Point } from '@true-nib/core/math';
import { inked, type Stroke } from '@true-nib/core/stroke';
import type { Nib } from '@true-nib/core/nib';
import type { PageSize } from '@true-nib/core/page';
import { lineSpine } from '@true-nib/core/shapes';
import { useDepth, type FrameGuide } from '../../guiding';

/** A frame, the page it lies on, and the nib that inks. */
export interface DepthGround {
  readonly frame: FrameGuide;
  readonly size: PageSize;
  readonly nib: Nib;
}

/** An edge inked as a line of its frame, so that it can be tethered. */
export const edgeStroke = ({ frame, nib }: DepthGround, [a, b]: readonly [Point, Point]): Stroke =>
  inFrame(inked(lineSpine(a, b), nib), frame.id, frame.shape);

const edgeStrokes = (ground: DepthGround, edges: readonly (readonly [Point, Point])[]): Stroke[] =>
  edges.filter(([a, b]) => distance(a, b) > 0.5).map((edge) => edgeStroke(ground, edge));

/** A box from its base and the place that says how high it is. */
export const boxStrokes = (ground: DepthGround, base: readonly [Point, Point], top: Point): Stroke[] =>
  edgeStrokes(
    ground,
    boxEdges(ground.frame.shape, ground.size, base, top)
      .filter(({ isHidden }) => !isHidden || useDepth.getState().hidden)
      .map(({ ends }) => ends),
  );

/** Lines repeated in equal steps along the direction that a drag goes in: one step long, or all of them. */
export function marchStrokes({ frame, size }: DepthGround, lines: readonly Stroke[], from: Point, to: Point): Stroke[] {
  const { plane, steps, spans } = useDepth.getState();
  const way = headedWay(frame.shape, size, from, to, ['right', 'left', 'height']);
  if (!way) return [];
  const whole = trueDistance(frame.shape, size, from, way, to);
  const maps = march(frame.shape, size, {
    plane,
    anchor: from,
    way,
    step: spans ? whole / steps : whole,
    count: steps,
  });
  return maps.flatMap((map) =>
    lines.flatMap((line) => {
      const copy = projectedStroke(line, map);
      return copy ? [inFrame(copy, frame.id, frame.shape)] : [];
    }),
  );
}

/** The lines that divide the box of a drag into bays, along the plane's first direction or, held, its second. */
export function bayStrokes(ground: DepthGround, from: Point, to: Point, isAcross: boolean): Stroke[] {
  const { plane, bays } = useDepth.getState();
  const way = PLANE_WAYS[plane][isAcross ? 1 : 0];
  return edgeStrokes(
    ground,
    equalBays(ground.frame.shape, ground.size, { plane, corners: [from, to], way, count: bays }),
  );
}

/** A stair from its foot as far as a drag goes. */
export function stairStrokes(ground: DepthGround, from: Point, to: Point): Stroke[] {
  const { frame, size } = ground;
  const { count, rise, width } = useDepth.getState().stairs;
  const way = headedWay(frame.shape, size, from, to, ['right', 'left']);
  if (way !== 'right' && way !== 'left') return [];
  const run = trueDistance(frame.shape, size, from, way, to) / count;
  return edgeStrokes(
    ground,
    stairEdges(frame.shape, size, { foot: from, way, run, rise: (Math.abs(run) * rise) / 100, width, count }),
  );
}

/** The grid line of the plane in hand nearest to a place, as long as it runs over the page; nothing farther off than `reach`. */
export function gridStroke(ground: DepthGround, at: Point, reach: number): Stroke | undefined {
  const { frame, size } = ground;
  const { plane } = useDepth.getState();
  const [near] = PLANE_WAYS[plane]
    .flatMap((way) => {
      const line = gridLineAt(frame.shape, size, plane, way, at);
      return line ? [{ ends: line.ends, away: awayFrom(line.ends, at) }] : [];
    })
    .sort((a, b) => a.away - b.away);
  if (!near || near.away > reach) return undefined;
  const seen = clippedSegment(box(0, 0, size.width, size.height), ...near.ends);
  return seen && edgeStroke(ground, seen);
}

function awayFrom([a, b]: readonly [Point, Point], p: Point): number {
  const long = distance(a, b) || 1;
  return Math.abs((p.x - a.x) * (b.y - a.y) - (p.y - a.y) * (b.x - a.x)) / long;
}
