import { nodeCount, spineBox } from '@true-nib/core/curve';
import { boxOfPoints, growBox } from '@true-nib/core/math';
import { bridge, brokenAt, crossingNear, endPoint, nearestEnd, type LineEnd } from '@true-nib/core/mend';
import { replacedBy } from '@true-nib/core/page';
import type { StrokeEntity } from '@true-nib/core/stroke';
import { zoomOf } from '../../render';
import { newId } from '../../session';
import type { Board } from '../../board';

/** CSS px between ends that can be joined. */
const JOIN_REACH = 60;

/** Makes two lines of one at a node, or at the crossing nearest to it: they look as it did. Answers whether it did. */
export function breakLine(
  { session, picture, notice }: Board,
  stroke: StrokeEntity,
  node: number,
  atCrossing: boolean,
): boolean {
  const others = picture.strokesOn(stroke.layerId, spineBox(stroke.spine)).filter(({ id }) => id !== stroke.id);
  const place = atCrossing ? crossingNear(stroke, node, others) : node;
  const pieces = place === undefined ? undefined : brokenAt(stroke, place);
  if (!pieces) {
    notice(place === undefined ? 'This line crosses no other on its layer.' : 'The line ends here already.');
    return false;
  }
  const label = atCrossing ? 'Cut at a crossing' : 'Break a line';
  return session.commit(label, replacedBy(stroke, pieces, newId));
}

/** Joins an end of a line with the nearest end of another one, or with its own other end. Answers whether it did. */
export function joinEnd({ session, picture, notice }: Board, stroke: StrokeEntity, node: number): boolean {
  if (stroke.spine.closed || (node !== 0 && node !== nodeCount(stroke.spine) - 1)) {
    notice('Touch an end of a line first: it is joined with the nearest other end.');
    return false;
  }
  const own: LineEnd<StrokeEntity> = { stroke, end: node === 0 ? 0 : 1 };
  const reach = JOIN_REACH / zoomOf(picture.view);
  const found = nearestEnd(own, picture.strokesOn(stroke.layerId, growBox(boxOfPoints([endPoint(own)]), reach)), reach);
  if (!found) {
    notice('No other end lies near enough. Bridge finds them from farther off.');
    return false;
  }
  const isRing = found.stroke === stroke;
  const rest = isRing ? [] : [{ before: found.stroke, after: null }];
  const label = isRing ? 'Close a ring' : 'Join two ends';
  return session.commit(label, [{ before: stroke, after: bridge(own, found) }, ...rest]);
}
