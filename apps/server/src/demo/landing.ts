import type { Vector } from '@true-nib/core/math';
import { SHAPES, turnedRound, type BlockEntity, type BlockShape, type Opening } from '@true-nib/core/set';

/** m from the quay down to the water at low tide. */
const TIDE = 1.6;
const RIGHT_ANGLE = Math.PI / 2;

type Laid = readonly [name: string, shape: BlockShape, at: Vector, degrees?: number, more?: Partial<BlockEntity>];

const door: Opening = { at: [-1.6, 0], size: [1, 2.1], arched: false };
const pane = (along: number): Opening => ({ at: [along, 1], size: [0.9, 1.1], arched: false });

const box = (width: number, depth: number, height: number): BlockShape => ({
  kind: 'box',
  size: [width, depth, height],
});
const post = (radius: number, height: number): BlockShape => ({ kind: 'cylinder', radius, height });

const BOLLARD: BlockShape = {
  kind: 'turned',
  profile: [0.2, 0, 0.2, 0.08, 0.13, 0.12, 0.12, 0.4, 0.2, 0.46, 0.2, 0.54, 0.1, 0.6, 0, 0.6],
};
const BARREL: BlockShape = {
  kind: 'turned',
  profile: [0.28, 0, 0.315, 0.11, 0.34, 0.22, 0.356, 0.34, 0.36, 0.45, 0.356, 0.56, 0.34, 0.68, 0.315, 0.79, 0.28, 0.9],
};

/** Half of the outline of a rowing boat, from its bow to its stern, m. */
const HULL = [0, 1.7, 0.26, 1.3, 0.46, 0.8, 0.56, 0.2, 0.56, -0.5, 0.46, -1.1, 0.34, -1.5] as const;

function boat(): BlockShape {
  const half = Array.from({ length: HULL.length / 2 }, (_, k) => [HULL[2 * k], HULL[2 * k + 1]] as const);
  // Down its left side, then up its right one: from x towards y.
  const left = half.slice(1).map(([x, y]) => [-x, y] as const);
  const ring = [half[0], ...left, ...half.slice(1).reverse()].flat();
  return { kind: 'extruded', rings: [ring], smooth: true, height: 0.5 };
}

/** The quay house with its chimney, the boat shed, and what lies before them. */
const BLOCKS: readonly Laid[] = [
  ['Water', { kind: 'plane', size: [90, 90] }, [0, 0, -TIDE], 0, { lines: 'none' }],
  ['Quay', box(18, 12, TIDE), [0, 6, -TIDE]],
  ['House front', { kind: 'wall', size: [6, 0.3, 2.9], openings: [door, pane(0.1), pane(1.7)] }, [-3.4, 3.15, 0]],
  ['House gable', { kind: 'wall', size: [4, 0.3, 2.9], openings: [pane(0)] }, [-0.55, 5.3, 0], 90],
  ['House back', box(6, 0.3, 2.9), [-3.4, 7.15, 0]],
  ['House far gable', box(0.3, 3.7, 2.9), [-6.25, 5.15, 0]],
  ['House roof', { kind: 'roof', size: [6.6, 5, 1.7], hip: 0.35 }, [-3.4, 5.15, 2.9]],
  ['Chimney', box(0.6, 0.6, 1.7), [-4.6, 4.6, 3.5]],
  ['Chimney rim', box(0.74, 0.74, 0.14), [-4.6, 4.6, 5.2]],
  [
    'Shed front',
    { kind: 'wall', size: [4.4, 0.3, 2.6], openings: [{ at: [0, 0], size: [2.6, 2.3], arched: true }] },
    [4.8, 3.6, 0],
  ],
  ['Shed side', box(0.3, 4.6, 2.6), [2.75, 6.05, 0]],
  ['Shed far side', box(0.3, 4.6, 2.6), [6.85, 6.05, 0]],
  ['Shed roof', { kind: 'roof', size: [5.4, 4.9, 1.6], hip: 0 }, [4.8, 6, 2.6], 90],
  ['Lamp stair', { kind: 'stair', size: [1.8, 2.4, TIDE], steps: 8 }, [3.2, -1.2, -TIDE]],
  ['Lamp foot', post(0.2, 0.35), [1.6, 0.5, 0]],
  ['Lamp post', post(0.07, 3), [1.6, 0.5, 0.35]],
  ['Lantern', box(0.36, 0.36, 0.46), [1.6, 0.5, 3.35]],
  ['Lantern cap', { kind: 'cone', radius: 0.36, top: 0.03, height: 0.3 }, [1.6, 0.5, 3.81]],
  ['Bollard', BOLLARD, [0, 0.45, 0]],
  ['Bollard 2', BOLLARD, [-2.4, 0.45, 0]],
  ['Bollard 3', BOLLARD, [-4.8, 0.45, 0]],
  ['Railing', { kind: 'fence', size: [3.4, 0.09, 1], posts: 4, rails: 2 }, [6.4, 0.35, 0]],
  ['Barrel', BARREL, [0.5, 3, 0]],
  ['Barrel 2', BARREL, [1.25, 3.35, 0]],
  ['Crate', box(0.9, 0.7, 0.7), [-6.7, 1.9, 0], 12],
  ['Crate 2', box(0.7, 0.6, 0.55), [-6.65, 1.95, 0.7], -14],
  ['Jetty', box(1.5, 6, 0.14), [-6.8, -3, -0.45]],
  ...[-0.7, -3, -5.4].flatMap((y): Laid[] => [
    [`Pile ${y}`, post(0.12, 2.1), [-7.5, y, -TIDE]],
    [`Pile ${y}, right`, post(0.12, 2.1), [-6.1, y, -TIDE]],
  ]),
  ['Boat', boat(), [-3.9, -2.4, -TIDE - 0.1], 68],
  ['Thwart', box(0.96, 0.22, 0.04), [-3.9, -2.4, -TIDE + 0.4], 68],
];

/** The blocks of the ferry landing, as they are kept on a page. */
export function landingBlocks(setId: string, orders: readonly string[]): BlockEntity[] {
  return BLOCKS.map(([name, shape, at, degrees = 0, more], k) => ({
    ...{
      kind: 'block',
      id: `${setId}:block-${k}`,
      setId,
      order: orders[k],
      name: name || SHAPES[shape.kind].label,
      shape,
      at,
    },
    ...{ turn: turnedRound((degrees * RIGHT_ANGLE) / 90), hidden: false, locked: false, lines: 'all' as const },
    ...more,
  }));
}

export const LANDING_COUNT = BLOCKS.length;

/** From where each page sees the landing: where the eye stands, what it looks at, in mm of full frame, and whether it is level. */
export const LANDING_VIEWS = {
  water: { eye: [-12, -13, 2.2], at: [-0.6, 3, 1], mm: 30, level: true },
  stair: { eye: [5.6, -5.2, -0.6], at: [0.2, 3.4, 2.2], mm: 24, level: false },
  quay: { eye: [7.6, 1.7, 1.6], at: [-6, 2.4, 1.5], mm: 26, level: true },
} as const satisfies Record<
  string,
  { readonly eye: Vector; readonly at: Vector; readonly mm: number; readonly level: boolean }
>;
