import { cubicAt, cubicSlope, placeOf, SEGMENT, segmentCount, type Spine } from '../curve';

const STEPS = 14;

/** Values of a cubic at a parameter that may lie a little beyond it. */
function look({ points: p }: Spine, segment: number, t: number) {
  const i = SEGMENT * segment;
  return {
    x: cubicAt(p[i], p[i + 3], p[i + 6], p[i + 9], t),
    y: cubicAt(p[i + 1], p[i + 4], p[i + 7], p[i + 10], t),
    dx: cubicSlope(p[i], p[i + 3], p[i + 6], p[i + 9], t),
    dy: cubicSlope(p[i + 1], p[i + 4], p[i + 7], p[i + 10], t),
  };
}

/** Page px between two lines at a crossing. */
const MET = 1e-6;
/** The same where they cross at so shallow an angle that no step leads closer. */
const SHALLOW = 0.05;

/**
 * The crossing of two courses near places that are known from their polylines, by Newton's method in both parameters
 * (Press et al. 2007, §9.6), from cubic to cubic; nothing where the polylines cross and the courses do not.
 */
export function refinedCrossing(
  a: Spine,
  atA: number,
  b: Spine,
  atB: number,
): { readonly a: number; readonly b: number } | undefined {
  let [one, other] = [placeOf(a, atA), placeOf(b, atB)];
  for (let step = 0; step < STEPS; step++) {
    const [p, q] = [look(a, one.segment, one.t), look(b, other.segment, other.t)];
    const [x, y] = [q.x - p.x, q.y - p.y];
    const area = p.dx * q.dy - p.dy * q.dx;
    if (Math.hypot(x, y) < 1e-12 || Math.abs(area) < 1e-12) break;
    one = stepped(a, one.segment, one.t + (x * q.dy - y * q.dx) / area);
    other = stepped(b, other.segment, other.t + (x * p.dy - y * p.dx) / area);
    if (Math.abs(one.segment + one.t - atA) > 0.5 || Math.abs(other.segment + other.t - atB) > 0.5) break;
  }
  const [s, t] = [within(one), within(other)];
  if (gap(a, s, b, t) <= MET) return { a: s, b: t };
  return gap(a, atA, b, atB) <= SHALLOW && !isEnd(a, atA) && !isEnd(b, atB) ? { a: atA, b: atB } : undefined;
}

/** A parameter that has left its cubic, on the one beside it. */
function stepped(spine: Spine, segment: number, t: number): { segment: number; t: number } {
  const count = segmentCount(spine);
  const next = t > 1 ? segment + 1 : t < 0 ? segment - 1 : segment;
  if (next === segment) return { segment, t };
  const around = spine.closed ? (next + count) % count : next;
  // By how much it has left is told in the old cubic's measure, which is near enough to go on from.
  return around < 0 || around >= count ? { segment, t } : { segment: around, t: t > 1 ? t - 1 : t + 1 };
}

const within = ({ segment, t }: { readonly segment: number; readonly t: number }): number =>
  segment + Math.max(0, Math.min(1, t));

const isEnd = (spine: Spine, place: number): boolean =>
  !spine.closed && (place < 0.02 || place > segmentCount(spine) - 0.02);

function gap(a: Spine, atA: number, b: Spine, atB: number): number {
  const [p, q] = [placeOf(a, atA), placeOf(b, atB)];
  const [one, other] = [look(a, p.segment, p.t), look(b, q.segment, q.t)];
  return Math.hypot(one.x - other.x, one.y - other.y);
}
