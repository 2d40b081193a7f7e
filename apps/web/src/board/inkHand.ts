import { LiveStroke } from '@true-nib/core/ink';
import { boxOfPoints, growBox, type Point } from '@true-nib/core/math';
import {
  layersOf,
  mergeEdits,
  orderBetween,
  type Edit,
  type LayerEntity,
  type Page,
  type PenSample,
} from '@true-nib/core/page';
import { drawnEdits, liftedEdits, rubbedEdits } from '@true-nib/core/tools';
import type { BoardPicture } from '../render/boardPicture';
import { zoomOf } from '../render/view';
import { newId } from '../session/ids';
import type { PageSession } from '../session/pageSession';
import { calmOf, nibOf, type Desk } from './desk';

/** A gesture from pen-down to pen-up. Samples are in page px; `end` makes a change, `cancel` leaves no trace. */
export interface Gesture {
  move(samples: readonly PenSample[]): void;
  end(): void;
  cancel(): void;
}

export interface Board {
  readonly picture: BoardPicture;
  readonly session: PageSession;
  readonly notice: (message: string) => void;
}

/** The ink layer that strokes go to: the highest one, or one to be added with the first stroke. */
function inkLayer(page: Page): { readonly layer: LayerEntity; readonly edits: readonly Edit[] } {
  const layers = layersOf(page);
  const found = layers.filter((layer) => layer.medium === 'ink').at(-1);
  if (found) return { layer: found, edits: [] };
  const order = orderBetween(layers.at(-1)?.order, undefined);
  const layer: LayerEntity = {
    kind: 'layer',
    id: newId(),
    medium: 'ink',
    name: 'Inks',
    order,
    hidden: false,
    locked: false,
  };
  return { layer, edits: [{ before: null, after: layer }] };
}

/** What is left of a gesture that was refused: it neither draws nor moves the page. */
const stillHand: Gesture = { move: () => undefined, end: () => undefined, cancel: () => undefined };

const refusal = (layer: LayerEntity): string | undefined =>
  layer.locked ? `${layer.name} is locked.` : layer.hidden ? `${layer.name} is hidden.` : undefined;

export function refuse(notice: Board['notice'], reason: string): Gesture {
  notice(reason);
  return stillHand;
}

/** Draws a stroke with the nib in hand. When the layer takes none it says so, and the hand stays still. */
export function beginStroke({ picture, session, notice }: Board, desk: Desk): Gesture {
  const { layer, edits } = inkLayer(session.page);
  const refused = refusal(layer);
  if (refused) return refuse(notice, refused);
  const live = new LiveStroke(nibOf(desk), calmOf(desk), zoomOf(picture.view));
  picture.beginLive(live);
  return {
    move(samples) {
      live.add(samples);
      picture.paintLive();
    },
    end() {
      if (live.isEmpty) return picture.endLive();
      const order = orderBetween(picture.inks.index.topOrder(layer.id), undefined);
      const place = { strokeId: newId(), samplesId: newId(), layerId: layer.id, order };
      const drawn = [...edits, ...drawnEdits(live, place)];
      picture.layDownLive(() => session.commit('Stroke', drawn, edits.length > 0 ? [] : [layer.id]));
    },
    cancel: () => picture.endLive(),
  };
}

/** Rubs or lifts along the hand's way, shown at once, one change at pen-up. */
export function beginErasing({ picture, session, notice }: Board, desk: Desk): Gesture {
  const { layer } = inkLayer(session.page);
  const refused = refusal(layer);
  if (refused) return refuse(notice, refused);
  const isRub = desk.tool === 'rub';
  // 22 CSS px is what a finger can aim at.
  const reach = isRub ? desk.rubSize / 2 : 22 / zoomOf(picture.view);
  let last: Point | undefined;
  let edits: Edit[] = [];
  const erase = (way: readonly Point[]): Edit[] => {
    const near = picture.strokesOn(layer.id, growBox(boxOfPoints(way), reach));
    if (isRub) return rubbedEdits(near, way, reach, newId);
    return liftedEdits(near, way[0], way[way.length - 1], reach);
  };
  return {
    move(samples) {
      const way = last ? [last, ...samples] : samples;
      if (way.length === 0) return;
      // Lifting goes leg by leg, or a curved drag would be taken for a straight one.
      const legs = isRub || way.length === 1 ? [way] : way.slice(1).map((p, k) => [way[k], p]);
      for (const leg of legs) {
        const more = erase(leg);
        if (more.length > 0) picture.preview(more);
        edits.push(...more);
      }
      last = way[way.length - 1];
    },
    end() {
      edits = mergeEdits(edits);
      if (edits.length > 0 && !session.commit(isRub ? 'Rub' : 'Lift', edits, [layer.id]))
        picture.preview(inverse(edits));
    },
    cancel() {
      picture.preview(inverse(mergeEdits(edits)));
    },
  };
}

const inverse = (edits: readonly Edit[]): Edit[] =>
  edits.map(({ before, after }) => ({ before: after, after: before })).reverse();
