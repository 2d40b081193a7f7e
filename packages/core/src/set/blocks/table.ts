import { flag, list, number, oneOf, PageError, record, fingerprint, type Fields } from '../../gate';
import type { Solid } from '../solid';
import type { BlockKind, BlockShape, Opening, Size } from '../types';
import { ball, turned } from './round';
import { box, extruded, fence, roof, sheet, stair, wedge } from './straight';
import { checkOpenings, wall } from './walls';

/** Numbers that blocks may have, m. */
export const BLOCK_LIMITS = {
  length: { least: 0.001, most: 10_000 },
  steps: 200,
  posts: 200,
  rails: 20,
  openings: 100,
  corners: 2_000,
  rings: 50,
  /** Triangles of a model. */
  triangles: 300_000,
} as const;

type ShapeOf<K extends BlockKind> = Extract<BlockShape, { readonly kind: K }>;

/** What a shape of block is. */
export interface ShapeRow<S extends BlockShape> {
  readonly label: string;
  /** The shape in fields that came from outside. Throws a PageError. */
  check(fields: Fields): S;
  /** As it is laid first. */
  readonly fresh: S | undefined;
  /** Its surfaces and edges about its own origin, m; nothing where it is made of bytes. */
  solid(shape: S): Solid | undefined;
  size(shape: S): Size;
  /** The shape with about another size: what is round stays round, the changed side counts. */
  sized(shape: S, size: Size): S;
}

const { least, most } = BLOCK_LIMITS.length;
const length = (value: unknown, name: string): number => number(value, name, least, most);
const whole = (value: unknown, name: string, from: number, to: number): number =>
  Math.round(number(value, name, from, to));

function checkSize(value: unknown): Size {
  const [w, d, h] = list(value, 'size', 3);
  return [length(w, 'width'), length(d, 'depth'), length(h, 'height')];
}

/** The side of a square foot after one side of it was changed. */
const roundFoot = (before: number, [w, d]: Size): number => (Math.abs(w - before) >= Math.abs(d - before) ? w : d) / 2;

const plain = <K extends 'box' | 'wedge'>(kind: K, label: string, solid: (size: Size) => Solid) => ({
  label,
  check: (fields: Fields) => ({ kind, size: checkSize(fields.size) }),
  fresh: { kind, size: [2, 2, 2] as const },
  solid: ({ size }: { readonly size: Size }) => solid(size),
  size: ({ size }: { readonly size: Size }) => size,
  sized: (_shape: unknown, size: Size) => ({ kind, size }),
});

/** One row for each shape that a block can have. */
export const SHAPES: { readonly [K in BlockKind]: ShapeRow<ShapeOf<K>> } = {
  box: plain('box', 'Box', box),
  wedge: plain('wedge', 'Ramp', wedge),
  wall: {
    label: 'Wall',
    check: checkWall,
    fresh: { kind: 'wall', size: [4, 0.3, 2.8], openings: [] },
    solid: wall,
    size: ({ size }) => size,
    sized: (shape, size) => {
      const [x, z] = [size[0] / shape.size[0], size[2] / shape.size[2]];
      const openings = shape.openings.map((opening): Opening => ({
        ...opening,
        at: [opening.at[0] * x, opening.at[1] * z],
        size: [
          opening.size[0] * x,
          opening.arched ? Math.max(opening.size[1] * z, (opening.size[0] * x) / 2) : opening.size[1] * z,
        ],
      }));
      return { kind: 'wall', size, openings };
    },
  },
  roof: {
    label: 'Roof',
    check: (fields) => ({ kind: 'roof', size: checkSize(fields.size), hip: number(fields.hip, 'hip', 0, 1) }),
    fresh: { kind: 'roof', size: [4, 3, 1.5], hip: 0 },
    solid: roof,
    size: ({ size }) => size,
    sized: (shape, size) => ({ ...shape, size }),
  },
  stair: {
    label: 'Stair',
    check: (fields) => ({
      kind: 'stair',
      size: checkSize(fields.size),
      steps: whole(fields.steps, 'steps', 1, BLOCK_LIMITS.steps),
    }),
    fresh: { kind: 'stair', size: [1.2, 2.4, 1.5], steps: 8 },
    solid: stair,
    size: ({ size }) => size,
    sized: (shape, size) => ({ ...shape, size }),
  },
  fence: {
    label: 'Fence',
    check: (fields) => ({
      kind: 'fence',
      size: checkSize(fields.size),
      posts: whole(fields.posts, 'posts', 2, BLOCK_LIMITS.posts),
      rails: whole(fields.rails, 'rails', 0, BLOCK_LIMITS.rails),
    }),
    fresh: { kind: 'fence', size: [4, 0.1, 1], posts: 5, rails: 2 },
    solid: fence,
    size: ({ size }) => size,
    sized: (shape, size) => ({ ...shape, size }),
  },
  cylinder: {
    label: 'Cylinder',
    check: (fields) => ({
      kind: 'cylinder',
      radius: length(fields.radius, 'radius'),
      height: length(fields.height, 'height'),
    }),
    fresh: { kind: 'cylinder', radius: 0.5, height: 2 },
    solid: ({ radius, height }) =>
      turned([
        [radius, 0],
        [radius, height],
      ]),
    size: ({ radius, height }) => [2 * radius, 2 * radius, height],
    sized: (shape, size) => ({ kind: 'cylinder', radius: roundFoot(2 * shape.radius, size), height: size[2] }),
  },
  cone: {
    label: 'Cone',
    check: (fields) => ({
      kind: 'cone',
      radius: length(fields.radius, 'radius'),
      top: number(fields.top, 'top', 0, most),
      height: length(fields.height, 'height'),
    }),
    fresh: { kind: 'cone', radius: 0.8, top: 0, height: 2 },
    solid: ({ radius, top, height }) =>
      turned([
        [radius, 0],
        [top, height],
      ]),
    size: ({ radius, top, height }) => [2 * Math.max(radius, top), 2 * Math.max(radius, top), height],
    sized: (shape, size) => {
      const before = Math.max(shape.radius, shape.top);
      const by = roundFoot(2 * before, size) / before;
      return { kind: 'cone', radius: shape.radius * by, top: shape.top * by, height: size[2] };
    },
  },
  sphere: {
    label: 'Ball',
    check: (fields) => ({ kind: 'sphere', radius: length(fields.radius, 'radius') }),
    fresh: { kind: 'sphere', radius: 0.8 },
    solid: ({ radius }) => ball(radius),
    size: ({ radius }) => [2 * radius, 2 * radius, 2 * radius],
    sized: ({ radius }, size) => {
      const changed = [...size].sort((a, b) => Math.abs(b - 2 * radius) - Math.abs(a - 2 * radius))[0];
      return { kind: 'sphere', radius: changed / 2 };
    },
  },
  turned: {
    label: 'Turned',
    check: checkTurned,
    fresh: { kind: 'turned', profile: [0.35, 0, 0.35, 0.15, 0.15, 0.3, 0.25, 1, 0.12, 1.3, 0, 1.35] },
    solid: ({ profile }) => turned(pairs(profile)),
    size: ({ profile }) => {
      const places = pairs(profile);
      const wide = 2 * Math.max(...places.map(([radius]) => radius));
      return [wide, wide, Math.max(...places.map(([, height]) => height))];
    },
    sized: ({ profile }, size) => {
      const places = pairs(profile);
      const radius = Math.max(...places.map(([r]) => r));
      const [by, up] = [roundFoot(2 * radius, size) / radius, size[2] / Math.max(...places.map(([, h]) => h))];
      return { kind: 'turned', profile: places.flatMap(([r, h]) => [r * by, h * up]) };
    },
  },
  plane: {
    label: 'Sheet',
    check: (fields) => {
      const [w, d] = list(fields.size, 'size', 2);
      return { kind: 'plane', size: [length(w, 'width'), length(d, 'depth')] };
    },
    fresh: { kind: 'plane', size: [6, 6] },
    solid: ({ size }) => sheet(size),
    size: ({ size: [w, d] }) => [w, d, 0],
    sized: (_shape, [w, d]) => ({ kind: 'plane', size: [w, d] }),
  },
  extruded: {
    label: 'Drawn out',
    check: checkExtruded,
    fresh: undefined,
    solid: extruded,
    size: ({ rings, height }) => [extent(rings, 0), extent(rings, 1), height],
    sized: (shape, [w, d, height]) => {
      const [x, y] = [w / extent(shape.rings, 0), d / extent(shape.rings, 1)];
      const rings = shape.rings.map((ring) => ring.map((value, k) => value * (k % 2 === 0 ? x : y)));
      return { ...shape, rings, height };
    },
  },
  mesh: {
    label: 'Model',
    check: (fields) => ({
      kind: 'mesh',
      blob: fingerprint(fields.blob),
      triangles: whole(fields.triangles, 'triangles', 1, BLOCK_LIMITS.triangles),
      scale: number(fields.scale, 'scale', 1e-9, 1e9),
      size: checkSize(fields.size),
    }),
    fresh: undefined,
    solid: () => undefined,
    size: ({ size }) => size,
    sized: (shape, size) => {
      const [by] = size
        .map((side, k) => side / shape.size[k])
        .sort((a, b) => Math.abs(Math.log(b)) - Math.abs(Math.log(a)));
      return { ...shape, scale: shape.scale * by, size: [shape.size[0] * by, shape.size[1] * by, shape.size[2] * by] };
    },
  },
};

const pairs = (list: readonly number[]): (readonly [number, number])[] =>
  Array.from({ length: list.length / 2 }, (_, k) => [list[2 * k], list[2 * k + 1]] as const);

const extent = (rings: readonly (readonly number[])[], axis: 0 | 1): number => {
  const values = rings[0].filter((_, k) => k % 2 === axis);
  return Math.max(...values) - Math.min(...values);
};

function checkWall(fields: Fields): ShapeOf<'wall'> {
  const openings = list(fields.openings, 'openings', BLOCK_LIMITS.openings).map((value): Opening => {
    const opening = record(value, 'An opening');
    const [along, foot] = list(opening.at, 'at', 2);
    const [width, height] = list(opening.size, 'size', 2);
    return {
      at: [number(along, 'along', -most, most), number(foot, 'foot', 0, most)],
      size: [length(width, 'width'), length(height, 'height')],
      arched: flag(opening.arched, 'arched'),
    };
  });
  const shape = { kind: 'wall' as const, size: checkSize(fields.size), openings };
  checkOpenings(shape);
  return shape;
}

const metres = (value: unknown, name: string, count: number): readonly number[] =>
  list(value, name, 2 * count).map((one) => number(one, name, -most, most));

function checkTurned(fields: Fields): ShapeOf<'turned'> {
  const profile = metres(fields.profile, 'profile', BLOCK_LIMITS.corners);
  if (profile.length < 4 || profile.length % 2 !== 0)
    throw new PageError('A profile needs two places or more, radius and height in turn.');
  const places = pairs(profile);
  if (places.some(([radius]) => radius < 0)) throw new PageError('A profile stays on one side of its axis.');
  const heights = places.map(([, height]) => height);
  if (Math.min(...heights) < 0 || Math.max(...heights) < least || Math.max(...places.map(([r]) => r)) < least)
    throw new PageError('A profile needs some width and height above its foot.');
  return { kind: 'turned', profile };
}

function checkExtruded(fields: Fields): ShapeOf<'extruded'> {
  const rings = list(fields.rings, 'rings', BLOCK_LIMITS.rings).map((ring) =>
    metres(ring, 'rings', BLOCK_LIMITS.corners),
  );
  if (rings.length === 0 || rings.some((ring) => ring.length < 6 || ring.length % 2 !== 0))
    throw new PageError('An outline needs three corners or more, x and y in turn.');
  if (extent(rings, 0) < least || extent(rings, 1) < least)
    throw new PageError('This outline has no width or no depth.');
  return {
    kind: 'extruded',
    rings,
    smooth: flag(fields.smooth, 'smooth'),
    height: length(fields.height, 'height'),
  };
}

/** The row of a shape, for whoever does not know its kind. */
export const rowOf = (kind: BlockKind): ShapeRow<BlockShape> => SHAPES[kind] as ShapeRow<BlockShape>;

export function checkShape(value: unknown): BlockShape {
  const fields = record(value, 'The shape of a block');
  const kinds = Object.keys(SHAPES) as BlockKind[];
  return rowOf(oneOf(fields.kind, 'kind', kinds)).check(fields);
}
