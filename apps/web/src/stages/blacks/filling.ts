import { nested, type Area, type AreaFill } from '@true-nib/core/area';
import { makeSpine, STRIDE, type Spine } from '@true-nib/core/curve';
import { boxOfFlat } from '@true-nib/core/math';
import { targetInHand, type Board } from '../../board';
import { nibFor } from '../../nibs';

/** Tools that fill an outline. */
export type FillingTool = 'blot' | 'nick';

export const FILLING_IN_WORDS: Readonly<Record<FillingTool, string>> = { blot: 'Blot', nick: 'Nick' };

/** What a tool fills with: the colour in hand, or nothing. */
export const fillOf = (tool: FillingTool, { session }: Pick<Board, 'session'>): AreaFill =>
  tool === 'nick' ? { as: 'nothing' } : { as: 'colour', color: nibFor(session.page).color };

/** Courses as one area; open ones are closed by a straight line. */
export const areaWithin = (courses: readonly Spine[], fill: AreaFill): Area => ({
  rings: nested(courses.map(closed)),
  fill,
});

function closed(course: Spine): Spine {
  if (course.closed) return course;
  const { points } = course;
  const [x, y, u, v] = [points[points.length - STRIDE], points[points.length - STRIDE + 1], points[0], points[1]];
  if (x === u && y === v) return { points, closed: true };
  const at = (t: number) => [x + (u - x) * t, y + (v - y) * t, 0];
  return makeSpine(Float64Array.from([...points, ...at(1 / 3), ...at(2 / 3), u, v, 0]), true);
}

/** The layer that is filled on; why there is none, in a sentence. */
export function filledLayer(board: Board) {
  const target = targetInHand(board);
  if (typeof target !== 'string' && target.layer.holdsShape)
    return `${target.layer.name} holds its shape: draw over what is there to colour it.`;
  return target;
}

/** Whether there is any ink that an area would take away. */
export function takesInk({ picture }: Board, layerId: string, { rings }: Area): boolean {
  return rings.some(({ points }) => picture.drawnOn(layerId, boxOfFlat(points, STRIDE)).length > 0);
}
