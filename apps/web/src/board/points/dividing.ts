import { nodeCount, spineBox } from '@true-nib/core/curve';
import { boxOfPoints, distance, growBox } from '@true-nib/core/math';
import { bridge, brokenAt, crossingNear, endPoint, type LineEnd } from '@true-nib/core/mend';
import type { StrokeEntity } from '@true-nib/core/page';
import { zoomOf } from '../../render/view';
import { newId } from '../../session/ids';
import type { Board } from '../inkHand';

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
  const [first, ...more] = pieces;
  const added = more.map((piece) => ({ before: null, after: { ...piece, id: newId() } }));
  const label = atCrossing ? 'Cut at a crossing' : 'Break a line';
  return session.commit(label, [{ before: stroke, after: first }, ...added], [stroke.layerId]);
}

/** Joins an end of a line with the nearest end of another one, or with its own other end. Answers whether it did. */
export function joinEnd({ session, picture, notice }: Board, stroke: StrokeEntity, node: number): boolean {
  if (stroke.spine.closed || (node !== 0 && node !== nodeCount(stroke.spine) - 1)) {
    notice('Touch an end of a line first: it is joined with the nearest other end.');
    return false;
  }
  const own: LineEnd<StrokeEntity> = { stroke, end: node === 0 ? 0 : 1 };
  const from = endPoint(own);
  const reach = JOIN_REACH / zoomOf(picture.view);
  const [found] = picture
    .strokesOn(stroke.layerId, growBox(boxOfPoints([from]), reach))
    .filter(({ spine }) => !spine.closed)
    .flatMap((other) => ([0, 1] as const).map((end): LineEnd<StrokeEntity> => ({ stroke: other, end })))
    .filter((other) => other.stroke.id !== stroke.id || other.end !== own.end)
    .map((other) => ({ other, away: distance(from, endPoint(other)) }))
    .filter(({ away }) => away <= reach)
    .sort((a, b) => a.away - b.away);
  if (!found) {
    notice('No other end lies near enough. Bridge finds them from farther off.');
    return false;
  }
  const isRing = found.other.stroke.id === stroke.id;
  const after = bridge(own, isRing ? { ...found.other, stroke } : found.other);
  const rest = isRing ? [] : [{ before: found.other.stroke, after: null }];
  return session.commit(
    isRing ? 'Close a ring' : 'Join two ends',
    [{ before: stroke, after }, ...rest],
    [stroke.layerId],
  );
}
