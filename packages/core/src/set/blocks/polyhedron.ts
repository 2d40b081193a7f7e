import type { Vector } from '../../math';
import { faceOf, type Edge, type Solid } from '../solid';

/** A solid of flat faces: each a ring of corner numbers that turns leftwards seen from outside. Edges with one face alone leave it open. */
export function polyhedron(corners: readonly Vector[], faces: readonly (readonly number[])[]): Solid {
  const surfaces = faces.map((ring) => faceOf([ring.map((k) => corners[k])]));
  const sides = new Map<string, [number, number, number, number]>();
  faces.forEach((ring, face) =>
    ring.forEach((a, k) => {
      const b = ring[(k + 1) % ring.length];
      const key = a < b ? `${a} ${b}` : `${b} ${a}`;
      const known = sides.get(key);
      if (known) known[3] = face;
      else sides.set(key, [a, b, face, -1]);
    }),
  );
  const edges = [...sides.values()].map(([a, b, first, second]): Edge => ({
    course: { kind: 'segment', from: corners[a], to: corners[b] },
    sides: [first, second],
  }));
  return { surfaces, edges, closed: edges.every((edge) => edge.sides[1] >= 0) };
}
