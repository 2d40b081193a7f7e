import { flatRing } from '../area';
import { apply, type Point } from '../math';
import type { Body } from './types';

/** The share of its shorter side by which a rounded box is rounded. */
const ROUNDED = 0.3;
/** Bumps of a cloud and spikes of a burst: as many as go round it at about this share of its shorter side. */
const BUMP = 0.42;
const SPIKE = 0.24;
/** How far spikes and bumps reach beyond what they stand on, as a share of the shorter side. */
const SPIKED = 0.15;

/** The outline of a body in its own px, about its own middle, as x, y pairs that stray by no more than `tolerance`. */
export function bodyRing({ shape, width, height, ring }: Body, tolerance: number): Float64Array {
  const [rx, ry] = [width / 2, height / 2];
  switch (shape) {
    case 'box':
      return Float64Array.of(-rx, -ry, rx, -ry, rx, ry, -rx, ry);
    case 'rounded':
      return roundedRing(rx, ry, 2 * ROUNDED * Math.min(rx, ry), tolerance);
    case 'oval':
      return arcs([{ x: 0, y: 0, rx, ry, from: 0, sweep: 2 * Math.PI }], tolerance);
    case 'cloud':
      return cloudRing(rx, ry, tolerance);
    case 'burst':
      return burstRing(rx, ry);
    case 'own':
      return ring ? flatRing(ring, tolerance) : new Float64Array(0);
  }
}

/** The outline of a body on the page. */
export function placedRing(body: Body, tolerance: number): Float64Array {
  const [a, b, c, d, e, f] = body.place;
  const scale = Math.max(Math.hypot(a, b), Math.hypot(c, d), 1e-9);
  const ring = bodyRing(body, tolerance / scale);
  const placed = new Float64Array(ring.length);
  for (let i = 0; i < ring.length; i += 2) {
    placed[i] = a * ring[i] + c * ring[i + 1] + e;
    placed[i + 1] = b * ring[i] + d * ring[i + 1] + f;
  }
  return placed;
}

/** Where the middle of a body lies. */
export const bodyMiddle = ({ place: [, , , , x, y] }: Body): Point => ({ x, y });

/** The place on a body's outline in a direction from its middle, in its own px. */
export function outlineAt(body: Body, direction: number): Point {
  const ring = bodyRing(body, 0.05);
  const [dx, dy] = [Math.cos(direction), Math.sin(direction)];
  let farthest = 0;
  for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
    const [ux, uy] = [ring[i] - ring[j], ring[i + 1] - ring[j + 1]];
    const turn = dx * uy - dy * ux;
    if (Math.abs(turn) < 1e-12) continue;
    const along = (ring[j] * uy - ring[j + 1] * ux) / turn;
    const share = (ring[j] * dy - ring[j + 1] * dx) / turn;
    if (along > farthest && share >= 0 && share <= 1) farthest = along;
  }
  return { x: dx * farthest, y: dy * farthest };
}

/** The same, on the page. */
export const placedOutlineAt = (body: Body, direction: number): Point => apply(body.place, outlineAt(body, direction));

interface Arc {
  readonly x: number;
  readonly y: number;
  readonly rx: number;
  readonly ry: number;
  readonly from: number;
  readonly sweep: number;
}

/** Arcs one after the other, as places that stray by no more than `tolerance`. */
function arcs(all: readonly Arc[], tolerance: number): Float64Array {
  const places: number[] = [];
  for (const { x, y, rx, ry, from, sweep } of all) {
    const radius = Math.max(rx, ry, tolerance);
    const step = 2 * Math.acos(Math.max(0, 1 - tolerance / radius));
    const count = Math.max(2, Math.ceil(Math.abs(sweep) / Math.max(step, 0.01)));
    for (let k = 0; k < count; k++) {
      const angle = from + (sweep * k) / count;
      places.push(x + rx * Math.cos(angle), y + ry * Math.sin(angle));
    }
  }
  return Float64Array.from(places);
}

function roundedRing(rx: number, ry: number, radius: number, tolerance: number): Float64Array {
  const corner = (sx: number, sy: number, from: number): Arc => ({
    ...{ x: sx * (rx - radius), y: sy * (ry - radius), rx: radius, ry: radius },
    ...{ from, sweep: Math.PI / 2 },
  });
  const quarter = Math.PI / 2;
  // The last place of an arc is the first of the straight side after it.
  return arcs(
    [corner(1, 1, 0), corner(-1, 1, quarter), corner(-1, -1, 2 * quarter), corner(1, -1, 3 * quarter)].flatMap(
      (arc) => [arc, { ...arc, from: arc.from + arc.sweep, sweep: 1e-9 }],
    ),
    tolerance,
  );
}

/** Places round an ellipse that lie equally far from one another along it. */
function spread(rx: number, ry: number, wanted: number): Point[] {
  const fine = 720;
  const at = (k: number) => {
    const angle = (2 * Math.PI * k) / fine - Math.PI / 2;
    return { x: rx * Math.cos(angle), y: ry * Math.sin(angle) };
  };
  const lengths = [0];
  for (let k = 1; k <= fine; k++) {
    const [a, b] = [at(k - 1), at(k)];
    lengths.push(lengths[k - 1] + Math.hypot(b.x - a.x, b.y - a.y));
  }
  const count = Math.max(7, Math.round(lengths[fine] / wanted));
  const places: Point[] = [];
  for (let k = 0, i = 0; k < count; k++) {
    const length = (lengths[fine] * k) / count;
    while (lengths[i] < length) i++;
    places.push(at(i));
  }
  return places;
}

/** Bumps that stand on an ellipse, each half a circle about the middle of its chord and a little more. */
function cloudRing(rx: number, ry: number, tolerance: number): Float64Array {
  const bump = BUMP * 2 * Math.min(rx, ry);
  const reach = bump * 0.32;
  const feet = spread(Math.max(1, rx - reach), Math.max(1, ry - reach), bump);
  const all = feet.map((foot, k): Arc => {
    const next = feet[(k + 1) % feet.length];
    const [cx, cy] = [(foot.x + next.x) / 2, (foot.y + next.y) / 2];
    const chord = Math.hypot(next.x - foot.x, next.y - foot.y) / 2;
    // The circle through both feet whose top stands `reach` over the chord.
    const radius = (chord * chord + reach * reach) / (2 * reach);
    const away = Math.hypot(cx, cy) || 1;
    const inwards = radius - reach;
    const [x, y] = [cx - (cx / away) * inwards, cy - (cy / away) * inwards];
    const from = Math.atan2(foot.y - y, foot.x - x);
    const to = Math.atan2(next.y - y, next.x - x);
    return { x, y, rx: radius, ry: radius, from, sweep: (to - from + 4 * Math.PI) % (2 * Math.PI) };
  });
  return arcs(all, tolerance);
}

/** Spikes round an ellipse, long and short by turns so that they look cut by hand. */
function burstRing(rx: number, ry: number): Float64Array {
  const shorter = Math.min(rx, ry);
  const inner = { rx: Math.max(1, rx - SPIKED * 2 * shorter), ry: Math.max(1, ry - SPIKED * 2 * shorter) };
  const feet = spread(inner.rx, inner.ry, SPIKE * 2 * shorter);
  const places: number[] = [];
  feet.forEach((foot, k) => {
    const next = feet[(k + 1) % feet.length];
    const middle = Math.atan2((foot.y + next.y) / 2 / inner.ry, (foot.x + next.x) / 2 / inner.rx);
    const length = k % 2 === 0 ? 1 : 0.86;
    places.push(foot.x, foot.y, rx * length * Math.cos(middle), ry * length * Math.sin(middle));
  });
  return Float64Array.from(places);
}
