import { areaWithin, type Area } from '@true-nib/core/area';
import { fitSpine, makeSpine, type Spine } from '@true-nib/core/curve';
import { distance, ringArea, type Point } from '@true-nib/core/math';
import type { PenSample } from '@true-nib/core/hand';
import { makeCalmer } from '@true-nib/core/ink';
import { polylineSpine } from '@true-nib/core/shapes';
import { refuse, type Board, type Gesture, type Press } from '../../board';
import { thingsWithCopies } from '../../guiding';
import { layDown } from '../../hand';
import { nibInHand, useRack } from '../../nibs';
import { zoomOf } from '../../render';
import { beginStroke } from '../ink';
import { filledLayer, FILLING_IN_WORDS, fillOf, takesInk, type FillingTool } from './filling';

/** CSS px that a fitted outline may stray from the hand's, page px at most. */
const STRAY = { css: 0.04, most: 0.3 } as const;
/** CSS px² that a loop goes round at least, and CSS px between places of a straight stretch. */
const LEAST_AREA = 12;
const STEP = 6;
/** Places of a hand that are fitted anew with each step. */
const MOST_FITTED = 700;

/** The way of a hand round an area: curved, and straight from where a key came down to where it is let go. */
export class LoopWay {
  readonly points: Point[] = [];
  private straightFrom: number | undefined;

  add(sample: Point, isStraight: boolean): void {
    const { points } = this;
    if (!isStraight || points.length === 0) {
      this.straightFrom = undefined;
      points.push({ x: sample.x, y: sample.y });
      return;
    }
    this.straightFrom ??= points.length;
    points.splice(this.straightFrom, points.length, { x: sample.x, y: sample.y });
  }

  /** The outline as it is shown while it grows, up to where the pen is: as it will be kept, or corner by corner where that takes long. */
  shown(pen: Point, tolerance: number, step: number): Spine {
    const { points } = this;
    return points.length > MOST_FITTED
      ? polylineSpine([...points, pen], true)
      : this.fitted(tolerance, step, [...points, pen]);
  }

  /** The outline as it is kept: straying by `tolerance` page px at most, corners kept. `step`: page px between places of what is straight. */
  fitted(tolerance: number, step: number, points: readonly Point[] = this.points): Spine {
    const all = [...points, points[0]].flatMap((p, k, ring): Point[] => {
      const from = k === 0 ? p : ring[k - 1];
      const count = Math.max(1, Math.ceil(distance(from, p) / step));
      return Array.from({ length: count }, (_, i) => {
        const t = (i + 1) / count;
        return { x: from.x + (p.x - from.x) * t, y: from.y + (p.y - from.y) * t };
      });
    });
    return makeSpine(fitSpine(all, tolerance).points, true);
  }
}

/** Draws the outline of a blot or a nick by hand; it is filled while it grows. */
export function beginLoop(board: Board, tool: FillingTool, press: Press): Gesture {
  const { picture, session, notice } = board;
  const target = filledLayer(board);
  if (typeof target === 'string') return refuse(notice, target);
  const { layer } = target;
  const fill = fillOf(tool, board);
  const way = new LoopWay();
  const perCss = 1 / zoomOf(picture.view);
  const [tolerance, step] = [Math.min(STRAY.most, STRAY.css * perCss), STEP * perCss];
  const show = (area: Area) => picture.showThings(thingsWithCopies(session.page, layer.id, [area]), layer.id);
  const calmer = makeCalmer(nibInHand(useRack.getState()).calm, 1 / perCss);
  const add = (samples: readonly PenSample[]) => {
    for (const sample of samples) way.add(sample, press.modifiers().shiftKey);
  };
  return {
    move(samples) {
      add(calmer.push(samples));
      const pen = samples.at(-1);
      if (pen && way.points.length > 2) show(areaWithin([way.shown(pen, tolerance, step)], fill));
    },
    end() {
      add(calmer.finish());
      const isFlat = way.points.length < 3 || Math.abs(areaOf(way.points)) < LEAST_AREA * perCss ** 2;
      if (isFlat) {
        picture.endLive();
        return notice('Draw a loop: what it goes round is filled.');
      }
      const area = areaWithin([way.fitted(tolerance, step)], fill);
      if (tool === 'nick' && !takesInk(board, layer.id, area)) {
        picture.endLive();
        return notice(`There is no ink on ${layer.name} to nick here.`);
      }
      show(area);
      layDown(board, target, FILLING_IN_WORDS[tool], [area]);
    },
    cancel: () => picture.endLive(),
  };
}

/** Draws the contour of a blot with the nib in hand: line and black in one pull. */
export function beginContour(board: Board): Gesture {
  const target = filledLayer(board);
  if (typeof target === 'string') return refuse(board.notice, target);
  if (target.layer.medium !== 'ink') return refuse(board.notice, 'A contour with its black is drawn on an Ink layer.');
  const fill = fillOf('blot', board);
  const way: PenSample[] = [];
  const { picture } = board;
  const inner = beginStroke(board, {
    beneath: { label: 'Blot with its contour', make: ({ spine }) => [areaWithin([spine], fill)] },
  });
  const clear = () => picture.setSketch(undefined);
  return {
    ...inner,
    move(samples) {
      inner.move(samples);
      way.push(...samples);
      if (fill.as !== 'colour') return;
      const { color } = fill;
      picture.setSketch((context, map) => {
        context.setTransform(...map);
        context.fillStyle = color;
        context.beginPath();
        for (const { x, y } of way) context.lineTo(x, y);
        context.fill('nonzero');
        context.setTransform(1, 0, 0, 1, 0, 0);
      });
    },
    end() {
      clear();
      inner.end();
    },
    cancel() {
      clear();
      inner.cancel();
    },
  };
}

const areaOf = (points: readonly Point[]): number => ringArea(points.flatMap(({ x, y }) => [x, y]));
