import { seedNow, breath } from '../../base';
import type { GuidePath } from '@true-nib/core/curve';
import type { Thing } from '@true-nib/core/drawn';
import { TOW_PAUSE, type LiveStroke } from '@true-nib/core/ink';
import { type Calm, packSamples, type PenSample } from '@true-nib/core/hand';
import { apply, scaleOf, type Point } from '@true-nib/core/math';
import type { SamplesEntity, Stroke } from '@true-nib/core/stroke';
import { drawSlack, zoomOf } from '../../render';
import { newId } from '../../session';
import { calmedGesture, refuse, type Gesture, type Board, targetInHand } from '../../board';
import { BornStroke, setGuides } from '../../guiding';
import { beginClearing, recolouring } from './clearing';
import { beginCutting, layDown } from '../../hand';
import { nibFor, nibInHand, useLastHand, useRack } from '../../nibs';
import { beginMarks } from '../../wash';

interface Drawing {
  /** What is laid under it in the same pull, and what the two are called. */
  readonly beneath?: { readonly label: string; readonly make: (stroke: Stroke) => readonly Thing[] };
  /** A way that it runs along, whatever guides there are. */
  readonly along?: GuidePath;
}

/** Draws a stroke with the nib in hand. When the layer takes none it says so, and the hand stays still. */
export function beginStroke(board: Board, { beneath, along }: Drawing = {}): Gesture {
  const { picture, session, notice } = board;
  const target = targetInHand(board);
  if (typeof target === 'string') return refuse(notice, target);
  const { layer } = target;
  const { calm, lays } = nibInHand(useRack.getState());
  const nib = nibFor(session.page);
  if (lays === 'clearing') return calmedGesture(beginClearing(board, layer, nib), calm, zoomOf(picture.view));
  if (layer.holdsShape && layer.medium === 'wash') return beginMarks(board, layer.id, 'Recolour', nib);
  if (layer.holdsShape)
    return beginCutting(board, layer.id, 'Recolour', { reach: nib.size / 2, cut: recolouring(nib) });
  const born = new BornStroke(board, layer.id, nib, { calm, seed: seedNow(), along });
  const pen = new RestingPen(calm, (samples) => draw(samples));
  let last: Point = { x: 0, y: 0 };
  const draw = (samples: readonly PenSample[]) => {
    born.add(samples);
    picture.paintLive();
    last = samples[samples.length - 1] ?? last;
    showSlack(board, born.live, last);
  };
  const stop = () => {
    pen.stop();
    picture.setSketch(undefined);
    setGuides({ bearer: undefined, bearing: undefined });
  };
  return {
    move: (samples) => draw(pen.moved(samples)),
    corner() {
      if (!born.next()) return draw(pen.paused());
      picture.paintLive();
    },
    lifted: stop,
    end() {
      stop();
      const { live } = born;
      if (live.isEmpty) return picture.endLive();
      const hand = live.kept;
      void breath().then(() => useLastHand.setState({ pressures: hand.map(({ pressure }) => pressure) }));
      const samples: SamplesEntity = { kind: 'samples', id: newId(), packed: packSamples(hand) };
      const origin = { samples: samples.id, calm: live.calm, zoom: live.zoom };
      const stroke = { ...live.stroke(), ...born.bornOn, origin };
      layDown(board, target, beneath?.label ?? 'Stroke', [...(beneath?.make(stroke) ?? []), stroke], samples);
    },
    cancel() {
      stop();
      picture.endLive();
    },
  };
}

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
