import { nearestOnSpine, placeNumber, type NearestPlace, type Spine } from '@true-nib/core/curve';
import { boxOfPoints, distance, growBox, type Point } from '@true-nib/core/math';
import { editedCourse, editedWeight, feltBeside, retrace, reweigh, swell, tug, Widths } from '@true-nib/core/mend';
import { find, type Edit, type EntityId, type PenSample, type StrokeEntity } from '@true-nib/core/page';
import { zoomOf } from '../../render/view';
import { calmedGesture, refuse, type Board, type Gesture } from '../inkHand';
import { nibFor, nibInHand, useRack } from '../nibs/rackStore';
import { brushSketch, waySketch } from './mendSketch';
import { useMend } from './mendStore';
import { linesNear, reachedLayers, type Reached } from './reach';

/** CSS px that a hand may miss a line by: a finger's. */
const REACH = 22;

interface Taken extends NearestPlace {
  readonly stroke: StrokeEntity;
}

/** Lines whose ink lies within `reach` page px, nearest first. */
function linesAt(board: Board, { changing }: Reached, at: Point, reach: number): Taken[] {
  return linesNear(board, changing, growBox(boxOfPoints([at]), reach))
    .map(({ kept }) => ({ stroke: kept, ...nearestOnSpine(kept.spine, at) }))
    .filter(({ distance: away, width }) => away - width / 2 <= reach)
    .sort((a, b) => a.distance - a.width / 2 - (b.distance - b.width / 2));
}

/** Shows lines as they would be, and keeps them as one change. */
class Changing {
  private readonly first = new Map<EntityId, StrokeEntity>();

  constructor(private readonly board: Board) {}

  show(stroke: StrokeEntity, after: StrokeEntity): void {
    if (!this.first.has(stroke.id)) this.first.set(stroke.id, stroke);
    const { picture } = this.board;
    const before = find(picture.shownPage, 'stroke', stroke.id) ?? stroke;
    if (before !== after) picture.preview([{ before, after }]);
  }

  keep(label: string): void {
    const { picture, session } = this.board;
    const edits = [...this.first].flatMap(([id, before]): Edit[] => {
      const after = find(picture.shownPage, 'stroke', id);
      return after && after !== before ? [{ before, after }] : [];
    });
    const layers = [...new Set([...this.first.values()].map(({ layerId }) => layerId))];
    if (edits.length > 0 && !session.commit(label, edits, layers)) this.takeBack();
  }

  takeBack(): void {
    for (const stroke of this.first.values()) this.show(stroke, stroke);
  }
}

const perCssOf = ({ picture }: Board): number => 1 / zoomOf(picture.view);

/** Pulls the nearest line, and those beside it where that is asked for. */
export function beginTug(board: Board, at: Point): Gesture {
  const { session, picture, notice } = board;
  const reached = reachedLayers(session.page);
  if (typeof reached === 'string') return refuse(notice, reached);
  const { tug: settings } = useMend.getState();
  const reach = { radius: settings.radius, falloff: settings.falloff / 100, isPinned: settings.isPinned };
  const near = linesAt(board, reached, at, settings.several ? settings.radius : REACH * perCssOf(board));
  if (near.length === 0) return refuse(notice, 'There is no line to tug here.');
  const grips = (settings.several ? near : near.slice(0, 1)).map((taken, k) => ({
    ...{ stroke: taken.stroke, place: placeNumber(taken) },
    share: k === 0 ? 1 : feltBeside(distance(taken, near[0]), reach),
  }));
  const changing = new Changing(board);
  return {
    move: (samples) => {
      const to = samples[samples.length - 1];
      if (!to) return;
      for (const { stroke, place, share } of grips) {
        const spine = tug(stroke.spine, place, { x: share * (to.x - at.x), y: share * (to.y - at.y) }, reach);
        changing.show(stroke, withSpine(stroke, spine));
      }
      picture.setSketch(brushSketch(to, settings.radius));
    },
    end: () => {
      picture.setSketch(undefined);
      changing.keep(grips.length === 1 ? 'Tug' : `Tug ${grips.length} lines`);
    },
    cancel: () => {
      picture.setSketch(undefined);
      changing.takeBack();
    },
  };
}

/** Draws a part of the nearest line again. */
export function beginRetrace(board: Board, at: Point): Gesture {
  const { session, picture, notice } = board;
  const reached = reachedLayers(session.page);
  if (typeof reached === 'string') return refuse(notice, reached);
  const reach = REACH * perCssOf(board);
  const [taken] = linesAt(board, reached, at, reach);
  if (!taken) return refuse(notice, 'Start on the line that is to be drawn again.');
  const { stroke } = taken;
  const hand: PenSample[] = [];
  const changing = new Changing(board);
  let hasLeft = false;
  const gesture: Gesture = {
    move: (samples) => {
      hand.push(...samples);
      const found = retrace(stroke.spine, hand, reach + taken.width / 2);
      picture.setSketch(waySketch(hand));
      if (!found) return;
      changing.show(stroke, editedCourse(stroke, found.spine));
      if (found.leaves !== hasLeft)
        notice(found.leaves ? 'Off the line: it ends where you lift.' : 'Back on the line: its rest stays.');
      hasLeft = found.leaves;
    },
    end: () => {
      picture.setSketch(undefined);
      changing.keep('Retrace');
    },
    cancel: () => {
      picture.setSketch(undefined);
      changing.takeBack();
    },
  };
  return calmedGesture(gesture, nibInHand(useRack.getState()).calm, zoomOf(picture.view));
}

/** Draws the weight of the nearest line again. */
export function beginReweigh(board: Board, at: Point): Gesture {
  const { session, picture, notice } = board;
  const reached = reachedLayers(session.page);
  if (typeof reached === 'string') return refuse(notice, reached);
  const reach = REACH * perCssOf(board);
  const [taken] = linesAt(board, reached, at, reach);
  if (!taken) return refuse(notice, 'Start on the line that is to be weighed.');
  const { stroke } = taken;
  const { weighBy } = useMend.getState();
  const nib = nibFor(session.page);
  const hand: PenSample[] = [];
  const changing = new Changing(board);
  return {
    move: (samples) => {
      hand.push(...samples);
      const profile = weighBy === 'pressure' ? undefined : weighBy;
      const spine = reweigh(stroke.spine, hand, nib, reach + taken.width / 2, profile);
      changing.show(stroke, withWeight(stroke, spine));
      picture.setSketch(waySketch(hand));
    },
    end: () => {
      picture.setSketch(undefined);
      changing.keep('Re-weigh');
    },
    cancel: () => {
      picture.setSketch(undefined);
      changing.takeBack();
    },
  };
}

/** Brings what passes under the brush towards one width. */
export function beginSwell(board: Board): Gesture {
  const { session, picture, notice } = board;
  const reached = reachedLayers(session.page);
  if (typeof reached === 'string') return refuse(notice, reached);
  const { swell: settings } = useMend.getState();
  const lines = new Map<EntityId, { readonly stroke: StrokeEntity; readonly widths: Widths }>();
  const changing = new Changing(board);
  let last: PenSample | undefined;
  return {
    move: (samples) => {
      const touched = new Set<EntityId>();
      for (const sample of samples) {
        const from = last ?? sample;
        last = sample;
        for (const { kept } of linesNear(board, reached.changing, growBox(boxOfPoints([sample]), settings.radius))) {
          // Lines are weighed from what they were when the brush came: what is shown of them is not their own page's.
          let line = lines.get(kept.id);
          if (!line) lines.set(kept.id, (line = { stroke: kept, widths: new Widths(kept.spine) }));
          if (swell(line.widths, line.stroke.spine, from, sample, settings)) touched.add(kept.id);
        }
      }
      for (const id of touched) {
        const line = lines.get(id);
        if (line) changing.show(line.stroke, withWeight(line.stroke, line.widths.apply()));
      }
      if (last) picture.setSketch(brushSketch(last, settings.radius, settings.width));
    },
    end: () => {
      picture.setSketch(undefined);
      changing.keep('Swell or pare');
    },
    cancel: () => {
      picture.setSketch(undefined);
      changing.takeBack();
    },
  };
}

const withSpine = (stroke: StrokeEntity, spine: Spine): StrokeEntity =>
  spine === stroke.spine ? stroke : editedCourse(stroke, spine);

const withWeight = (stroke: StrokeEntity, spine: Spine): StrokeEntity =>
  spine === stroke.spine ? stroke : editedWeight(stroke, spine);
