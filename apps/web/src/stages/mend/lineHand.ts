import { placeNumber, type Spine } from '@true-nib/core/curve';
import { boxOfPoints, distance, growBox, type Point } from '@true-nib/core/math';
import {
  edgeNamed,
  editedCourse,
  editedWeight,
  feltBeside,
  keptPlace,
  lineNamed,
  linesWithin,
  nearestLine,
  retrace,
  Reweighing,
  swell,
  tug,
  Widths,
  withoutEdges,
  type LineNear,
  type ShownLine,
  type SwellSettings,
} from '@true-nib/core/mend';
import type { Edit } from '@true-nib/core/page';
import { keptWidth, type StrokeEntity } from '@true-nib/core/stroke';
import type { EntityId } from '@true-nib/core/kind';
import type { PenSample } from '@true-nib/core/hand';
import { zoomOf } from '../../render';
import { calmedGesture, refuse, type Gesture, type Board } from '../../board';
import { nibFor, nibInHand, useRack } from '../../nibs';
import { brushSketch, waySketch } from './mendSketch';
import { useMend } from './mendStore';
import { FINGER, linesNear, reachedLayers, type Reached } from '../../hand';

/** Lines whose ink is seen within `reach` page px, nearest first. */
const linesAt = (board: Board, { changing }: Reached, at: Point, reach: number): LineNear<ShownLine>[] =>
  linesWithin(linesNear(board, changing, growBox(boxOfPoints([at]), reach)), seen, at, reach);

/** The one of them that is nearest. */
const lineAt = (board: Board, { changing }: Reached, at: Point, reach: number): LineNear<ShownLine> | undefined =>
  nearestLine(linesNear(board, changing, growBox(boxOfPoints([at]), reach)), seen, at, reach);

const seen = ({ shown }: ShownLine): StrokeEntity => shown;

/** Shows lines as they would be, and keeps them as one change. */
class Changing {
  private readonly first = new Map<EntityId, StrokeEntity>();

  constructor(private readonly board: Board) {}

  /** Lines as they are kept, each with how it would be: shown in one go, so that no place is painted for each of them. */
  show(changed: Iterable<readonly [stroke: StrokeEntity, after: StrokeEntity]>): void {
    const { picture } = this.board;
    const edits: Edit[] = [];
    for (const [stroke, after] of changed) {
      if (!this.first.has(stroke.id)) this.first.set(stroke.id, stroke);
      const before = lineNamed(picture.shownPage, stroke.id) ?? stroke;
      if (before !== after) edits.push({ before, after });
    }
    if (edits.length > 0) picture.preview(withoutEdges(picture.shownPage, edits));
  }

  keep(label: string): void {
    const { picture, session } = this.board;
    const edits = [...this.first].flatMap(([id, before]): Edit[] => {
      const after = lineNamed(picture.shownPage, id);
      return after && after !== before ? [{ before, after }] : [];
    });
    if (edits.length > 0 && !session.commit(label, withoutEdges(session.page, edits))) this.takeBack();
  }

  takeBack(): void {
    const { picture } = this.board;
    const edits = [...this.first.values()].map((before) => ({ before, after: null }));
    picture.letBe(withoutEdges(picture.shownPage, edits));
  }
}

const fingerOf = ({ picture }: Board): number => FINGER / zoomOf(picture.view);

/** A gesture that shows lines as they would be while the hand goes on; `change` is told its samples. */
function beginChange(
  { picture }: Board,
  changing: Changing,
  label: string,
  change: (samples: readonly PenSample[]) => void,
): Gesture {
  return {
    move: change,
    end: () => {
      picture.setSketch(undefined);
      changing.keep(label);
    },
    cancel: () => {
      picture.setSketch(undefined);
      changing.takeBack();
    },
  };
}

/** Pulls the nearest line, and those beside it where that is asked for. */
export function beginTug(board: Board, at: Point): Gesture {
  const { session, picture, notice } = board;
  const reached = reachedLayers(session.page, useMend.getState().reach);
  if (typeof reached === 'string') return refuse(notice, reached);
  const { tug: settings } = useMend.getState();
  const reach = { radius: settings.radius, falloff: settings.falloff / 100, isPinned: settings.isPinned };
  const nearest = lineAt(board, reached, at, settings.several ? settings.radius : fingerOf(board));
  if (!nearest) return refuse(notice, 'There is no line to tug here.');
  const near = settings.several ? linesAt(board, reached, at, settings.radius) : [nearest];
  const grips = near.map((one, k) => ({
    ...{ stroke: one.line.kept, place: keptPlace(one.line, placeNumber(one)) },
    share: k === 0 ? 1 : feltBeside(distance(one, nearest), reach),
  }));
  const changing = new Changing(board);
  const label = grips.length === 1 ? 'Tug' : `Tug ${grips.length} lines`;
  return beginChange(board, changing, label, (samples) => {
    const to = samples[samples.length - 1];
    if (!to) return;
    changing.show(
      grips.map(({ stroke, place, share }) => {
        const step = { x: share * (to.x - at.x), y: share * (to.y - at.y) };
        return [stroke, withSpine(stroke, tug(stroke.spine, place, step, reach))];
      }),
    );
    picture.setSketch(brushSketch(to, settings.radius));
  });
}

/** Draws a part of the nearest line again. */
export function beginRetrace(board: Board, at: Point): Gesture {
  const { session, picture, notice } = board;
  const reached = reachedLayers(session.page, useMend.getState().reach);
  if (typeof reached === 'string') return refuse(notice, reached);
  const reach = fingerOf(board);
  const near = lineAt(board, reached, at, reach);
  if (!near) return refuse(notice, 'Start on the line that is to be drawn again.');
  const stroke = near.line.kept;
  const hand: PenSample[] = [];
  const changing = new Changing(board);
  let hasLeft = false;
  const gesture = beginChange(board, changing, 'Retrace', (samples) => {
    hand.push(...samples);
    picture.setSketch(waySketch(hand));
    const found = retrace(stroke.spine, hand, reach + near.width / 2);
    if (!found) return;
    changing.show([[stroke, withSpine(stroke, found.spine)]]);
    if (found.leaves !== hasLeft)
      notice(found.leaves ? 'Off the line: it ends where you lift.' : 'Back on the line: its rest stays.');
    hasLeft = found.leaves;
  });
  return calmedGesture(gesture, nibInHand(useRack.getState()).calm, zoomOf(picture.view));
}

/** Draws the weight of the nearest line again. */
export function beginReweigh(board: Board, at: Point): Gesture {
  const { session, picture, notice } = board;
  const reached = reachedLayers(session.page, useMend.getState().reach);
  if (typeof reached === 'string') return refuse(notice, reached);
  const reach = fingerOf(board);
  const near = lineAt(board, reached, at, reach);
  if (!near) return refuse(notice, 'Start on the line that is to be weighed.');
  if (edgeNamed(near.line.kept.id)) return refuse(notice, 'The edge of an area has no weight: tug it, or retrace it.');
  const stroke = near.line.kept;
  const { weighBy } = useMend.getState();
  const profile = weighBy === 'pressure' ? undefined : weighBy;
  const weighing = new Reweighing(stroke.spine, nibFor(session.page), reach + near.width / 2, profile);
  const hand: PenSample[] = [];
  const changing = new Changing(board);
  return beginChange(board, changing, 'Re-weigh', (samples) => {
    hand.push(...samples);
    weighing.add(samples);
    changing.show([[stroke, withWeight(stroke, weighing.spineNow())]]);
    picture.setSketch(waySketch(hand));
  });
}

/** A line under the brush. */
interface Swelling {
  readonly stroke: StrokeEntity;
  readonly widths: Widths;
  readonly settings: SwellSettings;
}

/** Brings what passes under the brush towards one width. */
export function beginSwell(board: Board): Gesture {
  const { session, picture, notice } = board;
  const reached = reachedLayers(session.page, useMend.getState().reach);
  if (typeof reached === 'string') return refuse(notice, reached);
  const { swell: settings } = useMend.getState();
  /** Lines under the brush, and the width that each is to be kept with: what is striven for is the width that is seen. */
  const lines = new Map<EntityId, Swelling>();
  const changing = new Changing(board);
  let last: PenSample | undefined;
  return beginChange(board, changing, 'Swell or pare', (samples) => {
    const touched = new Set<Swelling>();
    for (const sample of samples) {
      const from = last ?? sample;
      last = sample;
      const under = growBox(boxOfPoints([from, sample]), settings.radius);
      for (const { kept } of linesNear(board, reached.changing, under)) {
        // The edge of an area has no weight.
        if (edgeNamed(kept.id)) continue;
        // Lines are weighed from what they were when the brush came, not from what is shown of them by now.
        let line = lines.get(kept.id);
        if (!line) {
          const width = keptWidth(kept.nib, picture.inks.index.styleOf(kept.layerId), settings.width);
          line = { stroke: kept, widths: new Widths(kept.spine), settings: { ...settings, width } };
          lines.set(kept.id, line);
        }
        if (swell(line.widths, line.stroke.spine, from, sample, line.settings)) touched.add(line);
      }
    }
    changing.show([...touched].map(({ stroke, widths }) => [stroke, withWeight(stroke, widths.apply())] as const));
    if (last) picture.setSketch(brushSketch(last, settings.radius, settings.width));
  });
}

const withSpine = (stroke: StrokeEntity, spine: Spine): StrokeEntity =>
  spine === stroke.spine ? stroke : editedCourse(stroke, spine);

const withWeight = (stroke: StrokeEntity, spine: Spine): StrokeEntity =>
  spine === stroke.spine ? stroke : editedWeight(stroke, spine);
