import { CubicFitter, STRIDE, type Direction, type Handles } from '../curve';

/** Page px that rings may stray from the true shape before curves are made of them, and curves from the points of those. */
const STRAY = { rings: 0.008, curves: 0.016 } as const;

/** How far a curve may lie from its ring between the points, page px. */
const MOST = 0.021;

/** How far the rings that curves are fitted to may stray, page px. */
export const CURVE_RINGS = STRAY.rings;

/** Page px between points at most: a curve is fitted to these alone. */
const APART = 4;

/**
 * Cosine of the turn from which a point is a corner: 40°. The chords of the smallest round that is seen, of a tenth of a px, turn
 * by less.
 */
const CORNER = Math.cos((40 * Math.PI) / 180);

/**
 * A closed ring of x, y pairs as curves: the first point and, for each cubic, two handles and its end, x, y pairs, page px. Corners are
 * kept; a curve strays from the ring by a fiftieth of a px at most.
 */
export function curvesOf(ring: Float64Array): Float64Array {
  const points = evened(ring);
  const count = points.length / 2;
  const corners: number[] = [];
  for (let k = 0; k < count; k++) if (isCorner(points, k)) corners.push(k);
  const breaks = corners.length > 0 ? corners : [0];
  const out: number[] = [points[2 * breaks[0]], points[2 * breaks[0] + 1]];
  for (const [j, from] of breaks.entries()) addCurves(points, from, breaks[j + 1] ?? breaks[0] + count, out);
  return Float64Array.from(out);
}

/** Curves in whole parts of a px, so many to a px. */
export function inParts(curves: Float64Array, parts: number): Int32Array {
  const whole = new Int32Array(curves.length);
  for (let k = 0; k < curves.length; k++) whole[k] = Math.round(curves[k] * parts);
  return whole;
}

/** How far a handle may lie beside its chord, in these parts, for its curve to be written as a straight line. */
const FLAT = 1;

/** Whether the curve that ends at number `k` of curves in parts is a straight line: both handles lie along it, between its ends. */
export function isStraight(curves: Int32Array, k: number): boolean {
  const [x, y] = [curves[k - 6], curves[k - 5]];
  const [dx, dy] = [curves[k] - x, curves[k + 1] - y];
  return isAlong(curves[k - 4] - x, curves[k - 3] - y, dx, dy) && isAlong(curves[k - 2] - x, curves[k - 1] - y, dx, dy);
}

function isAlong(a: number, b: number, dx: number, dy: number): boolean {
  const length = Math.sqrt(dx * dx + dy * dy);
  if (length === 0) return Math.abs(a) <= FLAT && Math.abs(b) <= FLAT;
  const along = (a * dx + b * dy) / length;
  return Math.abs(a * dy - b * dx) <= FLAT * length && along >= -FLAT && along <= length + FLAT;
}

/** Fits the points `from..to` of a ring; those beyond its end are those at its start. */
function addCurves(points: Float64Array, from: number, to: number, out: number[]): void {
  const last = to - from;
  const track = new Float64Array((last + 1) * STRIDE);
  const lengths = new Float64Array(last + 1);
  for (let k = 0; k <= last; k++) {
    const at = (2 * (from + k)) % points.length;
    const i = k * STRIDE;
    track[i] = points[at];
    track[i + 1] = points[at + 1];
    if (k > 0) lengths[k] = lengths[k - 1] + Math.hypot(track[i] - track[i - STRIDE], track[i + 1] - track[i - 2]);
  }
  const way = { track, lengths };
  for (let node = 0, reach = FIRST; node < last;) {
    const { end, handles } = farthest(way, node, Math.min(last, node + reach));
    if (strays(handles, track, node, end)) for (let k = node; k < end; k++) straightTo(track, k * STRIDE, out);
    else out.push(handles[0], handles[1], handles[3], handles[4], track[end * STRIDE], track[end * STRIDE + 1]);
    reach = Math.max(2, end - node);
    node = end;
  }
}

/** Points that the first cubic of all is tried with; later ones are tried with as many as the one before took. */
const FIRST = 16;

interface Way {
  readonly track: Float64Array;
  readonly lengths: Float64Array;
}

/** The farthest point from a node, as far as trying tells, that one cubic reaches within the tolerance, and that cubic's handles. */
function farthest(way: Way, node: number, first: number): { readonly end: number; readonly handles: Handles } {
  const { track, lengths } = way;
  const last = lengths.length - 1;
  const leaving = tangentAt(way, node);
  let good: { readonly end: number; readonly handles: Handles } | undefined;
  let bad = last + 1;
  let tried = Math.max(first, node + 1);
  for (let tries = 1; ; tries++) {
    const { error, handles } = fitter.fit(
      { track, lengths, first: node, last: tried },
      { start: leaving, end: tangentAt(way, tried) },
      STRAY.curves,
    );
    if (error <= STRAY.curves) good = { end: tried, handles };
    else bad = tried;
    // The error grows with about the fourth power of the length, which tells how far a cubic can reach.
    const growth = Math.min(2, Math.max(0.4, 0.96 * (STRAY.curves / (error + 1e-9)) ** 0.25));
    const wanted = node + Math.floor((tried - node) * growth);
    const least = good?.end ?? node;
    tried = Math.max(least + 1, Math.min(wanted, bad - 1));
    if (good && (tried >= bad || tried - least <= (least - node) >> 4 || tries >= MOST_TRIES)) return good;
    if (!good && bad === node + 1) return { end: bad, handles };
  }
}

/** How often a cubic is tried before what fits is good enough. */
const MOST_TRIES = 6;

const fitter = new CubicFitter();

/** Where a track goes at an inner point: the derivative at the middle of the parabola through it and its neighbours. */
function tangentAt({ track, lengths }: Way, k: number): Direction | undefined {
  if (k <= 0 || k >= lengths.length - 1) return undefined;
  const [a, b, c] = [(k - 1) * STRIDE, k * STRIDE, (k + 1) * STRIDE];
  const share = (lengths[k + 1] - lengths[k]) / (lengths[k] - lengths[k - 1]);
  const x = (track[b] - track[a]) * share + (track[c] - track[b]) / share;
  const y = (track[b + 1] - track[a + 1]) * share + (track[c + 1] - track[b + 1]) / share;
  const length = Math.hypot(x, y);
  return length > 1e-12 ? { x: x / length, y: y / length, widening: 0 } : undefined;
}

/** Goes straight from one point of a track to the next. */
function straightTo(track: Float64Array, at: number, out: number[]): void {
  const [x, y, u, v] = [track[at], track[at + 1], track[at + STRIDE], track[at + STRIDE + 1]];
  out.push((2 * x + u) / 3, (2 * y + v) / 3, (x + 2 * u) / 3, (y + 2 * v) / 3, u, v);
}

/** Whether a cubic bulges between the points `from..to` that it was fitted to: these were all that the fit looked at. */
function strays([ax, ay, , bx, by]: Handles, track: Float64Array, from: number, to: number): boolean {
  const [begin, end] = [from * STRIDE, to * STRIDE];
  const steps = Math.max(4, to - from);
  let leg = begin;
  for (let k = 1; k < steps; k++) {
    const t = k / steps;
    const s = 1 - t;
    const [a, b, c, d] = [s * s * s, 3 * s * s * t, 3 * s * t * t, t * t * t];
    const x = a * track[begin] + b * ax + c * bx + d * track[end];
    const y = a * track[begin + 1] + b * ay + c * by + d * track[end + 1];
    let away = fromLeg(track, leg, x, y);
    while (leg + STRIDE < end) {
      const next = fromLeg(track, leg + STRIDE, x, y);
      if (next > away) break;
      away = next;
      leg += STRIDE;
    }
    if (away > MOST * MOST) return true;
  }
  return false;
}

/** The square of how far a place lies from a leg of a track. */
function fromLeg(track: Float64Array, at: number, x: number, y: number): number {
  const [dx, dy] = [track[at + STRIDE] - track[at], track[at + STRIDE + 1] - track[at + 1]];
  const [px, py] = [x - track[at], y - track[at + 1]];
  const length = dx * dx + dy * dy;
  const share = length > 0 ? Math.min(1, Math.max(0, (px * dx + py * dy) / length)) : 0;
  const [ox, oy] = [px - share * dx, py - share * dy];
  return ox * ox + oy * oy;
}

/** A ring without points on one spot, and with more of them where they lie far apart. */
function evened(ring: Float64Array): Float64Array {
  const out: number[] = [];
  for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
    const [dx, dy] = [ring[i] - ring[j], ring[i + 1] - ring[j + 1]];
    const gap = Math.sqrt(dx * dx + dy * dy);
    if (gap < 1e-6) continue;
    const steps = Math.ceil(gap / APART);
    for (let k = 1; k < steps; k++) out.push(ring[j] + (dx * k) / steps, ring[j + 1] + (dy * k) / steps);
    out.push(ring[i], ring[i + 1]);
  }
  return Float64Array.from(out.length > 0 ? out : ring.subarray(0, 2));
}

function isCorner(points: Float64Array, k: number): boolean {
  const count = points.length;
  const i = 2 * k;
  const [p, n] = [(i - 2 + count) % count, (i + 2) % count];
  const [ax, ay] = [points[i] - points[p], points[i + 1] - points[p + 1]];
  const [bx, by] = [points[n] - points[i], points[n + 1] - points[i + 1]];
  return ax * bx + ay * by < CORNER * Math.sqrt((ax * ax + ay * ay) * (bx * bx + by * by));
}
