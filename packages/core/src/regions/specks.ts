import {
  areaOfRings,
  boxesMeet,
  boxOfFlat,
  boxOfRings,
  isInRing,
  ringArea,
  withinRings,
  withoutRings,
  type Box,
  type Point,
} from '../math';
import { LEAST_INK } from '../mend';

/** Ink that hangs together with no other, too small to be meant. */
export interface Speck extends Point {
  /** Page px². */
  readonly area: number;
  readonly rings: readonly Float64Array[];
}

/** A part of one thing's ink that hangs together. */
interface Part {
  readonly rings: readonly Float64Array[];
  readonly box: Box;
  readonly isSmall: boolean;
}

/**
 * Ink of fewer than `most` page px² that hangs together with no other, the smallest first: dots, and crumbs of what was
 * cut. `inks` are the rings of each thing for the non-zero rule (see `inkOfEach`). Yields the share that is looked at.
 */
export function* specksOf(inks: readonly (readonly Float64Array[])[], most: number): Generator<number, Speck[]> {
  const parts: Part[] = [];
  for (const [k, rings] of inks.entries()) {
    if (k % 100 === 0) yield (0.5 * k) / inks.length;
    parts.push(...partsOf(rings, most));
  }
  const small = parts.filter(({ isSmall }) => isSmall);
  const heap = new Map<Part, Part[]>(small.map((part) => [part, [part]]));
  /** Those that hang on something large. */
  const lost = new Set<Part>();
  for (const [k, part] of small.entries()) {
    if (k % 20 === 0) yield 0.5 + (0.5 * k) / small.length;
    for (const other of parts) {
      if (other === part || !boxesMeet(part.box, other.box)) continue;
      const own = heap.get(part) ?? [];
      if (heap.get(other) === own || areaOfRings(withinRings(part.rings, other.rings)) === 0) continue;
      if (!other.isSmall) {
        lost.add(part);
        continue;
      }
      own.push(...(heap.get(other) ?? []));
      for (const one of own) heap.set(one, own);
    }
  }
  const found = [...new Set(heap.values())].flatMap((own): Speck[] => {
    if (own.some((part) => lost.has(part))) return [];
    const rings = withoutRings(
      own.flatMap((part) => part.rings),
      [],
    );
    const area = areaOfRings(rings);
    const { minX, minY, maxX, maxY } = boxOfRings(rings);
    return area < most && area > LEAST_INK ? [{ x: (minX + maxX) / 2, y: (minY + maxY) / 2, area, rings }] : [];
  });
  return found.sort((one, other) => one.area - other.area);
}

function partsOf(rings: readonly Float64Array[], most: number): Part[] {
  // One ring that goes round much is no speck, whatever it crosses.
  if (rings.length === 1 && areaOfRings(rings) >= most) return [{ rings, box: boxOfRings(rings), isSmall: false }];
  const simple = withoutRings(rings, []);
  const [outer, holes] = [1, -1].map((sign) => simple.filter((ring) => Math.sign(ringArea(ring)) === sign));
  return outer.map((ring): Part => {
    const own = [ring, ...holes.filter((hole) => isInRing(ring, { x: hole[0], y: hole[1] }))];
    return { rings: own, box: boxOfFlat(ring, 2), isSmall: areaOfRings(own) < most };
  });
}
