import { dot, lengthOfVector, minus, scaled, sum, type Vector } from '../math';
import { angleOn, hasAngle, type Ball, type Disc, type Mantle, type Surface } from './solid';

// What a ray, or a line, meets of a surface.

/** A surface made ready for many rays. */
export interface Blocker {
  readonly surface: Surface;
  /** n·x = offset on a flat one. */
  readonly offset: number;
  /** Of a face: its rings in the two axes that show it best, one after the other, and where each ends. */
  readonly flat: Float64Array;
  readonly ends: readonly number[];
  readonly across: number;
  readonly up: number;
}

export function blockerOf(surface: Surface): Blocker {
  const bare = { surface, offset: 0, flat: new Float64Array(0), ends: [], across: 0, up: 1 };
  if (surface.kind === 'disc') return { ...bare, offset: dot(surface.normal, surface.centre) };
  if (surface.kind !== 'face') return bare;
  const { normal, rings } = surface;
  const [x, y, z] = [Math.abs(normal[0]), Math.abs(normal[1]), Math.abs(normal[2])];
  const across = x >= y && x >= z ? 1 : 0;
  const up = z > x && z > y ? 1 : 2;
  let end = 0;
  const ends: number[] = [];
  for (const ring of rings) ends.push((end += 2 * ring.length));
  const flat = new Float64Array(end);
  let at = 0;
  for (const ring of rings)
    for (const p of ring) {
      flat[at++] = p[across];
      flat[at++] = p[up];
    }
  return { surface, offset: dot(normal, rings[0][0]), flat, ends, across, up };
}

/** Whether a place of its plane lies in a face (even-odd, so holes are none of it). */
export function isInFace({ flat, ends, across, up }: Blocker, p: Vector): boolean {
  const [x, y] = [p[across], p[up]];
  let inside = false;
  let from = 0;
  for (const end of ends) {
    let px = flat[end - 2];
    let py = flat[end - 1];
    for (let k = from; k < end; k += 2) {
      const qx = flat[k];
      const qy = flat[k + 1];
      if (qy > y !== py > y && x < ((px - qx) * (y - qy)) / (py - qy) + qx) inside = !inside;
      px = qx;
      py = qy;
    }
    from = end;
  }
  return inside;
}

const inDisc = ({ centre, radius, hole }: Disc, p: Vector): boolean => {
  const [x, y, z] = [p[0] - centre[0], p[1] - centre[1], p[2] - centre[2]];
  const away = x * x + y * y + z * z;
  return away <= radius * radius && away >= hole * hole;
};

/** Whether a place on the endless cone of a mantle is a place of the mantle. */
export function onMantle(mantle: Mantle, p: Vector): boolean {
  const { foot, axis, height, range } = mantle;
  const h = axis[0] * (p[0] - foot[0]) + axis[1] * (p[1] - foot[1]) + axis[2] * (p[2] - foot[2]);
  if (h < 0 || h > height) return false;
  return !range || hasAngle(mantle, angleOn(mantle, p));
}

/** How a mantle's equation |q|² − h² − (r + k·h)² goes along a line: its squares, halves and rest, with the line from `from`. */
export function mantleAlong({ foot, axis, height, radius, top }: Mantle, from: Vector, way: Vector): readonly number[] {
  const q = minus(from, foot);
  const k = (top - radius) / height;
  const lean = 1 + k * k;
  const [hw, hq] = [dot(axis, way), dot(axis, q)];
  return [
    dot(way, way) - lean * hw * hw,
    dot(way, q) - lean * hw * hq - k * radius * hw,
    dot(q, q) - lean * hq * hq - 2 * k * radius * hq - radius * radius,
  ];
}

/** Both roots of a·t² + 2·b·t + c, the lesser first; none where there are none. */
export function roots(a: number, b: number, c: number): readonly number[] {
  if (Math.abs(a) < 1e-14 * (Math.abs(b) + Math.abs(c))) return b === 0 ? [] : [-c / (2 * b)];
  const under = b * b - a * c;
  if (under < 0) return [];
  // The larger root by addition, the other by their product: nothing is lost where b² is far above a·c.
  const q = -(b + (b < 0 ? -1 : 1) * Math.sqrt(under));
  const [first, second] = [q / a, q === 0 ? 0 : c / q];
  return first < second ? [first, second] : [second, first];
}

/** Where a ray begins, and its way: shares of that tell places along it. */
export interface Ray {
  readonly from: Vector;
  readonly way: Vector;
}

/** The least share, over `low` and under `high`, of the way of a ray at which a surface is met; Infinity for none. */
export function firstHit(blocker: Blocker, { from, way }: Ray, low: number, high: number): number {
  const { surface } = blocker;
  switch (surface.kind) {
    case 'face':
    case 'disc': {
      const { normal } = surface;
      const away = blocker.offset - (normal[0] * from[0] + normal[1] * from[1] + normal[2] * from[2]);
      const t = away / (normal[0] * way[0] + normal[1] * way[1] + normal[2] * way[2]);
      if (!(t > low && t < high)) return Infinity;
      const p: Vector = [from[0] + way[0] * t, from[1] + way[1] * t, from[2] + way[2] * t];
      return (surface.kind === 'face' ? isInFace(blocker, p) : inDisc(surface, p)) ? t : Infinity;
    }
    case 'ball': {
      for (const t of ballRoots(surface, from, way)) if (t > low && t < high) return t;
      return Infinity;
    }
    case 'mantle': {
      const [a, b, c] = mantleAlong(surface, from, way);
      for (const t of roots(a, b, c)) if (t > low && t < high && onMantle(surface, sum(from, scaled(way, t)))) return t;
      return Infinity;
    }
  }
}

const ballRoots = ({ centre, radius }: Ball, from: Vector, way: Vector): readonly number[] => {
  const q = minus(from, centre);
  return roots(dot(way, way), dot(way, q), dot(q, q) - radius * radius);
};

/** Shares of a segment at which it meets a surface. */
export function segmentHits(blocker: Blocker, a: Vector, b: Vector): readonly number[] {
  const { surface } = blocker;
  const way = minus(b, a);
  const inside = (t: number) => t >= 0 && t <= 1;
  switch (surface.kind) {
    case 'face':
    case 'disc': {
      const along = dot(surface.normal, way);
      const t = (blocker.offset - dot(surface.normal, a)) / along;
      if (!inside(t)) return [];
      const p = sum(a, scaled(way, t));
      return (surface.kind === 'face' ? isInFace(blocker, p) : inDisc(surface, p)) ? [t] : [];
    }
    case 'ball':
      return ballRoots(surface, a, way).filter(inside);
    case 'mantle': {
      const [p, q, r] = mantleAlong(surface, a, way);
      return roots(p, q, r).filter((t) => inside(t) && onMantle(surface, sum(a, scaled(way, t))));
    }
  }
}

/** How far a place lies outside a surface's plane, sphere or cone, m: 0 on it, the sign tells the side. */
export function awayFrom({ surface, offset }: Blocker, p: Vector): number {
  switch (surface.kind) {
    case 'face':
    case 'disc':
      return dot(surface.normal, p) - offset;
    case 'ball':
      return lengthOfVector(minus(p, surface.centre)) - surface.radius;
    case 'mantle': {
      const { foot, axis, height, radius, top } = surface;
      const q = minus(p, foot);
      const h = dot(axis, q);
      return lengthOfVector(minus(q, scaled(axis, h))) - (radius + ((top - radius) * h) / height);
    }
  }
}

/** Whether a place that lies on its plane, sphere or cone is a place of the surface itself. */
export function isOn(blocker: Blocker, p: Vector): boolean {
  const { surface } = blocker;
  switch (surface.kind) {
    case 'face':
      return isInFace(blocker, p);
    case 'disc':
      return inDisc(surface, p);
    case 'ball':
      return true;
    case 'mantle':
      return onMantle(surface, p);
  }
}

/** The box of a surface, written at a place of a list of boxes. */
export function writeBox(surface: Surface, boxes: Float64Array, at: number): void {
  for (let axis = 0; axis < 3; axis++) {
    let low = Infinity;
    let high = -Infinity;
    const take = (middle: number, half: number) => {
      if (middle - half < low) low = middle - half;
      if (middle + half > high) high = middle + half;
    };
    switch (surface.kind) {
      case 'face':
        for (const p of surface.rings[0]) take(p[axis], 0);
        break;
      case 'disc':
        take(surface.centre[axis], surface.radius * leanOf(surface.normal, axis));
        break;
      case 'ball':
        take(surface.centre[axis], surface.radius);
        break;
      case 'mantle': {
        const { foot, axis: way, height, radius, top } = surface;
        take(foot[axis], radius * leanOf(way, axis));
        take(foot[axis] + height * way[axis], top * leanOf(way, axis));
      }
    }
    boxes[at + axis] = low;
    boxes[at + axis + 3] = high;
  }
}

/** How far a circle about a unit axis reaches along a coordinate, per radius. */
const leanOf = (axis: Vector, coordinate: number): number => Math.sqrt(Math.max(0, 1 - axis[coordinate] ** 2));
