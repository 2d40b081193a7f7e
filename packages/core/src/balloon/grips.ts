import { mapSpine, STRIDE, type Spine } from '../curve';
import { apply, boxMiddle, boxOfFlat, clamp, invert, pointToLeg, translation, type Point } from '../math';
import { placedRing } from './bodies';
import { directionTo, tailRoot } from './outline';
import type { Body, Tail } from './types';

/** Where a tail is taken hold of. */
export function tailGrips(body: Body, tail: Tail): Readonly<Record<'tip' | 'root' | 'bend', Point>> {
  const root = tailRoot(body, tail);
  const { tip, bend } = tail;
  const middle = {
    x: (root.x + tip.x) / 2 - bend * (tip.y - root.y),
    y: (root.y + tip.y) / 2 + bend * (tip.x - root.x),
  };
  return { root, tip, bend: middle };
}

/** How far a tail can be bent by hand. */
const MOST_BENT = 1.5;

/** A tail with one of its grips elsewhere. */
export function pulled(tail: Tail, body: Body, part: 'tip' | 'root' | 'bend', to: Point): Tail {
  if (part === 'tip') return { ...tail, tip: to };
  if (part === 'root') return { ...tail, root: directionTo(body, to) };
  const root = tailRoot(body, tail);
  const [dx, dy] = [tail.tip.x - root.x, tail.tip.y - root.y];
  const square = dx * dx + dy * dy || 1;
  const beside = (-dy * (to.x - (root.x + tail.tip.x) / 2) + dx * (to.y - (root.y + tail.tip.y) / 2)) / square;
  return { ...tail, bend: clamp(beside, -MOST_BENT, MOST_BENT) };
}

/** How far a place lies from the outline of a body, page px. */
export function awayFromBody(body: Body, { x, y }: Point): number {
  const ring = placedRing(body, 0.5);
  let least = Infinity;
  for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2)
    least = Math.min(least, pointToLeg(x, y, ring[j], ring[j + 1], ring[i], ring[i + 1]));
  return Math.sqrt(least);
}

/** Px that a body is wide and high at least when it is pulled. */
const LEAST = 8;
/** Pulled near a corner both ways: where the smaller of the two shares is more than so much of the larger. */
const CORNER = 0.55;

/** A body about the same middle, as large as its outline is pulled: one way, or near a corner both ways. */
export function sizedBody(body: Body, to: Point): Body {
  const { x, y } = apply(invert(body.place), to);
  const [wide, high] = [2 * Math.abs(x), 2 * Math.abs(y)];
  const [across, down] = [wide / body.width, high / body.height];
  const isCorner = Math.min(across, down) > CORNER * Math.max(across, down);
  return resizedBody(body, {
    width: isCorner || across > down ? Math.max(LEAST, wide) : body.width,
    height: isCorner || down >= across ? Math.max(LEAST, high) : body.height,
  });
}

/** A body with a course of the page for its outline, about the middle of that; it is not turned. */
export function ownBody(course: Spine): Body & { readonly ring: Spine } {
  const box = boxOfFlat(course.points, STRIDE);
  const { x, y } = boxMiddle(box);
  return {
    shape: 'own',
    width: Math.max(LEAST, box.maxX - box.minX),
    height: Math.max(LEAST, box.maxY - box.minY),
    place: translation(x, y),
    ring: mapSpine(course, translation(-x, -y)),
  };
}

/** A body of another width and height; a course of its own grows with it. */
export function resizedBody(body: Body, { width, height }: Pick<Body, 'width' | 'height'>): Body {
  const { ring } = body;
  const [across, down] = [width / body.width, height / body.height];
  return { ...body, width, height, ...(ring && { ring: mapSpine(ring, [across, 0, 0, down, 0, 0]) }) };
}
