import type { DrawnEntity } from '@true-nib/core/drawn';
import { makeCalmer } from '@true-nib/core/ink';
import type { Calm, PenSample } from '@true-nib/core/hand';
import { boxOfPoints, growBox } from '@true-nib/core/math';
import {
  isKind,
  mergeEdits,
  newLayer,
  nodeOf,
  nodesOf,
  stackOf,
  topOfStack,
  type Edit,
  type LayerEntity,
  type Page,
  type StackNode,
} from '@true-nib/core/page';
import type { EntityId } from '@true-nib/core/kind';
import { type Nib, widthUnder } from '@true-nib/core/nib';
import { liftedEdits, recolouredEdits, rubbedEdits, type Shown } from '@true-nib/core/tools';
import type { BoardPicture } from '../render/boardPicture';
import type { InkIndex } from '../render/inkIndex';
import { isShownUnder } from '../render/stackLook';
import { zoomOf } from '../render/view';
import { newId } from '../session/ids';
import type { PageSession } from '../session/pageSession';
import { useDesk, type Desk } from '../board/desk';
import { useMend } from '../stages/mend/mendStore';
import { nibInHand, rubSizeFor, useRack } from '../nibs/rackStore';
import { beginMarks } from '../wash/markHand';
import type { Washing } from '../wash/washing';

/** A gesture from pen-down to pen-up. Samples are in page px; `end` makes a change, `cancel` leaves no trace. */
export interface Gesture {
  move(samples: readonly PenSample[]): void;
  end(): void;
  cancel(): void;
  /** The finger is off, though it is not certain yet whether it was meant. */
  lifted?(): void;
  /** What the key for it does while the gesture goes on: the next guide, or a corner where the pen is. */
  corner?(): void;
}

/** A gesture that does nothing. */
export const still: Gesture = { move: () => undefined, end: () => undefined, cancel: () => undefined };

/** A gesture whose hand is calmed first. */
export function calmedGesture(gesture: Gesture, calm: Calm, zoom: number): Gesture {
  if (calm.way === 'raw' && calm.weight === undefined) return gesture;
  const calmer = makeCalmer(calm, zoom);
  const pass = (samples: readonly PenSample[]) => {
    if (samples.length > 0) gesture.move(samples);
  };
  return {
    move: (samples) => pass(calmer.push(samples)),
    end() {
      pass(calmer.finish());
      gesture.end();
    },
    cancel: () => gesture.cancel(),
  };
}

export interface Board {
  readonly picture: BoardPicture;
  readonly session: PageSession;
  readonly washing: Washing;
  readonly notice: (message: string) => void;
}

/** A layer as the board shows it: hidden, too, when it is out of sight because others are alone. */
export function asSeen(page: Page, node: StackNode): StackNode {
  const { solo } = useDesk.getState();
  if (solo.length === 0 || isShownUnder({ solo, standIns: false }, node, stackOf(page))) return node;
  return { ...node, isHidden: true };
}

/** The layer that is drawn on, as it is seen: the one in hand, or the highest Ink layer while none is. */
export function layerInHand(page: Page, layerId: EntityId | undefined): StackNode | undefined {
  const nodes = nodesOf(stackOf(page));
  const node =
    nodes.find(({ layer }) => layer.id === layerId) ?? nodes.filter(({ layer }) => layer.medium === 'ink').at(-1);
  return node && asSeen(page, node);
}

/** Why nothing can be done to a layer that is not seen. */
export const hiddenInWords = (page: Page, { id, name }: LayerEntity): string =>
  nodeOf(page, id)?.isHidden ? `${name} is hidden.` : `${name} is not seen: other layers are alone.`;

/** The layer that strokes go to: the one in hand, or an Ink layer to be added with the first stroke. Else a reason why not. */
export function drawnLayer(
  page: Page,
  layerId: EntityId | undefined,
): { readonly layer: LayerEntity; readonly edits: readonly Edit[] } | string {
  const node = layerInHand(page, layerId);
  if (!node) {
    const layer = newLayer({ id: newId(), medium: 'ink', name: 'Inks', order: topOfStack(page) });
    return { layer, edits: [{ before: null, after: layer }] };
  }
  const { layer, isLocked, isHidden } = node;
  if (layer.medium !== 'ink' && layer.medium !== 'wash')
    return `${layer.name} cannot be drawn on. Take an Ink or a Wash layer in the stack.`;
  if (isLocked) return `${layer.name} is locked.`;
  if (isHidden) return hiddenInWords(page, layer);
  return { layer, edits: [] };
}

/** What is left of a gesture that was refused: it neither draws nor moves the page. */
const stillHand: Gesture = { move: () => undefined, end: () => undefined, cancel: () => undefined };

export function refuse(notice: Board['notice'], reason: string): Gesture {
  notice(reason);
  return stillHand;
}

/** What takes pixels away under a round tip of a size. */
const rubber = (size: number): Nib => ({
  ...{ name: 'Rub', size, thinnest: 1, taperIn: 0, taperOut: 0, color: '#000000' },
  lays: 'clearing',
});

/** What a leg of the hand's way does to what was drawn near it. */
type Cut = (near: readonly DrawnEntity[], leg: readonly PenSample[], index: InkIndex) => Edit[];

const linesOf = (near: readonly DrawnEntity[]) => near.filter((entity) => isKind(entity, 'stroke'));
const styledBy =
  (index: InkIndex): Shown =>
  (stroke) =>
    index.styled(stroke);

export const recolouring =
  ({ size, color }: Nib): Cut =>
  (near, leg, index) =>
    recolouredEdits(linesOf(near), leg, size / 2, color, newId, styledBy(index));

/** Takes lines or pixels away under the nib itself, as wide as it presses. */
export function beginClearing(board: Board, layer: LayerEntity, nib: Nib): Gesture {
  if (layer.medium === 'wash') return beginMarks(board, layer.id, 'Clear', { ...nib, lays: 'clearing' });
  const cut: Cut = (near, leg, index) => {
    const width = leg.reduce((sum, { pressure }) => sum + widthUnder(nib, pressure), 0) / leg.length;
    return rubbedEdits(linesOf(near), leg, width / 2, newId, styledBy(index));
  };
  return beginCutting(board, layer.id, 'Clear', nib.size / 2, cut, true);
}

/** Rubs or lifts strokes of the layer in hand. */
export function beginErasing(board: Board, desk: Desk): Gesture {
  const target = drawnLayer(board.session.page, desk.layerId);
  if (typeof target === 'string') return refuse(board.notice, target);
  if (desk.tool === 'rub') {
    const size = rubSizeFor(board.session.page);
    const { calm } = nibInHand(useRack.getState()).twin;
    const { cutEnd } = useMend.getState();
    const rub =
      target.layer.medium === 'wash'
        ? beginMarks(board, target.layer.id, 'Rub', rubber(size))
        : beginCutting(board, target.layer.id, 'Rub', size / 2, (near, leg, index) =>
            rubbedEdits(linesOf(near), leg, size / 2, newId, styledBy(index), cutEnd),
          );
    return calmedGesture(rub, calm, zoomOf(board.picture.view));
  }
  if (target.layer.medium === 'wash')
    return refuse(board.notice, `${target.layer.name} holds pixels, no lines to lift. Rub them, or select and delete.`);
  // 22 CSS px is what a finger can aim at.
  const reach = 22 / zoomOf(board.picture.view);
  const lift: Cut = (near, leg, index) =>
    liftedEdits(near, leg[0], leg[leg.length - 1], reach, (entity) => index.shown(entity));
  return beginCutting(board, target.layer.id, 'Lift', reach, lift, true);
}

/** Page px beside the way that cut ends may reach. */
const CUT_EDGE = 4;

/** Changes the strokes along the hand's way, live; `legwise` for what goes by straight legs. */
export function beginCutting(
  { picture, session }: Board,
  layerId: EntityId,
  label: string,
  reach: number,
  cut: Cut,
  legwise = false,
): Gesture {
  let last: PenSample | undefined;
  let edits: Edit[] = [];
  return {
    move(samples) {
      const way = last ? [last, ...samples] : samples;
      if (way.length === 0) return;
      // Lifting goes leg by leg, or a curved drag would be taken for a straight one.
      const legs = !legwise || way.length === 1 ? [way] : way.slice(1).map((p, k) => [way[k], p]);
      for (const leg of legs) {
        const touched = growBox(boxOfPoints(leg), reach);
        const more = cut(picture.drawnOn(layerId, touched), leg, picture.inks.index);
        // What is cut looks the same beside the way.
        if (more.length > 0) picture.preview(more, legwise ? undefined : growBox(touched, CUT_EDGE));
        edits.push(...more);
      }
      last = way[way.length - 1];
    },
    end() {
      edits = mergeEdits(edits);
      if (edits.length > 0 && !session.commit(label, edits, [layerId])) picture.letBe(edits);
    },
    cancel() {
      picture.letBe(edits);
    },
  };
}
