import { cubicAt, cubicSlope, placeOf, SEGMENT, type Spine } from '../curve';

const STEPS = 12;

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

/**
 * The crossing of two cubics near places that are known from their polylines, by Newton's method in both parameters
 * (Press et al. 2007, §9.6); the places as they came where it leads away.
 */
export function refinedCrossing(
  a: Spine,
  atA: number,
  b: Spine,
  atB: number,
): { readonly a: number; readonly b: number } {
  const [placeA, placeB] = [placeOf(a, atA), placeOf(b, atB)];
  let [s, t] = [placeA.t, placeB.t];
  for (let step = 0; step < STEPS; step++) {
    const [p, q] = [look(a, placeA.segment, s), look(b, placeB.segment, t)];
    const [x, y] = [q.x - p.x, q.y - p.y];
    const area = p.dx * q.dy - p.dy * q.dx;
    if (Math.hypot(x, y) < 1e-12 || Math.abs(area) < 1e-12) break;
    const [ds, dt] = [(x * q.dy - y * q.dx) / area, (x * p.dy - y * p.dx) / area];
    s += ds;
    t += dt;
    if (Math.abs(s - placeA.t) > 0.25 || Math.abs(t - placeB.t) > 0.25) return { a: atA, b: atB };
    if (Math.abs(ds) < 1e-14 && Math.abs(dt) < 1e-14) break;
  }
  const within = (v: number) => Math.max(0, Math.min(1, v));
  return { a: placeA.segment + within(s), b: placeB.segment + within(t) };
}
