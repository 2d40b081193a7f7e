import type { Point } from '@true-nib/core/math';
import { camera, type CameraOptions, type Place } from './camera';
import { Sketch } from './sketch';

/** Half the width of the stair, how far its steps go and rise, in metres, and how many they are. */
export const [HALF, GOING, RISE, STEPS] = [1.7, 0.5, 0.27, 15];

/** A house front along the stair, on the left (−1) or the right (1), from `near` to `far`, with its eaves at `top`. */
export interface House {
  readonly side: -1 | 1;
  readonly near: number;
  readonly far: number;
  readonly top: number;
  /** The windows in which there is light by night, counted from the near end and downwards. */
  readonly lit: readonly number[];
}

export const HOUSES: readonly House[] = [
  { side: -1, near: -0.3, far: 4.0, top: 2.3, lit: [1] },
  { side: -1, near: 4.0, far: 9.2, top: 0.9, lit: [0, 3] },
  { side: 1, near: 2.9, far: 6.2, top: 0.7, lit: [1] },
  { side: 1, near: 6.2, far: 11, top: -0.5, lit: [0, 2] },
];

export const NEAR_LAMP: Place = [-1.25, -5 * RISE, 5 * GOING + 0.2];
export const FAR_LAMP: Place = [1.2, -STEPS * RISE, STEPS * GOING + 1.4];
export const LAMP_HEIGHT = 3.1;

/** Where the stair is seen from. */
export const STAIR_VIEW: CameraOptions = {
  ...{ centre: { x: 1325, y: 2200 }, focal: 1900, eye: [0.95, 2.9, -2.3] as const },
  ...{ yaw: -0.34, pitch: -0.5 },
};

/** *Down the lamp stair*: a steep stair between houses, seen from above, three vanishing points, 2650 × 4100 px. */
export function lampStair(): Sketch {
  const sketch = new Sketch();
  const view = camera(STAIR_VIEW);
  const p = view.project;
  // What is built is inked along the frame; roofs, lamps, the keeper and the cat wait for a hand.
  const line = (a: Place, b: Place, weight: number) =>
    sketch.line(p(a), p(b), { weight, as: weight >= 0.3 && isOnPage(p(a)) && isOnPage(p(b)) ? 'ink' : 'pencil' });
  const nadir = view.vanishing([0, -1, 0]);
  for (let k = 0; k < 8; k++) {
    const from = { x: 80 + k * 350, y: -40 };
    sketch.line(
      from,
      { x: from.x + (nadir.x - from.x) * 0.42, y: from.y + (nadir.y - from.y) * 0.42 },
      { weight: 0.3, as: 'construction' },
    );
  }
  for (let k = 0; k < STEPS; k++) {
    const [y, z] = [-k * RISE, k * GOING];
    const weight = 0.85 - k * 0.022;
    line([-HALF, y, z], [HALF, y, z], weight);
    line([-HALF, y - RISE, z], [HALF, y - RISE, z], weight * 0.5);
    for (const x of [-HALF, HALF]) {
      line([x, y, z], [x, y - RISE, z], weight * 0.8);
      line([x, y - RISE, z], [x, y - RISE, z + GOING], weight * 0.8);
    }
  }
  for (let k = 0; k < 3; k++) line([-HALF - 0.2, 0, -0.45 * k], [HALF + 0.2, 0, -0.45 * k], 0.5);
  for (const [k, x] of [-1.3, -0.5, 0.4, 1.2].entries()) line([x, 0, 0], [x + (k % 2 ? 0.2 : 0), 0, -0.9], 0.4);
  const [foot, end] = [-STEPS * RISE, STEPS * GOING];
  line([-HALF, foot, end], [-HALF, foot, end + 7], 0.6);
  line([HALF, foot, end], [HALF, foot, end + 7], 0.6);
  for (let k = 1; k < 7; k++) line([-HALF, foot, end + k], [HALF, foot, end + k], 0.2);
  for (const one of HOUSES) house(line, one);
  rail(line);
  for (const lamp of [NEAR_LAMP, FAR_LAMP]) lampPost(sketch, p, lamp, LAMP_HEIGHT);
  keeper(sketch, p([0.35, -7 * RISE, 7 * GOING + 0.2]), p([0.35, -7 * RISE + 1.75, 7 * GOING + 0.2]));
  cat(sketch, p([-0.9, -2 * RISE, 2 * GOING + 0.2]));
  return sketch;
}

const isOnPage = ({ x, y }: Point): boolean => x > -200 && y > -200 && x < 2850 && y < 4300;

type Line = (a: Place, b: Place, weight: number) => unknown;

function house(line: Line, { side, near, far, top }: House): void {
  const x = side * HALF;
  const out = side * (HALF + 3.4);
  const floor = (z: number) => -Math.max(0, Math.min(STEPS, z / GOING)) * RISE - RISE;
  line([x, floor(near), near], [x, top, near], 1);
  line([x, floor(far), far], [x, top, far], 0.8);
  line([x, top, near], [x, top, far], 0.9);
  line([x, top, near], [out, top, near], 0.8);
  line([x, top, far], [out, top, far], 0.6);
  const ridge = (x + out) / 2;
  line([x, top, near], [ridge, top + 1.5, near], 0.8);
  line([ridge, top + 1.5, near], [out, top, near], 0.7);
  line([ridge, top + 1.5, near], [ridge, top + 1.5, far], 0.7);
  line([x, top, far], [ridge, top + 1.5, far], 0.5);
  for (let z = near + 0.5; z < far; z += 0.5) line([x, top, z], [ridge, top + 1.5, z], 0.16);
  for (let z = near + 0.6; z + 0.9 < far; z += 1.5)
    for (let y = top - 0.5; y - 1.2 > floor(z + 0.8) + 0.3; y -= 1.9) {
      for (const s of [0, 0.45, 0.9]) line([x, y, z + s], [x, y - 1.2, z + s], s === 0.45 ? 0.25 : 0.5);
      for (const t of [0, 0.6, 1.2]) line([x, y - t, z], [x, y - t, z + 0.9], t === 0.6 ? 0.25 : 0.5);
    }
}

function rail(line: Line): void {
  const at = (k: number, up: number): Place => [HALF - 0.16, -k * RISE + up, k * GOING];
  line(at(0, 0.95), at(STEPS, 0.95), 0.8);
  line(at(0, 0.55), at(STEPS, 0.55), 0.4);
  for (let k = 0; k <= STEPS; k += 2) line(at(k, 0), at(k, 1), 0.5);
}

function lampPost(sketch: Sketch, p: (place: Place) => Point, [x, y, z]: Place, tall: number): void {
  const at = (dx: number, up: number, dz = 0) => p([x + dx, y + up, z + dz]);
  sketch.line(at(-0.045, 0), at(-0.035, tall), { weight: 0.8 }).line(at(0.045, 0), at(0.035, tall), { weight: 0.8 });
  const square = (half: number, up: number) => [
    at(-half, up, -half),
    at(half, up, -half),
    at(half, up, half),
    at(-half, up, half),
  ];
  const [low, high, roof] = [square(0.12, tall), square(0.21, tall + 0.48), at(0, tall + 0.72)];
  sketch.ring(low, { weight: 0.6 }).ring(high, { weight: 0.8 });
  low.forEach((corner, k) => sketch.line(corner, high[k], { weight: 0.7 }).line(high[k], roof, { weight: 0.6 }));
  const glow = at(0, tall + 0.25);
  for (const r of [190, 290]) sketch.ellipse(glow, r, r, { weight: 0.14 });
  for (let k = 0; k < 10; k++) {
    const a = (k * Math.PI) / 5 + 0.3;
    sketch.line(
      { x: glow.x + 150 * Math.cos(a), y: glow.y + 150 * Math.sin(a) },
      { x: glow.x + 230 * Math.cos(a), y: glow.y + 230 * Math.sin(a) },
      { weight: 0.2 },
    );
  }
}

/** The lamp keeper going down with a pole over the shoulder, seen from behind. */
function keeper(sketch: Sketch, foot: Point, head: Point): void {
  const tall = { x: head.x - foot.x, y: head.y - foot.y };
  const size = Math.hypot(tall.x, tall.y);
  const at = (x: number, y: number) => ({ x: foot.x + tall.x * y + size * x, y: foot.y + tall.y * y });
  const s = { weight: 0.75 };
  sketch.ellipse(at(0, 0.9), size * 0.07, size * 0.075, s).ellipse(at(0, 0.95), size * 0.13, size * 0.035, s);
  sketch.curve([at(-0.09, 0.95), at(-0.07, 1.03), at(0, 1.05), at(0.07, 1.03), at(0.09, 0.95)], s);
  sketch
    .curve([at(-0.04, 0.82), at(-0.15, 0.76), at(-0.17, 0.5), at(-0.2, 0.24)], s)
    .curve([at(0.04, 0.82), at(0.15, 0.76), at(0.17, 0.5), at(0.2, 0.22)], s);
  sketch.curve([at(-0.2, 0.24), at(-0.02, 0.2), at(0.2, 0.22)], s).line(at(0, 0.8), at(0, 0.22), { weight: 0.3 });
  sketch.line(at(-0.07, 0.21), at(-0.08, 0.02), s).line(at(0.08, 0.21), at(0.07, -0.03), s);
  sketch
    .curve([at(0.15, 0.74), at(0.25, 0.62), at(0.13, 0.66)], s)
    .line(at(0.28, 0.5), at(-0.3, 1.36), { weight: 0.8 });
  sketch.curve([at(-0.3, 1.36), at(-0.36, 1.42), at(-0.28, 1.45), at(-0.24, 1.4)], { weight: 0.6 });
}

function cat(sketch: Sketch, foot: Point): void {
  const at = (x: number, y: number) => ({ x: foot.x + x, y: foot.y - y });
  sketch.curve([at(-70, 0), at(-84, 90), at(-30, 150), at(30, 150), at(76, 80), at(70, 0)], { weight: 0.7 });
  sketch
    .ellipse(at(6, 190), 52, 46, { weight: 0.7 })
    .curve([at(-36, 214), at(-44, 268), at(-8, 234)], { weight: 0.6 })
    .curve([at(20, 234), at(50, 268), at(48, 214)], { weight: 0.6 });
  sketch.curve([at(72, 20), at(150, 10), at(190, 70), at(150, 120)], { weight: 0.6 });
}
