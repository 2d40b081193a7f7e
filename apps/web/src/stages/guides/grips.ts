import {
  handleAt,
  insertNode,
  isSmooth,
  moveHandle,
  moveNode,
  nearestOnSpine,
  nodeAt,
  nodeCount,
  type Side,
  type Spine,
} from '@true-nib/core/curve';
import {
  aimedAt,
  draggedFrame,
  edgePaths,
  frameGrips,
  fromPlane,
  halfSize,
  horizonOf,
  isOnRuler,
  onPlane,
  project,
  shiftedShape,
  templateMap,
  wayTo,
  type FrameDrag,
  type FrameGrip,
  type Seen,
  GUIDE_LIMITS,
  type GuideShape,
  type StraightedgeShape,
} from '@true-nib/core/guides';
import { apply, clamp, distance, invert, type Point } from '@true-nib/core/math';

/** What a hand takes hold of on a guide. */
export type GuideGrip =
  | { readonly part: 'move' | 'turn' | 'ratio' | 'start' | 'end' }
  | { readonly part: 'corner'; readonly corner: number }
  | { readonly part: 'frame'; readonly grip: FrameGrip }
  | { readonly part: 'node'; readonly node: number }
  | { readonly part: 'handle'; readonly node: number; readonly side: Side };

export interface GripPlace {
  readonly grip: GuideGrip;
  readonly at: Point;
  readonly look: 'corner' | 'smooth' | 'handle';
}

/** CSS px from the middle of a guide to the knob that turns it. */
const ARM = 96;
const STEP = Math.PI / 12;

const off = ({ x, y }: Point, angle: number, by: number): Point => ({
  x: x + by * Math.cos(angle),
  y: y + by * Math.sin(angle),
});

/** The grips of a guide; `perCss` is page px per CSS px, `chosen` the node of a curve whose handles are shown. */
export function guideGrips(shape: GuideShape, perCss: number, chosen: number | undefined, seen: Seen): GripPlace[] {
  const grip = (part: 'move' | 'turn' | 'ratio' | 'start' | 'end', at: Point): GripPlace => ({
    grip: { part },
    at,
    look: part === 'move' ? 'corner' : 'smooth',
  });
  switch (shape.kind) {
    case 'straightedge':
      return [
        grip('move', shape),
        grip('start', off(shape, shape.angle, -shape.length / 2)),
        grip('end', off(shape, shape.angle, shape.length / 2)),
      ];
    case 'rails':
    case 'mirror':
    case 'wheel':
      return [grip('move', shape), grip('turn', off(shape, shape.angle, ARM * perCss))];
    case 'ripples':
      return [
        grip('move', shape),
        grip('turn', off(shape, shape.angle, 1.25 * ARM * perCss)),
        grip('ratio', off(shape, shape.angle + Math.PI / 2, 1.25 * ARM * perCss * shape.ratio)),
      ];
    case 'rays':
      return [grip('move', shape)];
    case 'fold':
      return [grip('move', shape)];
    case 'frame':
      return frameGrips(shape, seen).map(({ grip: own, at }) => ({
        grip: { part: 'frame', grip: own },
        at,
        look: own.part === 'corner-of-planes' || own.part === 'horizon' ? 'corner' : 'smooth',
      }));
    case 'plane': {
      const inPlane = guideGrips({ ...shape, kind: 'template' }, perCss, chosen, seen);
      return inPlane.flatMap((one): GripPlace[] => {
        const at = fromPlane(shape.map, one.at);
        return at ? [{ ...one, at }] : [];
      });
    }
    case 'template': {
      const { corners, top } = templateFrame(shape);
      return [
        grip('move', shape.place),
        grip('turn', off(top, shape.place.angle - Math.PI / 2, 30 * perCss)),
        ...corners.map((at, corner): GripPlace => ({ grip: { part: 'corner', corner }, at, look: 'corner' })),
      ];
    }
    case 'batten':
    case 'echo':
      return courseGrips(shape.course, chosen);
  }
}

function courseGrips(course: Spine, chosen: number | undefined): GripPlace[] {
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

/** The corners of a template's box on the page, and the middle of its upper side. */
function templateFrame({ rings, place }: Extract<GuideShape, { kind: 'template' }>): {
  readonly corners: Point[];
  readonly top: Point;
} {
  const [w, h] = halfSize(rings);
  const map = templateMap(place);
  const corners = [
    { x: -w, y: -h },
    { x: w, y: -h },
    { x: w, y: h },
    { x: -w, y: h },
  ].map((p) => apply(map, p));
  return { corners, top: apply(map, { x: 0, y: place.scaleY > 0 ? -h : h }) };
}

/** The grip nearest to `at`, within `reach` page px. */
export function gripAt(grips: readonly GripPlace[], at: Point, reach: number): GripPlace | undefined {
  let best: GripPlace | undefined;
  for (const one of grips)
    if (distance(one.at, at) <= reach && (!best || distance(one.at, at) < distance(best.at, at))) best = one;
  return best;
}

/** Whether a hand at `at` takes hold of the body of a guide: its edge or axis, or a ruler between its edges. */
export function isOnGuide(shape: GuideShape, at: Point, reach: number): boolean {
  switch (shape.kind) {
    case 'straightedge':
      return isOnRuler(shape, at, reach / 2);
    case 'fold': {
      const way = wayTo(shape.along, shape);
      return (
        way !== undefined &&
        project({ kind: 'line', ...way, x: shape.x, y: shape.y, dx: way.x, dy: way.y }, at).distance <= reach
      );
    }
    case 'frame': {
      const horizon = horizonOf(shape, { width: 0, height: 0 });
      return horizon !== undefined && project({ kind: 'line', ...horizon }, at).distance <= reach / 2;
    }
    case 'batten':
    case 'plane':
    case 'template':
      return edgePaths(shape).some((path) => project(path, at).distance <= reach);
    case 'echo':
      return project({ kind: 'curve', course: shape.course }, at).distance <= reach;
    case 'rails':
    case 'mirror':
      return (
        project({ kind: 'line', x: shape.x, y: shape.y, dx: Math.cos(shape.angle), dy: Math.sin(shape.angle) }, at)
          .distance <= reach
      );
    case 'rays':
    case 'ripples':
    case 'wheel':
      return distance(shape, at) <= 2 * reach;
  }
}

const stepped = (angle: number, isStepped: boolean): number => (isStepped ? Math.round(angle / STEP) * STEP : angle);

/** A guide after one of its grips went from `from` to `to`; `isExact` keeps angles to whole 15°. */
export function draggedGuide(
  shape: GuideShape,
  grip: GuideGrip,
  from: Point,
  to: Point,
  isExact: boolean,
  isBroken: boolean,
  depth: Pick<FrameDrag, 'isLevel'> & { readonly seen: Seen },
): GuideShape {
  if (shape.kind === 'frame')
    return grip.part === 'frame'
      ? draggedFrame(shape, grip.grip, from, to, { ...depth, isExact, isSpread: isBroken }, depth.seen)
      : shiftedShape(shape, to.x - from.x, to.y - from.y);
  if (shape.kind === 'plane') {
    const [a, b] = [from, to].map((p) => onPlane(shape.map, p));
    if (!a || !b) return shape;
    const inPlane = draggedGuide({ ...shape, kind: 'template' }, grip, a, b, isExact, isBroken, depth);
    return inPlane.kind === 'template' && fromPlane(shape.map, inPlane.place)
      ? { ...shape, place: inPlane.place }
      : shape;
  }
  if (grip.part === 'node' && 'course' in shape)
    return { ...shape, course: moveNode(shape.course, grip.node, { x: to.x - from.x, y: to.y - from.y }) };
  if (grip.part === 'handle' && 'course' in shape)
    return { ...shape, course: moveHandle(shape.course, grip.node, grip.side, to, isBroken) };
  if (grip.part === 'corner' && shape.kind === 'template') return resized(shape, grip.corner, to, isExact);
  if (grip.part === 'turn') return turned(shape, to, isExact);
  if (grip.part === 'ratio' && shape.kind === 'ripples') {
    const across = Math.abs((to.y - shape.y) * Math.cos(shape.angle) - (to.x - shape.x) * Math.sin(shape.angle));
    const whole = distance(from, shape) / shape.ratio;
    return { ...shape, ratio: clamp(across / whole, GUIDE_LIMITS.ratio.least, 1) };
  }
  if ((grip.part === 'start' || grip.part === 'end') && shape.kind === 'straightedge') {
    // Turned by hand it aims at nothing any more, unless its point is kept.
    const { aim, ...free } = pulled(shape, grip.part, to, isExact);
    return aim ? aimedAt({ ...free, aim }, aim.point) : free;
  }
  const straight = isExact ? axisWise(from, to) : to;
  return shiftedShape(shape, straight.x - from.x, straight.y - from.y);
}

/** The way from `from` to `to` along the page's axis that is nearer to it. */
function axisWise(from: Point, to: Point): Point {
  return Math.abs(to.x - from.x) > Math.abs(to.y - from.y) ? { x: to.x, y: from.y } : { x: from.x, y: to.y };
}

/** A straightedge pulled by an end; the other end stays. */
function pulled(shape: StraightedgeShape, part: 'start' | 'end', to: Point, isExact: boolean): StraightedgeShape {
  const way = part === 'end' ? 1 : -1;
  const fixed = off(shape, shape.angle, (-way * shape.length) / 2);
  const raw = Math.atan2((to.y - fixed.y) * way, (to.x - fixed.x) * way);
  const angle = stepped(raw, isExact);
  const { least, most } = GUIDE_LIMITS.length;
  const length = clamp(
    Math.abs((to.x - fixed.x) * Math.cos(angle) + (to.y - fixed.y) * Math.sin(angle)),
    10 * least,
    most,
  );
  return { ...shape, ...off(fixed, angle, (way * length) / 2), angle, length };
}

function turned(shape: GuideShape, to: Point, isExact: boolean): GuideShape {
  if (shape.kind === 'template') {
    const { place } = shape;
    const angle = Math.atan2(to.y - place.y, to.x - place.x) + Math.PI / 2;
    return { ...shape, place: { ...place, angle: stepped(angle, isExact) } };
  }
  if (!('angle' in shape)) return shape;
  return { ...shape, angle: stepped(Math.atan2(to.y - shape.y, to.x - shape.x), isExact) };
}

/** A template sized about its middle; `isExact` keeps its proportions. */
function resized(
  shape: Extract<GuideShape, { kind: 'template' }>,
  corner: number,
  to: Point,
  isExact: boolean,
): GuideShape {
  const { rings, place } = shape;
  const [w, h] = halfSize(rings);
  const own = apply(invert(templateMap({ ...place, scaleX: 1, scaleY: 1 })), to);
  const [sx, sy] = [corner === 1 || corner === 2 ? 1 : -1, corner > 1 ? 1 : -1];
  let [scaleX, scaleY] = [(sx * own.x) / w, (sy * own.y) / h];
  if (isExact) {
    const factor = Math.max(Math.abs(scaleX / place.scaleX), Math.abs(scaleY / place.scaleY));
    [scaleX, scaleY] = [factor * place.scaleX, factor * place.scaleY];
  }
  const kept = (scale: number) => (Math.abs(scale) < 0.01 ? 0.01 * (scale < 0 ? -1 : 1) : clamp(scale, -1e3, 1e3));
  return { ...shape, place: { ...place, scaleX: kept(scaleX), scaleY: kept(scaleY) } };
}

/** A node put into a curve where a hand touched it. */
export function withNode(shape: GuideShape, at: Point): GuideShape {
  if (!('course' in shape)) return shape;
  const { segment, t } = nearestOnSpine(shape.course, at);
  return { ...shape, course: insertNode(shape.course, { segment, t }) };
}

/** Where a grip goes when the hand that holds it, a little beside it, goes from one place to another. */
export const offset = (to: Point, from: Point, grip: Point): Point => ({
  x: to.x - from.x + grip.x,
  y: to.y - from.y + grip.y,
});
