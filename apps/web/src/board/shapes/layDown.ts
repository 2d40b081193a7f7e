import { orderBetween, type Edit, type LayerEntity, type Stroke, type StrokeEntity } from '@true-nib/core/page';
import { newId } from '../../session/ids';
import type { Board } from '../inkHand';
import { rememberEnd } from '../lastEnd';

/** Where a constructed line goes: its layer, and the edits that bring that about. */
export interface Ground {
  readonly layer: LayerEntity;
  readonly edits: readonly Edit[];
}

/** Makes a constructed line, which is shown already, part of the page. Nodes or pixels come of it as of any other line. */
export function layDown(board: Board, { layer, edits }: Ground, label: string, stroke: Stroke): void {
  const { picture, session, washing } = board;
  const order = orderBetween(picture.inks.index.topOrder(layer.id), undefined);
  const entity: StrokeEntity = { kind: 'stroke', id: newId(), layerId: layer.id, order, ...stroke };
  rememberEnd(stroke.spine);
  if (layer.medium === 'wash') {
    picture.layDownLive(() => picture.addMarks([entity]));
    return void washing.turn(label, layer.id, [entity]);
  }
  const drawn = [...edits, { before: null, after: entity }];
  picture.layDownLive(() => session.commit(label, drawn, edits.length > 0 ? [] : [layer.id]));
}
