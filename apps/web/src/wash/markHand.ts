import { makeSpine } from '@true-nib/core/curve';
import { orderBetween } from '@true-nib/core/page';
import { widthUnder, type Nib } from '@true-nib/core/nib';
import type { EntityId } from '@true-nib/core/kind';
import type { PenSample } from '@true-nib/core/hand';
import type { StrokeEntity } from '@true-nib/core/stroke';
import { newId } from '../session';
import type { Board, Gesture } from '../board';
import { washingSlot } from './washing';

/**
 * Draws on a wash layer leg by leg, each shown at once: for what takes pixels away, or colours only those that are there.
 */
export function beginMarks(board: Board, layerId: EntityId, label: string, nib: Nib): Gesture {
  const { picture } = board;
  const marks: StrokeEntity[] = [];
  let last: PenSample | undefined;
  let order = picture.inks.index.topOrder(layerId);
  return {
    move(samples) {
      const legs = samples.map((sample): StrokeEntity => {
        const from = last ?? sample;
        last = sample;
        order = orderBetween(order, undefined);
        return {
          kind: 'stroke',
          id: newId(),
          layerId,
          order,
          nib,
          spine: legOf(from, sample, nib),
          ends: ['round', 'round'],
        };
      });
      marks.push(...legs);
      picture.addMarks(legs);
    },
    end: () => void board.of(washingSlot).turn(label, layerId, marks),
    cancel: () => void picture.endMarks(marks, () => false),
  };
}

/** A point would have no course to lay ink along, page px. */
const LEAST_LEG = 0.01;

function legOf(from: PenSample, to: PenSample, nib: Nib) {
  const [start, end] = [widthUnder(nib, from.pressure), widthUnder(nib, to.pressure)];
  const dx = Math.abs(to.x - from.x) + Math.abs(to.y - from.y) < LEAST_LEG ? LEAST_LEG : to.x - from.x;
  const at = (t: number) => [from.x + dx * t, from.y + (to.y - from.y) * t, start + (end - start) * t];
  return makeSpine(Float64Array.from([0, 1 / 3, 2 / 3, 1].flatMap(at)));
}
