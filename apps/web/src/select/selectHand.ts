import { type Modifiers, hiddenInWords, layerInHand, refuse, type Gesture, type Board } from '../board';
import { boxOfPoints, distance, growBox, type Point } from '@true-nib/core/math';
import { gapTo, type DrawnEntity } from '@true-nib/core/drawn';
import type { LayerEntity } from '@true-nib/core/page';
import type { PenSample } from '@true-nib/core/hand';
import { draggedFrame, frameGripAt, foundInLoop, foundInRect, type Joining } from '@true-nib/core/select';
import { inParts } from '../base';
import { FRAME_STEM, zoomOf } from '../render';
import { useSelectChoice, type SelectChoice } from './selectChoice';
import { railBox } from '../guiding';
import { selectionSlot, type Selection } from './selection';

/** CSS px that a hand may miss a grip by. */
const REACH = 18;
/** CSS px under which a drag was a touch. */
const SLOP = 4;

/** Selects by the area that the hand draws, or transforms what is selected by what it takes hold of. */
export function beginSelecting(board: Board, at: Point, modifiers: () => Modifiers): Gesture {
  const { layerId } = board.desk();
  const choice = useSelectChoice.getState();
  const { session, picture } = board;
  const selection = board.of(selectionSlot);
  const perCss = 1 / zoomOf(picture.view);
  const grip = selection.frame && frameGripAt(selection.frame, at, REACH * perCss, FRAME_STEM * perCss);
  const node = layerInHand(session.page, layerId);
  const isOwn = selection.layerId === node?.layer.id;
  if (grip && selection.frame && isOwn && !modifiers().altKey && !(modifiers().shiftKey && grip.part === 'inside')) {
    if (node?.isLocked) return refuse(board.notice, `${node.layer.name} is locked.`);
    const touch = choice.selectBy === 'touch' && grip.part === 'inside' && node;
    return beginTransforming(
      selection,
      grip,
      modifiers,
      perCss,
      touch ? () => beginArea(board, node.layer, choice, 'instead', perCss) : undefined,
    );
  }
  if (node?.layer.medium !== 'ink' && node?.layer.medium !== 'wash')
    return refuse(board.notice, 'Take an Ink layer in hand to select its lines, or a Wash layer to select its pixels.');
  if (node.isHidden) return refuse(board.notice, hiddenInWords(board.session.page, node.layer));
  const joining: Joining = modifiers().shiftKey ? 'also' : modifiers().altKey ? 'less' : 'instead';
  return beginArea(board, node.layer, choice, joining, perCss);
}

/** Drags what is selected by a grip; what goes nowhere is a touch, where `touch` says what that does. */
function beginTransforming(
  selection: Selection,
  grip: NonNullable<ReturnType<typeof frameGripAt>>,
  modifiers: () => Modifiers,
  perCss: number,
  touch: (() => Gesture) | undefined,
): Gesture {
  const start = selection.frame;
  let course: PenSample[] = [];
  let isDragged = touch === undefined;
  return {
    move(samples) {
      course = [...course.slice(0, 1), ...samples];
      const to = course.at(-1);
      if (!to || !start) return;
      isDragged ||= distance(course[0], to) > SLOP * perCss;
      if (!isDragged) return;
      const { proportional, fromCentre, freeCorners } = useSelectChoice.getState();
      const { shiftKey, altKey } = modifiers();
      selection.setFrame(
        draggedFrame(start, grip, course[0], to, {
          proportional: proportional !== shiftKey,
          fromCentre: fromCentre !== altKey,
          free: freeCorners,
        }),
      );
    },
    end() {
      if (isDragged || course.length === 0) return;
      const area = touch?.();
      area?.move(course.slice(0, 1));
      area?.end();
    },
    cancel() {
      if (start) selection.setFrame(start);
    },
  };
}

function beginArea(board: Board, layer: LayerEntity, choice: SelectChoice, joining: Joining, perCss: number): Gesture {
  const { picture } = board;
  const selection = board.of(selectionSlot);
  const course: Point[] = [];
  const near = (margin = 0) => picture.drawnOn(layer.id, growBox(boxOfPoints([...course, ...area()]), margin));
  const area = (): readonly Point[] => {
    if (choice.selectBy !== 'rect') return course;
    const [a, b] = [course[0], course[course.length - 1]];
    const slanted = railBox(board, layer.id, a, b);
    if (slanted) return slanted;
    return [a, { x: b.x, y: a.y }, b, { x: a.x, y: b.y }];
  };
  const isTap = () => {
    const { minX, minY, maxX, maxY } = boxOfPoints(course);
    return Math.max(maxX - minX, maxY - minY) < SLOP * perCss;
  };
  const shown = (entity: DrawnEntity) => picture.inks.index.shown(entity);
  /** What the way has touched, leg by leg as it is drawn: a long one on a full page goes by thousands of lines. */
  const crossed = new Set<DrawnEntity>();
  const cross = (p: Point, q: Point): void => {
    for (const entity of picture.drawnOn(layer.id, boxOfPoints([p, q])))
      if (!crossed.has(entity) && gapTo(shown(entity), p, q, 0) <= 0) crossed.add(entity);
  };
  const touched = (): DrawnEntity[] => {
    if (!isTap()) return [...crossed];
    const reach = 22 * perCss;
    const gaps = near(reach).map((entity) => ({ entity, gap: gapTo(shown(entity), course[0], course[0], reach) }));
    const nearest = gaps.sort((a, b) => a.gap - b.gap)[0];
    return nearest && nearest.gap < reach ? [nearest.entity] : [];
  };
  return {
    move(samples) {
      for (const sample of samples) {
        const last = course.at(-1);
        if (last && choice.selectBy === 'touch' && layer.medium === 'ink') cross(last, sample);
        course.push(sample);
      }
      picture.setArea(choice.selectBy === 'touch' ? [...course, ...[...course].reverse()] : area());
    },
    end() {
      picture.setArea(undefined);
      if (course.length === 0) return;
      if (joining === 'instead') selection.searching.anew();
      if (layer.medium === 'wash') {
        const isTouch = choice.selectBy === 'touch' || isTap();
        const at = course[course.length - 1];
        return void selection.chooseArea(
          layer.id,
          isTouch ? { by: 'touch', at } : { by: 'loop', loop: area() },
          joining,
        );
      }
      const options = { whole: choice.selectWhole };
      if (choice.selectBy === 'touch' || isTap()) return selection.choose(touched(), layer.id, joining);
      const loop = area();
      const box = boxOfPoints(loop);
      const isUpright = choice.selectBy === 'rect' && !railBox(board, layer.id, course[0], course[course.length - 1]);
      const inside = (some: readonly DrawnEntity[]) =>
        isUpright ? foundInRect(some, box, options) : foundInLoop(some, loop, options);
      const choose = (found: readonly DrawnEntity[]) => selection.choose(found, layer.id, joining);
      selection.searching
        .hear(inParts(near(), PART, inside), choose)
        .catch(() => board.notice('This could not be selected. Try once more.'));
    },
    cancel: () => picture.setArea(undefined),
  };
}

/** Strokes looked at in one go: some ms. */
const PART = 400;
