import { STRIDE } from '@true-nib/core/curve';
import {
  ordersBetween,
  type Edit,
  type LayerEntity,
  type SamplesEntity,
  type Stroke,
  type StrokeEntity,
} from '@true-nib/core/page';
import { newId } from '../../session/ids';
import { withCopies } from '../guides/bearing';
import type { Board } from '../inkHand';
import { rememberEnd } from '../lastEnd';

/** Where a line goes: its layer, and the edits that bring that about. */
export interface Ground {
  readonly layer: LayerEntity;
  readonly edits: readonly Edit[];
}

/**
 * Makes a line, which is shown already, part of the page, with its symmetric copies: one change. Nodes or pixels come of it as
 * the layer has them. `samples` are the hand's, where a hand drew it.
 */
export function layDown(
  board: Board,
  { layer, edits }: Ground,
  label: string,
  stroke: Stroke,
  samples?: SamplesEntity,
): void {
  const { picture, session } = board;
  if (stroke.spine.points.length >= STRIDE) rememberEnd(stroke.spine);
  const strokes = withCopies(session.page, layer.id, stroke);
  const orders = ordersBetween(picture.inks.index.topOrder(layer.id), undefined, strokes.length);
  const entities = strokes.map((one, k): StrokeEntity => ({
    kind: 'stroke',
    id: newId(),
    layerId: layer.id,
    order: orders[k],
    ...one,
  }));
  if (layer.medium === 'wash') {
    picture.layDownLive(() => picture.addMarks(entities));
    return void board.washing.turn(label, layer.id, entities);
  }
  const isDrawn = samples !== undefined && entities.some(({ origin }) => origin !== undefined);
  const drawn = [...(isDrawn ? [samples] : []), ...entities].map((after): Edit => ({ before: null, after }));
  picture.layDownLive(() => session.commit(label, [...edits, ...drawn], edits.length > 0 ? [] : [layer.id]));
}
