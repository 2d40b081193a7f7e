import type { Area, AreaFill } from '@true-nib/core/area';
import { STRIDE } from '@true-nib/core/curve';
import type { EntityId } from '@true-nib/core/kind';
import { boxOfFlat } from '@true-nib/core/math';
import { targetInHand, type Board } from '../../board';
import { nibFor } from '../../nibs';

/** Tools that fill an outline. */
export type FillingTool = 'blot' | 'nick';

export const FILLING_IN_WORDS: Readonly<Record<FillingTool, string>> = { blot: 'Blot', nick: 'Nick' };

/** What a tool fills with: the colour in hand, or nothing. */
export const fillOf = (tool: FillingTool, { session }: Pick<Board, 'session'>): AreaFill =>
  tool === 'nick' ? { as: 'nothing' } : { as: 'colour', color: nibFor(session.page).color };

/** The layer that is filled on; why there is none, in a sentence. */
export function filledLayer(board: Board) {
  const target = targetInHand(board);
  if (typeof target !== 'string' && target.layer.holdsShape)
    return `${target.layer.name} holds its shape: draw over what is there to colour it.`;
  return target;
}

/** Whether there is any ink, or are any pixels, that an area would take away. */
export function takesInk({ picture }: Board, layerId: EntityId, { rings }: Area): boolean {
  const { wash } = picture.inks.index;
  return rings.some(({ points }) => {
    const box = boxOfFlat(points, STRIDE);
    return picture.drawnOn(layerId, box).length > 0 || wash.within(layerId, box).length > 0;
  });
}
