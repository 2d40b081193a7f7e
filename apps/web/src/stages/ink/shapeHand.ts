import { seedNow } from '../../base';
import type { Spine } from '@true-nib/core/curve';
import type { Thing } from '@true-nib/core/drawn';
import { inFrame, onPlane, planeHomography, seenCourse } from '@true-nib/core/guides';
import { distance, type Point } from '@true-nib/core/math';
import { inked } from '@true-nib/core/stroke';
import { PageError } from '@true-nib/core/gate';
import type { EntityId } from '@true-nib/core/kind';
import {
  draggedShape,
  polylineSpine,
  type DraggedShape,
  type ShapeKind,
  type ShapeSettings,
} from '@true-nib/core/shapes';
import { sayAt } from '../../look';
import { type Press, type Board, refuse, type Gesture, type Modifiers, targetInHand } from '../../board';
import { useShapeChoice } from './shapeChoice';
import { railBox, straightWay, thingsWithCopies, useDepth, actingFrame, type FrameGuide } from '../../guiding';
import { nibFor } from '../../nibs';
import { layDown } from '../../hand';

type DraggedKind = Exclude<ShapeKind, 'poly-line'>;

const NAMES: Readonly<Record<ShapeKind, string>> = {
  line: 'Line',
  'poly-line': 'Poly-line',
  arc: 'Arc',
  rectangle: 'Rectangle',
  ellipse: 'Ellipse',
  polygon: 'Polygon',
  star: 'Star',
};

/** How a shape is dragged out, where it is not stroked with the nib in hand from where the pen came down. */
interface ShapeOptions {
  /** Where it begins. */
  readonly from?: Point | undefined;
  /** What a course is made into, and what that is called. */
  readonly made?: { readonly label: string; readonly make: (course: Spine) => Thing };
}

/** Drags a shape out. */
export function beginShape(board: Board, kind: DraggedKind, press: Press, { from, made }: ShapeOptions = {}): Gesture {
  const { picture, session, notice } = board;
  const target = targetInHand(board);
  const { settings } = useShapeChoice.getState();
  if (typeof target === 'string') return refuse(notice, target);
  const { layer } = target;
  if (layer.holdsShape) return refuse(notice, `${layer.name} holds its shape: draw over what is there to colour it.`);
  const nib = nibFor(session.page);
  const seed = seedNow();
  let [start, last] = [from, from];
  let shape: GuidedShape | undefined;
  const thingOf = ({ course, frame }: GuidedShape): Thing => {
    if (made) return made.make(course);
    const stroke = inked(course, nib, seed);
    return frame ? inFrame(stroke, frame.id, frame.shape) : stroke;
  };
  return {
    move(samples) {
      for (const sample of samples) {
        start ??= sample;
        if (press.isMoving() && last) start = { x: start.x + sample.x - last.x, y: start.y + sample.y - last.y };
        last = sample;
      }
      if (!start || !last) return;
      shape = guidedShape(board, layer.id, {
        ...{ kind, start, end: last },
        settings: settingsWith(settings, press.modifiers()),
      });
      const things = shape ? [thingOf(shape)] : [];
      picture.showThings(thingsWithCopies(session.page, layer.id, things), layer.id);
      if (shape) sayMeasures(board, shape, last);
    },
    end() {
      if (shape) layDown(board, target, made?.label ?? NAMES[kind], [thingOf(shape)]);
      else picture.endLive();
    },
    cancel: () => picture.endLive(),
  };
}

interface GuidedShape extends DraggedShape {
  /** The frame on whose plane it lies. */
  readonly frame?: FrameGuide;
}

/** A drag from `start` to `end`, page px, and what it is to make. */
interface ShapeDrag {
  readonly kind: DraggedKind;
  readonly start: Point;
  readonly end: Point;
  readonly settings: ShapeSettings;
}

/** The shape that a drag makes; where guides act lines go along them, and boxes along rails. */
function guidedShape(board: Board, layerId: EntityId, drag: ShapeDrag): GuidedShape | undefined {
  const { kind, start, end, settings } = drag;
  if (kind === 'line' && !settings.regular) {
    const { from, to } = straightWay(board, layerId, start, end);
    return draggedShape(kind, from, to, settings);
  }
  const inDepth = kind === 'line' || kind === 'arc' ? undefined : shapeOnPlane(board, layerId, drag);
  if (inDepth) return inDepth;
  const opposite = settings.fromCentre ? { x: 2 * start.x - end.x, y: 2 * start.y - end.y } : start;
  const corners = kind === 'rectangle' ? railBox(board, layerId, opposite, end) : undefined;
  if (!corners) return draggedShape(kind, start, end, settings);
  const [width, height] = [distance(corners[0], corners[1]), distance(corners[1], corners[2])];
  if (Math.min(width, height) < 0.5) return undefined;
  return { course: polylineSpine(corners, true), measures: { of: 'box', width, height } };
}

/** A shape dragged in the plane in hand of the frame that acts: square there is square in truth. Nothing where none acts. */
function shapeOnPlane(
  { session }: Board,
  layerId: EntityId,
  { kind, start, end, settings }: ShapeDrag,
): GuidedShape | undefined {
  const frame = actingFrame(session.page, layerId);
  if (!frame) return undefined;
  try {
    const map = planeHomography(frame.shape, useDepth.getState().plane, start, session.page.size);
    const to = onPlane(map, end);
    const shape = to && draggedShape(kind, { x: 0, y: 0 }, to, settings);
    const course = shape && seenCourse(shape.course, map);
    return course && { course, measures: shape.measures, frame };
  } catch (error) {
    // A frame that is no camera's has no true squares: its lines are all it gives.
    if (error instanceof PageError) return undefined;
    throw error;
  }
}

/** Held keys turn the switches around. */
export const settingsWith = (settings: ShapeSettings, { shiftKey, altKey }: Modifiers): ShapeSettings => ({
  ...settings,
  regular: settings.regular !== shiftKey,
  fromCentre: settings.fromCentre !== altKey,
});

const px = (value: number): string => `${value.toFixed(value < 100 ? 1 : 0)}`;

function inWords({ measures }: DraggedShape): string {
  if (measures.of === 'box') return `${px(measures.width)} × ${px(measures.height)} px`;
  const angle = `${measures.angle.toFixed(1)}°`;
  return measures.of === 'line' ? `${px(measures.length)} px · ${angle}` : `r ${px(measures.radius)} px · ${angle}`;
}

function sayMeasures({ picture }: Board, shape: DraggedShape, at: Point): void {
  sayAt(inWords(shape), picture.inWindow(at));
}
