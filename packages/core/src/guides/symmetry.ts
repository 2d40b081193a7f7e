import { reversedSpine, type Spine, mapSpine } from '../curve';
import { about, distance, identity, rotation, then, translation, chain, type Matrix, type Point } from '../math';
import { mapStroke, type Stroke } from '../stroke';
import type { GuideEntity, SymmetryShape } from './guide';

/** Copies in all beyond which combined symmetries are not multiplied further. */
export const MOST_COPIES = 96;

export const isSymmetry = (shape: GuideEntity['shape']): shape is SymmetryShape =>
  shape.kind === 'mirror' || shape.kind === 'wheel';

/** The reflection in the axis through `on` at an angle, radians. */
export function reflection(on: Point, angle: number): Matrix {
  const [c, s] = [Math.cos(2 * angle), Math.sin(2 * angle)];
  return chain(translation(-on.x, -on.y), [c, s, s, -c, 0, 0], translation(on.x, on.y));
}

/**
 * The maps that a symmetry draws a stroke under, the stroke itself first. A mirror: 2. A wheel of N: N in all; one that only
 * turns is the group C of N (N turns), one that reflects is the group D of N/2 (N/2 turns and as many reflections).
 */
export function symmetryMaps(shape: SymmetryShape): Matrix[] {
  if (shape.kind === 'mirror') return [identity, reflection(shape, shape.angle)];
  const turns = shape.reflects ? shape.sectors / 2 : shape.sectors;
  const turned = Array.from({ length: turns }, (_, k) =>
    k === 0 ? identity : about(shape, rotation((2 * Math.PI * k) / turns)),
  );
  if (!shape.reflects) return turned;
  const axes = Array.from({ length: turns }, (_, k) => reflection(shape, shape.angle + (Math.PI * k) / turns));
  return [...turned, ...axes];
}

/** The maps of several symmetries at once: every one is done to what the ones before have drawn. At most 96 are answered. */
export function combinedMaps(shapes: readonly SymmetryShape[]): Matrix[] {
  return shapes.reduce<Matrix[]>(
    (maps, shape) => {
      const all = symmetryMaps(shape).flatMap((own) => maps.map((map) => then(map, own)));
      const distinct = all.filter((map, k) => all.findIndex((other) => isSame(map, other)) === k);
      return distinct.slice(0, MOST_COPIES);
    },
    [identity],
  );
}

const isSame = (a: Matrix, b: Matrix): boolean =>
  a.every((value, k) => Math.abs(value - b[k]) < 1e-9 * (k < 4 ? 1 : 1e4));

/** The images of a spine under a symmetry, itself first. */
export const symmetricCopies = (spine: Spine, shape: SymmetryShape): Spine[] =>
  symmetryMaps(shape).map((map) => (map === identity ? spine : mapSpine(spine, map)));

/** A stroke under the maps of its symmetries, itself first; each says to which set it belongs. A single one stays alone. */
export function symmetricStrokes<S extends Stroke>(stroke: S, maps: readonly Matrix[], set: string): S[] {
  if (maps.length < 2) return [stroke];
  return maps.map((matrix) => ({
    ...(matrix === identity ? stroke : mapStroke(stroke, matrix)),
    copy: { set, matrix },
  }));
}

/**
 * Strokes of a set of which ends meet within `tolerance` page px made one with their twins there; both ends move to the
 * middle between them. What has grown together has no samples and no set any more.
 */
export function joinTwins<S extends Stroke>(strokes: readonly S[], tolerance: number): S[] {
  const left = [...strokes];
  for (let k = 0; k < left.length; k++) {
    for (let n = k + 1; n < left.length; n++) {
      const joined = joinedSpines(left[k].spine, left[n].spine, tolerance);
      if (!joined) continue;
      const { origin: _gone, copy: _alone, guide: _left, ...rest } = left[k];
      // Everything but these, which may be missing on any stroke, is still there.
      left[k] = { ...(rest as S), spine: joined };
      left.splice(n, 1);
      n = k;
    }
  }
  return left;
}

function joinedSpines(a: Spine, b: Spine, tolerance: number): Spine | undefined {
  if (a.closed || b.closed) return undefined;
  const ways = [
    [a, b],
    [a, reversedSpine(b)],
    [reversedSpine(a), b],
    [b, a],
  ] as const;
  for (const [first, second] of ways) {
    if (distance(endOf(first), startOf(second)) > tolerance) continue;
    const p = first.points;
    const q = second.points;
    const points = new Float64Array(p.length + q.length - 3);
    points.set(p);
    points.set(q.subarray(3), p.length);
    const seam = p.length - 3;
    points[seam] = (p[seam] + q[0]) / 2;
    points[seam + 1] = (p[seam + 1] + q[1]) / 2;
    points[seam + 2] = Math.max(p[seam + 2], q[2]);
    const last = points.length - 3;
    const isRing = Math.hypot(points[last] - points[0], points[last + 1] - points[1]) <= tolerance;
    if (isRing) points.copyWithin(last, 0, 3);
    return { points, closed: isRing };
  }
  return undefined;
}

const startOf = ({ points }: Spine): Point => ({ x: points[0], y: points[1] });
const endOf = ({ points }: Spine): Point => ({ x: points[points.length - 3], y: points[points.length - 2] });
