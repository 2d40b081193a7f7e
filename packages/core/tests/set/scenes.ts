import { framePreset, FRAME_PRESETS, turnedCamera } from '../../src/guides';
import { seededRandom, type Vector } from '../../src/math';
import {
  pullLines,
  turnedRound,
  type BlockEntity,
  type BlockShape,
  type Eye,
  type PulledLine,
  type PullSettings,
} from '../../src/set';

export const NIB = { name: 'Nib', size: 3, thinnest: 1, taperIn: 0, taperOut: 0, color: '#000000' };
export const PLAIN: PullSettings = {
  nibs: { contour: NIB, crease: NIB, contact: NIB, mark: NIB },
  ...{ crease: 0.3, fall: 0, over: 0, halo: 0, dash: 8 },
};
export const PAGE = { minX: 0, minY: 0, maxX: 1600, maxY: 1000 };
export const SIZE = { width: 1600, height: 1000 };

export const block = (id: string, shape: BlockShape, at: Vector = [0, 0, 0], round = 0): BlockEntity => ({
  ...{ kind: 'block', id, setId: 'set', order: 'a0', name: id, shape, at, turn: turnedRound(round) },
  ...{ hidden: false, locked: false, lines: 'all' },
});

/** A camera of 1,200 px that stands at a place; degrees. */
export function cameraAt(eye: Vector, yaw: number, tilt: number, roll = 0, centre = { x: 800, y: 500 }): Eye {
  const straight = { centre, focal: 1200, axes: { right: [1, 0, 0], left: [0, 0, 1], height: [0, -1, 0] } } as const;
  const radians = (degrees: number) => (degrees * Math.PI) / 180;
  return { eye, look: turnedCamera(straight, { yaw: radians(yaw), tilt: radians(tilt), roll: radians(roll) }) };
}

/** In general position over a corner. */
export const OVER = cameraAt([-5, -13, 6], 20, -18);

export const pulled = (blocks: readonly BlockEntity[], camera: Eye = OVER, settings: Partial<PullSettings> = {}) =>
  pullLines(blocks, camera, { ...PLAIN, ...settings }, PAGE);

/** Straight lines as ends, rounded to whole px so that they can be told. */
export const ends = ({ stroke: { spine } }: PulledLine): readonly [number, number, number, number] => {
  const { points } = spine;
  const last = points.length - 3;
  return [points[0], points[1], points[last], points[last + 1]];
};

/** Boxes, ramps, walls, roofs and stairs at random, some of them in each other. */
export function straightScene(count: number, seed: number): BlockEntity[] {
  const random = seededRandom(seed);
  const shapes: readonly ((size: readonly [number, number, number]) => BlockShape)[] = [
    (size) => ({ kind: 'box', size }),
    (size) => ({ kind: 'wedge', size }),
    (size) => ({ kind: 'roof', size, hip: 0.4 }),
    (size) => ({ kind: 'stair', size, steps: 4 }),
    ([w, , h]) => ({
      kind: 'wall',
      size: [w + 1.5, 0.3, h + 1.5],
      openings: [{ at: [0, 0.5], size: [0.8, 0.8], arched: false }],
    }),
  ];
  return Array.from({ length: count }, (_, k) =>
    block(
      `b${k}`,
      shapes[Math.floor(random() * shapes.length)]([1 + 2 * random(), 1 + 2 * random(), 1 + 3 * random()]),
      [(random() - 0.5) * 14, random() * 12 - 4, 0],
      random() < 0.5 ? 0 : random() * 3,
    ),
  );
}

export const framed = framePreset(FRAME_PRESETS[2], SIZE);
