import { flattenSpine } from '@true-nib/core/curve';
import { strokeMarks } from '@true-nib/core/drawn';
import { apply, type Point } from '@true-nib/core/math';
import type { MendMark } from '@true-nib/core/mend';
import type { StrokeEntity } from '@true-nib/core/stroke';
import { type Sketch, pathOf, strokeBoth } from '../../render';

/** Lines that are about to go, or to be changed: their ink in the colour of what is active, so that it is seen on black. */
export const goingSketch =
  (strokes: readonly StrokeEntity[]): Sketch =>
  (context, map, ratio, colours) => {
    context.setTransform(...map);
    context.fillStyle = colours.seal;
    for (const mark of strokes.flatMap(strokeMarks)) context.fill(pathOf(mark, 0.1));
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.lineWidth = 2 * ratio;
    context.strokeStyle = colours.seal;
    // A hair is not to be seen by its ink alone.
    for (const stroke of strokes) {
      const line = flattenSpine(stroke.spine, 0.25);
      context.beginPath();
      for (let i = 0; i < line.length; i += 3) {
        const at = apply(map, { x: line[i], y: line[i + 1] });
        context.lineTo(at.x, at.y);
      }
      context.stroke();
    }
  };

/** CSS px from the middle of a mark to its edge. */
const MARK = 7;
/** Marks that are stamped in one frame. */
const STAMPED = 1_000;

/**
 * Places at which something will be done: rings with a dot; hollow and dashed where it is left alone. A page may have
 * thousands: each kind is drawn once and stamped, some with each frame, on a sheet that is kept for as long as the view stays.
 */
export function marksSketch(marks: readonly MendMark[]): Sketch {
  let sheet: { readonly canvas: OffscreenCanvas; readonly key: string; stamped: number } | undefined;
  let stamps: readonly [due: OffscreenCanvas, left: OffscreenCanvas] | undefined;
  return (context, map, ratio, { seal }, again) => {
    const half = Math.ceil((MARK + 2) * ratio);
    const { width, height } = context.canvas;
    const key = [width, height, ratio, seal, ...map].join();
    if (sheet?.key !== key || !stamps) {
      sheet = { canvas: new OffscreenCanvas(width, height), key, stamped: 0 };
      stamps = [markStamp(half, ratio, seal), markStamp(half, ratio, undefined)];
    }
    const on = sheet.canvas.getContext('2d');
    const end = Math.min(marks.length, sheet.stamped + STAMPED);
    for (; sheet.stamped < end; sheet.stamped++) {
      const mark = marks[sheet.stamped];
      const { x, y } = apply(map, mark);
      if (x < -half || y < -half || x > width + half || y > height + half) continue;
      on?.drawImage(stamps[mark.isException ? 1 : 0], Math.round(x) - half, Math.round(y) - half);
    }
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.drawImage(sheet.canvas, 0, 0);
    if (sheet.stamped < marks.length) again();
  };
}

/** A ring in a square of twice `half` device px, with a dot of a colour, or dashed where there is none. */
function markStamp(half: number, ratio: number, dot: string | undefined): OffscreenCanvas {
  const stamp = new OffscreenCanvas(2 * half, 2 * half);
  const context = stamp.getContext('2d');
  if (!context) return stamp;
  strokeBoth(context, ratio, () => context.arc(half, half, MARK * ratio, 0, 2 * Math.PI), dot === undefined);
  if (dot === undefined) return stamp;
  context.fillStyle = dot;
  context.beginPath();
  context.arc(half, half, 2.5 * ratio, 0, 2 * Math.PI);
  context.fill();
  return stamp;
}

/** A ring as large as a reach on the page, and a dot in it as large as the width that is striven for. */
export const brushSketch =
  (at: Point, radius: number, dot?: number): Sketch =>
  (context, map, ratio, colours) => {
    const scale = Math.hypot(map[0], map[1]);
    const { x, y } = apply(map, at);
    context.setTransform(1, 0, 0, 1, 0, 0);
    strokeBoth(context, ratio, () => {
      context.moveTo(x + radius * scale, y);
      context.arc(x, y, radius * scale, 0, 2 * Math.PI);
    });
    if (dot === undefined) return;
    context.fillStyle = colours.seal;
    context.beginPath();
    context.arc(x, y, Math.max(ratio, (dot * scale) / 2), 0, 2 * Math.PI);
    context.fill();
  };

/** The way of the hand, as a hairline in the colour of what is active. */
export const waySketch =
  (course: readonly Point[]): Sketch =>
  (context, map, ratio, colours) => {
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.lineWidth = 1.5 * ratio;
    context.strokeStyle = colours.seal;
    context.beginPath();
    for (const point of course) {
      const at = apply(map, point);
      context.lineTo(at.x, at.y);
    }
    context.stroke();
  };
