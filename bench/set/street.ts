import { seededRandom, type Vector } from '@true-nib/core/math';
import { lookingAt, turnedRound, type BlockEntity, type BlockShape, type Eye } from '@true-nib/core/set';

type Size = readonly [number, number, number];

const SHAPES: readonly ((size: Size, random: () => number) => BlockShape)[] = [
  (size) => ({ kind: 'box', size }),
  (size) => ({ kind: 'box', size }),
  (size, random) => ({ kind: 'roof', size, hip: random() }),
  (size) => ({ kind: 'stair', size, steps: 8 }),
  ([w], random) => ({
    kind: 'wall',
    size: [w + 1, 0.3, 2.5],
    openings: [{ at: [0, 0], size: [0.9, 2], arched: random() > 0.5 }],
  }),
  ([w, , h]) => ({ kind: 'cylinder', radius: w / 3, height: h }),
  ([w, , h], random) => ({ kind: 'cone', radius: w / 2, top: 0.3 * random(), height: h }),
  ([w]) => ({ kind: 'sphere', radius: w / 3 }),
  () => ({ kind: 'turned', profile: [0.35, 0, 0.35, 0.15, 0.15, 0.3, 0.25, 1, 0.12, 1.3, 0, 1.35] }),
];

/** Blocks of all sorts strewn over a place that grows with their number, some of them in each other. */
export function street(count: number, seed = 1): BlockEntity[] {
  const random = seededRandom(seed);
  const side = 4 * Math.sqrt(count);
  return Array.from({ length: count }, (_, k): BlockEntity => {
    const make = SHAPES[Math.floor(random() * SHAPES.length)];
    const size: Size = [1 + 3 * random(), 1 + 3 * random(), 1 + 4 * random()];
    const at: Vector = [(random() - 0.5) * side, random() * side, 0];
    return {
      ...{
        kind: 'block',
        id: `b${k}`,
        setId: 'street',
        order: 'a0',
        name: `Block ${k}`,
        shape: make(size, random),
        at,
      },
      ...{ turn: turnedRound(random() < 0.6 ? 0 : 3 * random()), hidden: false, locked: false, lines: 'all' },
    };
  });
}

/** A camera that has all of a street before it. */
export function lookingAtStreet(count: number): Eye {
  const side = 4 * Math.sqrt(count);
  return lookingAt([0.1 * side, -0.75 * side, 0.35 * side], [0, 0.4 * side, 0], {
    ...{ focal: 1200, middle: { x: 800, y: 500 }, level: false },
  });
}
