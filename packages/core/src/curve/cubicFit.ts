import { STRIDE } from './spine';

/** A direction of unit length on the page. */
export interface Direction {
  readonly x: number;
  readonly y: number;
  /** By how much the width grows in a px along it; free where none is given. */
  readonly widening?: number;
}

/** The two inner handles of a fitted cubic, each x, y, width. */
export type Handles = readonly [x1: number, y1: number, w1: number, x2: number, y2: number, w2: number];

/** A cubic's inner handles and how far the farthest point stays from it, in course or in half width, page px. */
export interface CubicFit {
  readonly handles: Handles;
  readonly error: number;
}

/** The points that one cubic is fitted to: the triples `first..last` of a track, and how long the track is up to each triple. */
export interface Stretch {
  readonly track: Float64Array;
  readonly lengths: Float64Array;
  readonly first: number;
  readonly last: number;
}

/** How a cubic leaves and arrives, both pointing forward; free where nothing is given. */
export interface Tangents {
  readonly start?: Direction | undefined;
  readonly end?: Direction | undefined;
}

const PASSES = 5;

/** Fits cubics, one after the other: it keeps the room that their parameters take. */
export class CubicFitter {
  private parameters = new Float64Array(256);

  /**
   * Fits one cubic in (x, y, width) to a stretch of points, through both ends, along the given tangents, widening there as
   * they say. After Schneider, "An algorithm for automatically fitting digitized curves" (Graphics Gems, 1990); a missing
   * tangent is taken from an unconstrained least-squares fit.
   * Stops as soon as every point is within `tolerance` page px, or when that is out of reach; the error tells which.
   */
  fit(stretch: Stretch, tangents: Tangents, tolerance: number): CubicFit {
    const { track, first, last } = stretch;
    const { start, end } = tangents;
    if (last - first < 2) return { handles: straight(stretch, tangents), error: 0 };
    const count = last - first + 1;
    if (this.parameters.length < count) this.parameters = new Float64Array(count * 2);
    const { parameters } = this;
    const length = writeChordShares(stretch, parameters);
    let before = 8 * tolerance;
    for (let pass = 1; ; pass++) {
      // A tangent that is not given is read off anew as the parameters settle.
      const free = start && end ? undefined : freeHandles(stretch, parameters);
      const leaving =
        start ??
        (free && directionBetween(track[first * STRIDE], track[first * STRIDE + 1], free[0], free[1], length)) ??
        chord(stretch);
      const arriving =
        end ??
        (free && directionBetween(free[3], free[4], track[last * STRIDE], track[last * STRIDE + 1], length)) ??
        chord(stretch);
      const handles = guidedHandles(stretch, parameters, leaving, arriving, length);
      const error = worstError(stretch, parameters, handles);
      // Passes still to come gain at most what the last one did.
      const hopeless = error * (error / before) ** (PASSES - pass) > tolerance;
      if (error <= tolerance || pass === PASSES || error > before || hopeless) return { handles, error };
      before = error;
      refine(stretch, parameters, handles);
    }
  }
}

function straight({ track, first, last }: Stretch, { start, end }: Tangents = {}): Handles {
  const a = first * STRIDE;
  const d = last * STRIDE;
  const dx = (track[d] - track[a]) / 3;
  const dy = (track[d + 1] - track[a + 1]) / 3;
  const third = Math.hypot(dx, dy);
  const dw = (track[d + 2] - track[a + 2]) / 3;
  return [
    track[a] + (start ? start.x * third : dx),
    track[a + 1] + (start ? start.y * third : dy),
    track[a + 2] + (start?.widening !== undefined ? start.widening * third : dw),
    track[d] - (end ? end.x * third : dx),
    track[d + 1] - (end ? end.y * third : dy),
    track[d + 2] - (end?.widening !== undefined ? end.widening * third : dw),
  ];
}

/** Starts the parameters at the shares of the polyline's length, which it answers. */
function writeChordShares({ lengths, first, last }: Stretch, parameters: Float64Array): number {
  const begin = lengths[first];
  const length = lengths[last] - begin;
  const share = length > 0 ? 1 / length : 0;
  for (let k = 0; k <= last - first; k++) parameters[k] = (lengths[first + k] - begin) * share;
  return length;
}

/** Both handles by plain least squares, every axis on its own. */
function freeHandles(stretch: Stretch, parameters: Float64Array): Handles {
  const { track, first, last } = stretch;
  const a = first * STRIDE;
  const d = last * STRIDE;
  let m11 = 0;
  let m12 = 0;
  let m22 = 0;
  const right = [0, 0, 0, 0, 0, 0];
  for (let i = a + STRIDE, k = 1; i < d; i += STRIDE, k++) {
    const t = parameters[k];
    const s = 1 - t;
    const b1 = 3 * s * s * t;
    const b2 = 3 * s * t * t;
    m11 += b1 * b1;
    m12 += b1 * b2;
    m22 += b2 * b2;
    for (let axis = 0; axis < STRIDE; axis++) {
      const rest = track[i + axis] - (s * s * s * track[a + axis] + t * t * t * track[d + axis]);
      right[axis] += b1 * rest;
      right[3 + axis] += b2 * rest;
    }
  }
  const determinant = m11 * m22 - m12 * m12;
  if (determinant < 1e-12) return straight(stretch);
  const near = (axis: number) => (m22 * right[axis] - m12 * right[3 + axis]) / determinant;
  const far = (axis: number) => (m11 * right[3 + axis] - m12 * right[axis]) / determinant;
  return [near(0), near(1), near(2), far(0), far(1), far(2)];
}

/** Handle lengths along the given tangents, and width handles where these leave them free, by least squares. */
function guidedHandles(
  { track, first, last }: Stretch,
  parameters: Float64Array,
  leaving: Direction,
  arriving: Direction,
  length: number,
): Handles {
  const a = first * STRIDE;
  const d = last * STRIDE;
  const [ax, ay, aw] = [track[a], track[a + 1], track[a + 2]];
  const [dx, dy, dw] = [track[d], track[d + 1], track[d + 2]];
  let m11 = 0;
  let m12 = 0;
  let m22 = 0;
  let along1 = 0;
  let along2 = 0;
  let weight1 = 0;
  let weight2 = 0;
  for (let i = a + STRIDE, k = 1; i < d; i += STRIDE, k++) {
    const t = parameters[k];
    const s = 1 - t;
    const b1 = 3 * s * s * t;
    const b2 = 3 * s * t * t;
    const head = s * s * s + b1;
    const tail = t * t * t + b2;
    const x = track[i] - head * ax - tail * dx;
    const y = track[i + 1] - head * ay - tail * dy;
    const w = track[i + 2] - head * aw - tail * dw;
    m11 += b1 * b1;
    m12 += b1 * b2;
    m22 += b2 * b2;
    along1 += b1 * (leaving.x * x + leaving.y * y);
    along2 -= b2 * (arriving.x * x + arriving.y * y);
    weight1 += b1 * w;
    weight2 += b2 * w;
  }
  const cosine = -(leaving.x * arriving.x + leaving.y * arriving.y);
  const course = m11 * m22 - m12 * m12 * cosine * cosine;
  let reach1 = (along1 * m22 - along2 * m12 * cosine) / course;
  let reach2 = (along2 * m11 - along1 * m12 * cosine) / course;
  const least = 1e-3 * length;
  // Handles that turn back or overshoot make loops between the samples (Schneider's heuristic, with an upper bound).
  if (!(reach1 > least && reach2 > least && reach1 < length && reach2 < length)) reach1 = reach2 = length / 3;
  // By how much the width changes from each end to its handle: as the tangent says, or as fits best with what the other does.
  let change1 = leaving.widening && leaving.widening * reach1;
  let change2 = arriving.widening && -arriving.widening * reach2;
  const weights = m11 * m22 - m12 * m12;
  if (weights <= 1e-12) {
    change1 ??= (dw - aw) / 3;
    change2 ??= (aw - dw) / 3;
  } else if (change2 === undefined) {
    change1 ??= (weight1 * m22 - weight2 * m12) / weights;
    change2 = (weight2 - m12 * change1) / m22;
  } else change1 ??= (weight1 - m12 * change2) / m11;
  const w1 = aw + change1;
  const w2 = dw + change2;
  return [ax + leaving.x * reach1, ay + leaving.y * reach1, w1, dx - arriving.x * reach2, dy - arriving.y * reach2, w2];
}

function worstError({ track, first, last }: Stretch, parameters: Float64Array, handles: Handles): number {
  const a = first * STRIDE;
  const d = last * STRIDE;
  let worst = 0;
  let worstWidth = 0;
  for (let i = a + STRIDE, k = 1; i < d; i += STRIDE, k++) {
    const t = parameters[k];
    const s = 1 - t;
    const b0 = s * s * s;
    const b1 = 3 * s * s * t;
    const b2 = 3 * s * t * t;
    const b3 = t * t * t;
    const x = b0 * track[a] + b1 * handles[0] + b2 * handles[3] + b3 * track[d] - track[i];
    const y = b0 * track[a + 1] + b1 * handles[1] + b2 * handles[4] + b3 * track[d + 1] - track[i + 1];
    const w = Math.abs(b0 * track[a + 2] + b1 * handles[2] + b2 * handles[5] + b3 * track[d + 2] - track[i + 2]);
    const away = x * x + y * y;
    if (away > worst) worst = away;
    if (w > worstWidth) worstWidth = w;
  }
  return Math.max(Math.sqrt(worst), worstWidth / 2);
}

/** One Newton step of every parameter towards its nearest place on the course. */
function refine({ track, first, last }: Stretch, parameters: Float64Array, h: Handles): void {
  const a = first * STRIDE;
  const d = last * STRIDE;
  const [ax, ay, dx, dy] = [track[a], track[a + 1], track[d], track[d + 1]];
  for (let i = a + STRIDE, k = 1; i < d; i += STRIDE, k++) {
    const t = parameters[k];
    const s = 1 - t;
    const ex = s * s * (s * ax + 3 * t * h[0]) + t * t * (3 * s * h[3] + t * dx) - track[i];
    const ey = s * s * (s * ay + 3 * t * h[1]) + t * t * (3 * s * h[4] + t * dy) - track[i + 1];
    const vx = 3 * (s * s * (h[0] - ax) + 2 * s * t * (h[3] - h[0]) + t * t * (dx - h[3]));
    const vy = 3 * (s * s * (h[1] - ay) + 2 * s * t * (h[4] - h[1]) + t * t * (dy - h[4]));
    const qx = 6 * (s * (h[3] - 2 * h[0] + ax) + t * (dx - 2 * h[3] + h[0]));
    const qy = 6 * (s * (h[4] - 2 * h[1] + ay) + t * (dy - 2 * h[4] + h[1]));
    const slope = vx * vx + vy * vy + ex * qx + ey * qy;
    if (slope <= 0) continue;
    const next = t - (ex * vx + ey * vy) / slope;
    parameters[k] = next < 0 ? 0 : next > 1 ? 1 : next;
  }
}

function directionBetween(x0: number, y0: number, x1: number, y1: number, length: number): Direction | undefined {
  const reach = Math.hypot(x1 - x0, y1 - y0);
  return reach > 1e-3 * length && reach < 2 * length ? { x: (x1 - x0) / reach, y: (y1 - y0) / reach } : undefined;
}

function chord({ track, first, last }: Stretch): Direction {
  const dx = track[last * STRIDE] - track[first * STRIDE];
  const dy = track[last * STRIDE + 1] - track[first * STRIDE + 1];
  const reach = Math.hypot(dx, dy) || 1;
  return { x: dx / reach, y: dy / reach };
}
