import { handleAt, isSmooth, moveHandle, moveNode, nodeAt, nodeCount, type Spine } from '../../curve';
import { apply, translation, type Point } from '../../math';
import { mapSpine } from '../../curve';
import type { GripDrag, GripLook, GripPlace } from './row';

// What shapes of several kinds do alike under a hand.

/** CSS px from the middle of a guide to the knob that turns it. */
export const ARM = 96;
const STEP = Math.PI / 12;

export const off = ({ x, y }: Point, angle: number, by: number): Point => ({
  x: x + by * Math.cos(angle),
  y: y + by * Math.sin(angle),
});

export const gripOf = (part: 'move' | 'turn' | 'ratio' | 'start' | 'end', at: Point): GripPlace => ({
  grip: { part },
  at,
  look: part === 'move' ? 'corner' : 'smooth',
});

export const stepped = (angle: number, isStepped: boolean): number =>
  isStepped ? Math.round(angle / STEP) * STEP : angle;

/** Something with a middle after it was moved. */
export const movedBy = <S extends Point>(shape: S, dx: number, dy: number): S => ({
  ...shape,
  ...apply(translation(dx, dy), shape),
});

/** Something with a middle and an angle after its knob was dragged; nothing for any other grip. */
export function turnedBy<S extends Point & { readonly angle: number }>(
  shape: S,
  { grip, to, isExact }: GripDrag,
): S | undefined {
  if (grip.part !== 'turn') return undefined;
  return { ...shape, angle: stepped(Math.atan2(to.y - shape.y, to.x - shape.x), isExact) };
}

/** The nodes of a curve, and the handles of the chosen one. */
export function courseGrips(course: Spine, { chosen }: GripLook): GripPlace[] {
  const grips: GripPlace[] = [];
  if (chosen !== undefined && chosen < nodeCount(course))
    for (const side of ['in', 'out'] as const) {
      const at = handleAt(course, chosen, side);
      if (at) grips.push({ grip: { part: 'handle', node: chosen, side }, at, look: 'handle' });
    }
  for (let node = 0; node < nodeCount(course); node++) {
    const { x, y } = nodeAt(course, node);
    grips.push({ grip: { part: 'node', node }, at: { x, y }, look: isSmooth(course, node) ? 'smooth' : 'corner' });
  }
  return grips;
}

/** A curve after one of its nodes or handles was dragged; nothing for any other grip. */
export function courseDragged<S extends { readonly course: Spine }>(shape: S, drag: GripDrag): S | undefined {
  const { grip, from, to, isBroken } = drag;
  if (grip.part === 'node')
    return { ...shape, course: moveNode(shape.course, grip.node, { x: to.x - from.x, y: to.y - from.y }) };
  if (grip.part === 'handle') return { ...shape, course: moveHandle(shape.course, grip.node, grip.side, to, isBroken) };
  return undefined;
}

export const courseMoved = <S extends { readonly course: Spine }>(shape: S, dx: number, dy: number): S => ({
  ...shape,
  course: mapSpine(shape.course, translation(dx, dy)),
});
