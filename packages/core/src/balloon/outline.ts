import { distance, isInRing, reversedRing, ringArea, withoutRings, type Point } from '../math';
import { bodyMiddle, placedOutlineAt, placedRing } from './bodies';
import type { Balloon, Body, Bridge, Tail } from './types';

/** Bubbles of a tail for thoughts, and how much smaller each is than the one before. */
const BUBBLES = 3;
const SHRINKS = 0.66;
/** How far a pointed tail reaches into its body, as a share of its width: no border runs between them. */
const INTO = 0.6;

/**
 * The outline of a balloon: what bodies, tails and bridges cover together, as rings for the non-zero rule that stray by no more than
 * `tolerance` page px.
 */
export function balloonRings({ bodies, tails, bridges = [] }: Balloon, tolerance: number): Float64Array[] {
  const rings = bodies.map((body) => turned(placedRing(body, tolerance)));
  for (const tail of tails) rings.push(...tailRings(bodies[tail.body], tail, tolerance).map(turned));
  for (const bridge of bridges) rings.push(turned(bridgeRing(bodies, bridge)));
  const [only] = rings;
  return rings.length === 1 ? [only] : withoutRings(rings, []);
}

/** All of them turn one way: where two overlap, both count. */
const turned = (ring: Float64Array): Float64Array => (ringArea(ring) < 0 ? reversedRing(ring) : ring);

/** Where a tail grows out of its body, on the page. */
export const tailRoot = (body: Body, { root }: Tail): Point => placedOutlineAt(body, root);

/** A tail as rings of its own: one, or the bubbles of a thought. A tip within its body gives none. */
export function tailRings(body: Body, tail: Tail, tolerance: number): Float64Array[] {
  if (isInRing(placedRing(body, tolerance), tail.tip)) return [];
  const root = tailRoot(body, tail);
  return tail.kind === 'bubbles' ? bubbles(root, tail, tolerance) : [pointed(body, root, tail, tolerance)];
}

/** The middle line of a tail: a parabola from its root to its tip, bent to its side. */
function middleLine(root: Point, { tip, bend }: Tail): (t: number) => Point {
  const [dx, dy] = [tip.x - root.x, tip.y - root.y];
  // A bend of 1 takes the middle of the way as far beside it as it is long.
  const control = { x: (root.x + tip.x) / 2 - 2 * bend * dy, y: (root.y + tip.y) / 2 + 2 * bend * dx };
  return (t) => {
    const [a, b, c] = [(1 - t) * (1 - t), 2 * t * (1 - t), t * t];
    return { x: a * root.x + b * control.x + c * tip.x, y: a * root.y + b * control.y + c * tip.y };
  };
}

function pointed(body: Body, root: Point, tail: Tail, tolerance: number): Float64Array {
  const at = middleLine(root, tail);
  const length = distance(root, tail.tip);
  const steps = Math.max(
    6,
    Math.min(64, Math.ceil(Math.sqrt((Math.abs(tail.bend) * length) / Math.max(tolerance, 1e-3)))),
  );
  const [left, right]: [number[], number[]] = [[], []];
  const middle = bodyMiddle(body);
  const into = Math.min(INTO * tail.width, distance(middle, root) * 0.9);
  const away = distance(middle, root) || 1;
  // It begins within its body, as wide as it leaves it.
  const start = { x: root.x + ((middle.x - root.x) * into) / away, y: root.y + ((middle.y - root.y) * into) / away };
  const first = at(1e-3);
  const across = unit(-(first.y - root.y), first.x - root.x);
  const half = tail.width / 2;
  left.push(start.x + across.x * half, start.y + across.y * half);
  right.push(start.x - across.x * half, start.y - across.y * half);
  for (let k = 0; k < steps; k++) {
    const t = k / steps;
    const [p, q] = [at(t), at(t + 1e-3)];
    const side = unit(-(q.y - p.y), q.x - p.x);
    const width = half * (1 - t);
    left.push(p.x + side.x * width, p.y + side.y * width);
    right.push(p.x - side.x * width, p.y - side.y * width);
  }
  const back: number[] = [];
  for (let i = right.length - 2; i >= 0; i -= 2) back.push(right[i], right[i + 1]);
  return Float64Array.from([...left, tail.tip.x, tail.tip.y, ...back]);
}

const unit = (x: number, y: number): Point => {
  const length = Math.hypot(x, y) || 1;
  return { x: x / length, y: y / length };
};

/** Rings along the way to the tip, each smaller than the one before. */
function bubbles(root: Point, tail: Tail, tolerance: number): Float64Array[] {
  const at = middleLine(root, tail);
  return Array.from({ length: BUBBLES }, (_, k) => {
    const radius = (tail.width / 2) * SHRINKS ** k;
    const { x, y } = at((k + 0.62) / (BUBBLES - 0.2));
    const count = Math.max(
      16,
      Math.ceil(Math.PI / Math.acos(Math.max(0, 1 - tolerance / Math.max(radius, tolerance)))),
    );
    return Float64Array.from(
      Array.from({ length: count }, (_, i) => (2 * Math.PI * i) / count).flatMap((turn) => [
        x + radius * 1.15 * Math.cos(turn),
        y + radius * 0.9 * Math.sin(turn),
      ]),
    );
  });
}

/** A neck from the middle of one body to that of another, narrower half way. */
function bridgeRing(bodies: readonly Body[], { between: [a, b], width }: Bridge): Float64Array {
  const [from, to] = [bodyMiddle(bodies[a]), bodyMiddle(bodies[b])];
  const side = unit(-(to.y - from.y), to.x - from.x);
  const [left, right]: [number[], number[]] = [[], []];
  const steps = 24;
  for (let k = 0; k <= steps; k++) {
    const t = k / steps;
    const half = (width / 2) * (1 + 0.8 * (2 * t - 1) ** 2);
    const [x, y] = [from.x + (to.x - from.x) * t, from.y + (to.y - from.y) * t];
    left.push(x + side.x * half, y + side.y * half);
    right.unshift(x - side.x * half, y - side.y * half);
  }
  return Float64Array.from([...left, ...right]);
}

/** The direction of a place from a body's middle, in the body's own px: where a tail towards it grows best. */
export function directionTo(body: Body, at: Point): number {
  const [a, b, c, d, e, f] = body.place;
  const determinant = a * d - b * c || 1;
  const [x, y] = [at.x - e, at.y - f];
  return Math.atan2((a * y - b * x) / determinant, (d * x - c * y) / determinant);
}

/** The body that lies nearest to a place. */
export const nearestBody = (bodies: readonly Body[], at: Point): number =>
  bodies.reduce(
    (best, body, k) => (distance(bodyMiddle(body), at) < distance(bodyMiddle(bodies[best]), at) ? k : best),
    0,
  );
