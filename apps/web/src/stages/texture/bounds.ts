import { flatRing, isInArea, type AreaEntity } from '@true-nib/core/area';
import { STRIDE, type Spine } from '@true-nib/core/curve';
import type { EntityId } from '@true-nib/core/kind';
import { boxOfPoints, growBox, ringPoints, type Point } from '@true-nib/core/math';
import { byOrder } from '@true-nib/core/page';
import { ringsRound, shapeOf } from '@true-nib/core/regions';
import type { Board } from '../../board';
import { areasOf } from '../../hand';
import { selectionSlot } from '../../select';
import { pourSlot } from '../blacks';

/** Page px by which an outline that is filled may stray where it is curved. */
const STRAY = 0.1;

/** An outline as loops of places. */
export const loopsOf = (rings: readonly Spine[]): Point[][] =>
  rings.map((ring) => {
    const flat = flatRing(ring, STRAY);
    return ringPoints(flat);
  });

/** The highest area of a layer at a place that is no nick. */
export function areaAt({ picture }: Board, layerId: EntityId, at: Point): AreaEntity | undefined {
  return areasOf(picture.drawnOn(layerId, growBox(boxOfPoints([at]), 1)))
    .filter((area) => area.fill.as !== 'nothing' && isInArea(area, at))
    .sort(byOrder)
    .at(-1);
}

/** The outline of what is touched: of an area on the layer in hand, else of the region between lines. */
export async function outlineAt(board: Board, layerId: EntityId, at: Point): Promise<readonly Spine[] | undefined> {
  return areaAt(board, layerId, at)?.rings ?? (await board.of(pourSlot).outlineAt(at));
}

/** The outline of all that is selected: what its lines go round, and what its areas cover. */
export function outlineOfSelected(board: Board): readonly Spine[] {
  const { entities } = board.of(selectionSlot);
  return ringsRound(entities.flatMap((entity) => shapeOf(entity) ?? []));
}

/** A course as places. */
export const placesOf = (line: ArrayLike<number>): Point[] =>
  Array.from({ length: line.length / STRIDE }, (_, k) => ({ x: line[STRIDE * k], y: line[STRIDE * k + 1] }));
