import { LiveStroke, TOW_PAUSE, type Calm } from '@true-nib/core/ink';
import { apply, scaleOf, type Point } from '@true-nib/core/math';
import { orderBetween, type PenSample } from '@true-nib/core/page';
import { drawnEdits } from '@true-nib/core/tools';
import { breath } from '../breath';
import { drawSlack } from '../render/overlay';
import { zoomOf } from '../render/view';
import { newId } from '../session/ids';
import type { Desk } from './desk';
import {
  beginClearing,
  beginCutting,
  calmedGesture,
  drawnLayer,
  recolouring,
  refuse,
  type Board,
  type Gesture,
} from './inkHand';
import { rememberEnd } from './lastEnd';
import { nibFor, nibInHand, useLastHand, useRack } from './nibs/rackStore';
import { beginMarks } from './wash/markHand';

/** Draws a stroke with the nib in hand. When the layer takes none it says so, and the hand stays still. */
export function beginStroke(board: Board, desk: Desk): Gesture {
  const { picture, session, notice } = board;
  const target = drawnLayer(session.page, desk.layerId);
  if (typeof target === 'string') return refuse(notice, target);
  const { layer, edits } = target;
  const { calm, lays } = nibInHand(useRack.getState());
  const nib = nibFor(session.page);
  if (lays === 'clearing') return calmedGesture(beginClearing(board, layer, nib), calm, zoomOf(picture.view));
  if (layer.holdsShape && layer.medium === 'wash') return beginMarks(board, layer.id, 'Recolour', nib);
  if (layer.holdsShape) return beginCutting(board, layer.id, 'Recolour', nib.size / 2, recolouring(nib));
  const live = new LiveStroke(nib, calm, zoomOf(picture.view), { seed: seedNow() });
  picture.beginLive(live, layer.id);
  const pen = new RestingPen(calm, (samples) => draw(samples));
  let last: Point = { x: 0, y: 0 };
  const draw = (samples: readonly PenSample[]) => {
    live.add(samples);
    picture.paintLive();
    last = samples[samples.length - 1] ?? last;
    showSlack(board, live, last);
  };
  const stop = () => {
    pen.stop();
    picture.setSketch(undefined);
  };
  return {
    move: (samples) => draw(pen.moved(samples)),
    corner: () => draw(pen.paused()),
    lifted: stop,
    end() {
      stop();
      if (live.isEmpty) return picture.endLive();
      const order = orderBetween(picture.inks.index.topOrder(layer.id), undefined);
      rememberEnd(live.spine());
      void breath().then(() => useLastHand.setState({ pressures: live.kept.map(({ pressure }) => pressure) }));
      if (layer.medium === 'wash') {
        const mark = { kind: 'stroke' as const, id: newId(), layerId: layer.id, order, ...live.stroke() };
        picture.layDownLive(() => picture.addMarks([mark]));
        return void board.washing.turn('Stroke', layer.id, [mark]);
      }
      const place = { strokeId: newId(), samplesId: newId(), layerId: layer.id, order };
      const drawn = [...edits, ...drawnEdits(live, place)];
      picture.layDownLive(() => session.commit('Stroke', drawn, edits.length > 0 ? [] : [layer.id]));
    },
    cancel() {
      stop();
      picture.endLive();
    },
  };
}

/** A seed for the grain of a broken edge: it is kept with the stroke. */
export const seedNow = (): number => Math.floor(Math.random() * 0xffffffff);

function showSlack({ picture }: Board, live: LiveStroke, pen: Point): void {
  const { slack } = live;
  if (!slack) return;
  picture.setSketch((context, map, ratio) =>
    drawSlack(context, apply(map, slack.tip), apply(map, pen), slack.radius * scaleOf(map), ratio),
  );
}

/** ms between two readings of a pen that rests, and how long they are taken. */
const BEAT = 24;
const LONGEST_REST = 1_200;

/**
 * A pen that rests sends no events, but time goes on for a line that trails behind it: readings of the same place are added,
 * and kept with the others, so that the line can be drawn again from them.
 */
class RestingPen {
  private last: PenSample | undefined;
  private lastAt = 0;
  private restSince = 0;
  /** ms that a corner asked for by key has added. */
  private added = 0;
  private readonly timer: ReturnType<typeof setInterval> | undefined;

  constructor(
    calm: Calm,
    private readonly draw: (samples: readonly PenSample[]) => void,
  ) {
    const isTrailing = calm.way === 'tow' || calm.way === 'sprung';
    this.timer = isTrailing ? setInterval(() => this.beat(), BEAT) : undefined;
  }

  /** Samples of the hand as they are kept. */
  moved(samples: readonly PenSample[]): PenSample[] {
    const kept = samples.map((sample) => ({ ...sample, time: (sample.time ?? 0) + this.added }));
    this.last = kept.at(-1) ?? this.last;
    this.lastAt = this.restSince = performance.now();
    return kept;
  }

  /** The pen as if it had rested here long enough to ask for a corner. */
  paused(): PenSample[] {
    if (!this.last) return [];
    const pause = TOW_PAUSE + 1;
    this.added += 2 * pause;
    const { time = 0 } = this.last;
    const rested = [pause, 2 * pause].map((more) => ({ ...this.last, time: time + more }) as PenSample);
    this.last = rested[1];
    return rested;
  }

  stop(): void {
    clearInterval(this.timer);
  }

  private beat(): void {
    const now = performance.now();
    if (!this.last || now - this.lastAt < BEAT || now - this.restSince > LONGEST_REST) return;
    this.last = { ...this.last, time: (this.last.time ?? 0) + now - this.lastAt };
    this.lastAt = now;
    this.draw([this.last]);
  }
}
