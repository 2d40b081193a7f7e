import cutEars from 'earcut';
import { dot, type Vector } from '../math';
import { flatsOf, normalOf, type Solid } from '../set';

/** A solid as corners and triangles (`earcut`). */
export function flatOfSolid(solid: Solid): {
  readonly corners: readonly Vector[];
  readonly triangles: readonly number[];
} {
  const corners: Vector[] = [];
  const triangles: number[] = [];
  for (const { rings } of flatsOf(solid)) {
    const first = corners.length;
    corners.push(...rings.flat());
    for (const corner of trianglesOf(rings)) triangles.push(first + corner);
  }
  return { corners, triangles };
}

/** The triangles of a flat polygon, by the numbers of its corners, ring after ring; turned as its outer ring is. */
function trianglesOf(rings: readonly (readonly Vector[])[]): number[] {
  const holes: number[] = [];
  let count = rings[0].length;
  for (const ring of rings.slice(1)) {
    holes.push(count);
    count += ring.length;
  }
  const normal = normalOf(rings[0]);
  const size = normal.map(Math.abs);
  const dropped = size.indexOf(Math.max(...size));
  const corners = rings.flat();
  const found = cutEars(
    corners.flatMap((p) => p.filter((_, axis) => axis !== dropped)),
    holes,
  );
  return Array.from({ length: found.length / 3 }, (_, k) => found.slice(3 * k, 3 * k + 3)).flatMap((triangle) => {
    const own = normalOf(triangle.map((corner) => corners[corner]));
    return dot(own, normal) < 0 ? [triangle[0], triangle[2], triangle[1]] : triangle;
  });
}
