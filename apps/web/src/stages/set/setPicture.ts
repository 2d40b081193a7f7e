import { apply, carriedBy, dot, minus, type Matrix, type Point, type Vector } from '@true-nib/core/math';
import {
  NEAREST,
  picturedAt,
  placeMap,
  sidesOf,
  sizeOf,
  viewOf,
  type BlockEntity,
  type Eye,
  type Side,
} from '@true-nib/core/set';
import { seenSegment } from '@true-nib/core/guides';
import type { Sketch } from '../../render';

/** The place of the page where a camera sees a place of the set; nothing behind it. */
export function seenPlace(camera: Eye, place: Vector): Point | undefined {
  const { map, camera: look } = viewOf(camera);
  const seen = carriedBy(map, place);
  return seen[2] > NEAREST ? picturedAt(look, seen) : undefined;
}

/** A grip of a block, and where it is seen. */
export type Grip = (
  { readonly part: 'side'; readonly side: Side } | { readonly part: 'knob'; readonly about: Vector }
) & { readonly seen: Point };

/** The grips of a block that a camera sees: its sides that face it, and the knob that turns it. */
export function gripsOf(block: BlockEntity, camera: Eye): Grip[] {
  const sides = sidesOf(block).flatMap((side): Grip[] => {
    const seen = seenPlace(camera, side.at);
    const faces = dot(side.out, minus(camera.eye, side.at)) > 0 || block.shape.kind === 'plane';
    return seen && faces ? [{ part: 'side', side, seen }] : [];
  });
  const [, depth] = sizeOf(block.shape);
  const at = carriedBy(placeMap(block), [0, -depth / 2 - KNOB * Math.max(0.5, depth), 0]);
  const knob = seenPlace(camera, at);
  return knob ? [...sides, { part: 'knob', about: block.at, seen: knob }] : sides;
}

/** How far before a block its knob lies, in depths of it. */
const KNOB = 0.35;

/** The twelve edges of the box about a block, by the numbers of its corners. */
const EDGES: readonly (readonly [number, number])[] = [0, 1, 2, 3, 4, 5, 6, 7].flatMap((corner) =>
  [1, 2, 4].flatMap((bit): (readonly [number, number])[] => ((corner & bit) === 0 ? [[corner, corner | bit]] : [])),
);

function cornersOf(block: BlockEntity): Vector[] {
  const [w, d, h] = sizeOf(block.shape);
  const map = placeMap(block);
  return [0, 1, 2, 3, 4, 5, 6, 7].map((k) =>
    carriedBy(map, [k & 1 ? w / 2 : -w / 2, k & 2 ? d / 2 : -d / 2, k & 4 ? h : 0]),
  );
}

/** m that the floor is shown about the place that is looked at, and from one line of it to the next. */
const FLOOR = { reach: 16, step: 1 } as const;

/** The floor as a grid of metres, paler with distance. */
function drawFloor(context: CanvasRenderingContext2D, camera: Eye, about: Vector, map: Matrix, ratio: number): void {
  const { map: toEye, camera: look } = viewOf(camera);
  const [x, y] = [Math.round(about[0]), Math.round(about[1])];
  context.strokeStyle = '#2f6f97';
  context.lineWidth = 0.75 * ratio;
  for (let k = -FLOOR.reach; k <= FLOOR.reach; k += FLOOR.step) {
    context.globalAlpha = k % 5 === 0 ? 0.4 : 0.18;
    for (const [a, b] of [
      [
        [x + k, y - FLOOR.reach, 0],
        [x + k, y + FLOOR.reach, 0],
      ],
      [
        [x - FLOOR.reach, y + k, 0],
        [x + FLOOR.reach, y + k, 0],
      ],
    ] as const) {
      const seen = seenSegment(look, carriedBy(toEye, a), carriedBy(toEye, b), NEAREST);
      if (!seen) continue;
      context.beginPath();
      leg(context, seen[0], seen[1], map);
      context.stroke();
    }
  }
  context.globalAlpha = 1;
}

/** The floor, the chosen blocks as boxes, and the grips of the one that is alone. */
export function setSketch(blocks: readonly BlockEntity[], camera: Eye, floor: Vector | undefined): Sketch {
  return (context, map, ratio, colours) => {
    context.setTransform(1, 0, 0, 1, 0, 0);
    if (floor) drawFloor(context, camera, floor, map, ratio);
    context.strokeStyle = colours.seal;
    context.lineWidth = 1.25 * ratio;
    for (const block of blocks) {
      const corners = cornersOf(block).map((corner) => seenPlace(camera, corner));
      context.beginPath();
      for (const [a, b] of EDGES) leg(context, corners[a], corners[b], map);
      context.stroke();
    }
    const [block] = blocks;
    if (!block || blocks.length > 1 || block.locked) return;
    for (const grip of gripsOf(block, camera)) {
      const { x, y } = apply(map, grip.seen);
      context.fillStyle = colours.raised;
      context.beginPath();
      if (grip.part === 'side') context.rect(x - 5 * ratio, y - 5 * ratio, 10 * ratio, 10 * ratio);
      else context.arc(x, y, 6 * ratio, 0, 2 * Math.PI);
      context.fill();
      context.stroke();
    }
  };
}

function leg(context: CanvasRenderingContext2D, a: Point | undefined, b: Point | undefined, map: Matrix): void {
  if (!a || !b) return;
  const [p, q] = [apply(map, a), apply(map, b)];
  context.moveTo(p.x, p.y);
  context.lineTo(q.x, q.y);
}
