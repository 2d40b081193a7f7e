import type { Vector } from '../../math';
import { joined, solidUnder, type Solid } from '../solid';
import type { ExtrudedBlock, FenceBlock, RoofBlock, Size, StairBlock } from '../types';
import { polyhedron } from './polyhedron';
import { laidAlong, prism, rectangle, type Corner } from './prism';

const [X, Y, Z]: readonly [Vector, Vector, Vector] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
];

const asItIs = laidAlong(X, Y, Z, [0, 0, 0]);

export const box = ([width, depth, height]: Size): Solid =>
  prism([rectangle(-width / 2, -depth / 2, width, depth)], height, asItIs);

/** What a profile in depth and height gives along the width. */
const acrossWidth = (profile: readonly Corner[], width: number): Solid =>
  prism([profile], width, laidAlong(Y, Z, X, [-width / 2, 0, 0]));

export const wedge = ([width, depth, height]: Size): Solid =>
  acrossWidth(
    [
      { x: -depth / 2, y: 0 },
      { x: depth / 2, y: 0 },
      { x: depth / 2, y: height },
    ],
    width,
  );

export function stair({ size: [width, depth, height], steps }: StairBlock): Solid {
  const [run, rise] = [depth / steps, height / steps];
  const treads = Array.from({ length: steps }, (_, down): Corner[] => {
    const step = steps - down;
    const y = -depth / 2 + (step - 1) * run;
    return [
      { x: y, y: step * rise },
      { x: y, y: (step - 1) * rise },
    ];
  }).flat();
  return acrossWidth([{ x: depth / 2, y: 0 }, { x: depth / 2, y: height }, ...treads], width);
}

export function roof({ size: [width, depth, height], hip }: RoofBlock): Solid {
  if (hip < 1e-3)
    return acrossWidth(
      [
        { x: -depth / 2, y: 0 },
        { x: depth / 2, y: 0 },
        { x: 0, y: height },
      ],
      width,
    );
  const [w, d, ridge] = [width / 2, depth / 2, (width / 2) * (1 - Math.min(1, hip))];
  const eaves: Vector[] = [
    [-w, -d, 0],
    [w, -d, 0],
    [w, d, 0],
    [-w, d, 0],
  ];
  const foot = [3, 2, 1, 0];
  if (ridge < 1e-6)
    return polyhedron([...eaves, [0, 0, height]], [foot, ...[0, 1, 2, 3].map((k) => [k, (k + 1) % 4, 4])]);
  return polyhedron(
    [...eaves, [-ridge, 0, height], [ridge, 0, height]],
    [foot, [0, 1, 5, 4], [1, 2, 5], [2, 3, 4, 5], [3, 0, 4]],
  );
}

/** Rails are so much thinner than posts. */
const RAIL = 0.4;

export function fence({ size: [width, depth, height], posts, rails }: FenceBlock): Solid {
  const gap = (width - depth) / (posts - 1);
  const post = box([depth, depth, height]);
  const thin = RAIL * depth;
  const rail = box([gap - depth, thin, thin]);
  const moved = (solid: Solid, at: Vector) => solidUnder({ ...asItIs, at }, solid);
  const middle = (k: number) => -width / 2 + depth / 2 + k * gap;
  return joined(
    Array.from({ length: posts }, (_, k) => [
      moved(post, [middle(k), 0, 0]),
      ...(k + 1 < posts
        ? Array.from({ length: rails }, (_, r) =>
            moved(rail, [middle(k) + gap / 2, 0, (height * (r + 1)) / (rails + 1) + height * 0.12 - thin / 2]),
          )
        : []),
    ]).flat(),
  );
}

export function sheet([width, depth]: readonly [number, number]): Solid {
  const corners: Vector[] = [
    [-width / 2, -depth / 2, 0],
    [width / 2, -depth / 2, 0],
    [width / 2, depth / 2, 0],
    [-width / 2, depth / 2, 0],
  ];
  return polyhedron(corners, [[0, 1, 2, 3]]);
}

export function extruded({ rings, smooth, height }: ExtrudedBlock): Solid {
  const outlines = rings.map((ring) =>
    Array.from({ length: ring.length / 2 }, (_, k): Corner => ({ x: ring[2 * k], y: ring[2 * k + 1] })),
  );
  return prism(outlines, height, asItIs, smooth);
}
