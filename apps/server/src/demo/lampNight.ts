import type { Area } from '@true-nib/core/area';
import type { Thing } from '@true-nib/core/drawn';
import { boxOfPoints, type Point } from '@true-nib/core/math';
import { PAPER_WHITE } from '@true-nib/core/nib';
import type { PageSize } from '@true-nib/core/page';
import { ellipseSpine, rectSpine } from '@true-nib/core/shapes';
import { stipple } from '@true-nib/core/texture';
import { BLACK, cornered, filled, NICK, sliver, type Blacks } from './blacks';
import { camera, type Place } from './camera';
import {
  FAR_LAMP,
  GOING,
  HALF,
  HOUSES,
  LAMP_HEIGHT,
  NEAR_LAMP,
  RISE,
  STAIR_VIEW,
  STEPS,
  type House,
} from './lampStair';

/** *Down the lamp stair* by night: all black, and what two lamps reach cut out of it. */
export function lampNight({ width, height }: PageSize): Blacks {
  const p = camera(STAIR_VIEW).project;
  const night = filled([rectSpine({ x: -60, y: -60 }, { x: width + 60, y: height + 60 })], BLACK);
  const areas = [
    night,
    ...sky(),
    ...landing(p),
    ...steps(p),
    ...ground(p),
    ...HOUSES.flatMap((house) => facade(p, house)),
    ...figures(p),
    ...handrail(p),
    ...[NEAR_LAMP, FAR_LAMP].flatMap((foot) => lamp(p, foot)),
  ];
  return { name: 'Night', at: 'above', things: [...areas, ...glow(p), stars(width)] };
}

/** What the lamps throw into the fog: white dots, fewer outward. */
const glow = (p: Project): Area[] =>
  [NEAR_LAMP, FAR_LAMP].map(([x, y, z], k) => {
    const centre = p([x, y + LAMP_HEIGHT + 0.2, z]);
    const r = k === 0 ? 520 : 260;
    const ramp = { shape: 'round', from: centre, to: { x: centre.x + r, y: centre.y }, share: 0 } as const;
    return filled([ellipseSpine({ centre, rx: r, ry: r })], {
      ...{ as: 'tone', color: PAPER_WHITE, screen: 'dots', period: 13, angle: Math.PI / 4, at: centre, share: 0.34 },
      ramp,
    });
  });

/** Stars, nicked out of the sky over the roofs, fewer towards them. */
function stars(width: number): Thing {
  const sky: readonly Point[] = [
    { x: width * 0.46, y: 40 },
    { x: width - 40, y: 40 },
    { x: width - 40, y: 980 },
    { x: width * 0.72, y: 900 },
  ];
  const ramp = { shape: 'straight', from: { x: 0, y: 40 }, to: { x: 0, y: 980 }, share: 0 } as const;
  return { dots: stipple(sky, { share: 0.012, ramp }, { size: 7, uneven: 0.9 }, 19), fill: { as: 'nothing' } };
}

type Project = (place: Place) => Point;

/** A thin moon, with drifts of cloud before it. */
function sky(): Area[] {
  const disc = (x: number, y: number, r: number) => ellipseSpine({ centre: { x, y }, rx: r, ry: r });
  const moon = { x: 2060, y: 520 };
  const drifts = [-110, -46, 34, 92, 158].map((dy, k) => {
    const y = moon.y + dy;
    return sliver({ x: moon.x - 760 + 90 * k, y }, { x: moon.x + 420 - 60 * k, y: y - 26 }, 13 - 1.5 * k, NICK, 0.7);
  });
  const veil = sliver({ x: moon.x - 420, y: moon.y + 66 }, { x: moon.x + 380, y: moon.y + 36 }, 34, BLACK, 0.55);
  return [
    filled([disc(moon.x, moon.y, 186)], NICK),
    filled([disc(moon.x - 74, moon.y - 28, 168)], BLACK),
    ...drifts,
    veil,
  ];
}

/** The flagstones before the stair: their edges catch some light. */
const landing = (p: Project): Area[] => [
  ...[0, 1, 2].map((k) =>
    sliver(p([-HALF - 0.2, 0, -0.45 * k]), p([HALF - 0.7 * k, 0, -0.45 * k]), 26 - 6 * k, NICK, 0.25),
  ),
  ...[-1.3, -0.5, 0.4].map((x) => sliver(p([x, 0, -0.04]), p([x, 0, -0.8]), 14, NICK, 0.2)),
];

/** The treads that the near lamp lights, each from its side outward: the nearer the farther. */
const steps = (p: Project): Area[] =>
  Array.from({ length: STEPS }, (_, k) => {
    const wide = Math.max(0.2, 1.66 - 0.022 * (k - 5) ** 2);
    const [y, z] = [-(k + 1) * RISE, k * GOING];
    const [from, to] = [-HALF + 0.05, Math.min(HALF - 0.05, -HALF + 2 * wide)];
    // Towards its end the light thins out to the far edge of the tread.
    return cornered(
      [
        p([from, y, z + 0.06]),
        p([from + (to - from) * 0.72, y, z + 0.06]),
        p([to, y, z + GOING * 0.62]),
        p([from, y, z + GOING * 0.97]),
      ],
      NICK,
    );
  });

/** The pool of light round the lamp at the foot of the stair: rings of cobbles, wider apart outward. */
function ground(p: Project): Area[] {
  const [x, y, z] = FAR_LAMP;
  const lights: Area[] = [];
  for (let ring = 0; ring < 5; ring++) {
    const [near, far] = [0.28 + 0.36 * ring, 0.28 + 0.36 * ring + 0.27 - 0.035 * ring];
    const count = 7 + 4 * ring;
    for (let k = 0; k < count; k++) {
      const [from, to] = [k, k + 0.86 - 0.1 * ring].map((at) => (2 * Math.PI * (at + 0.37 * ring)) / count);
      const at = (angle: number, r: number): Point =>
        p([Math.max(-HALF + 0.06, Math.min(HALF - 0.06, x + r * Math.cos(angle))), y, z + r * Math.sin(angle)]);
      if (x + near * Math.cos((from + to) / 2) > HALF - 0.1) continue;
      const angles = [0, 0.5, 1].map((t) => from + (to - from) * t);
      lights.push(
        cornered(
          [...angles.map((angle) => at(angle, near)), ...[...angles].reverse().map((angle) => at(angle, far))],
          NICK,
        ),
      );
    }
  }
  return lights;
}

/** The windows of a house front in which there is light, pane by pane, and its edges where a lamp touches them. */
function facade(p: Project, { side, near, far, top, lit }: House): Area[] {
  const x = side * HALF;
  const floor = (z: number) => -Math.max(0, Math.min(STEPS, z / GOING)) * RISE - RISE;
  const lights: Area[] = [];
  let number = 0;
  for (let z = near + 0.6; z + 0.9 < far; z += 1.5)
    for (let y = top - 0.5; y - 1.2 > floor(z + 0.8) + 0.3; y -= 1.9) {
      if (!lit.includes(number++)) continue;
      for (const [s, t] of [
        [0, 0],
        [0.45, 0],
        [0, 0.6],
        [0.45, 0.6],
      ]) {
        const [a, b, c, d] = [s + 0.04, s + 0.41, t + 0.05, t + 0.55];
        lights.push(
          cornered([p([x, y - c, z + a]), p([x, y - c, z + b]), p([x, y - d, z + b]), p([x, y - d, z + a])], NICK),
        );
      }
    }
  const edge = (a: Place, b: Place, width: number) => sliver(p(a), p(b), width);
  const ridge = x + side * 1.7;
  lights.push(edge([x, top, near], [x, top, far], 13));
  lights.push(
    edge([x, top, near], [ridge, top + 1.5, near], 12),
    edge([ridge, top + 1.5, near], [ridge, top + 1.5, far], 12),
  );
  for (let z = near + 0.25; z < far; z += 0.25)
    lights.push(edge([ridge, top + 1.5, z], [x + side * 0.5, top + 0.44, z], 6));
  lights.push(edge([x, floor(far) + 0.2, far], [x, top, far], 9));
  // Courses of brick that catch the light, ever shorter away from the lamp.
  for (let k = 0; k < 16; k++) {
    const z = near + 0.3 + (((k * 7) % 11) / 11) * (far - near - 0.9);
    const y = floor(z) + 0.35 + ((k * 5) % 9) * 0.28;
    if (y > top - 0.2) continue;
    lights.push(edge([x, y, z], [x, y, z + 0.34], 7));
  }
  return lights;
}

/** The keeper on the stair and the cat, black before the light, with a rim of it on the side of the lamp. */
function figures(p: Project): Area[] {
  const foot = p([0.35, -7 * RISE, 7 * GOING + 0.2]);
  const head = p([0.35, -7 * RISE + 1.75, 7 * GOING + 0.2]);
  const tall = { x: head.x - foot.x, y: head.y - foot.y };
  const size = Math.hypot(tall.x, tall.y);
  const at = (x: number, y: number): Point => ({ x: foot.x + tall.x * y + size * x, y: foot.y + tall.y * y });
  const coat = [
    at(-0.05, 0.84),
    at(-0.13, 0.77),
    at(-0.16, 0.5),
    at(-0.2, 0.24),
    at(-0.09, 0.2),
    at(-0.09, 0.01),
    at(0.08, -0.03),
    at(0.09, 0.2),
    at(0.2, 0.22),
    at(0.17, 0.5),
    at(0.14, 0.77),
    at(0.05, 0.84),
  ];
  const hat = filled([ellipseSpine({ centre: at(0, 0.95), rx: size * 0.14, ry: size * 0.035 })], BLACK);
  const face = filled([ellipseSpine({ centre: at(0, 0.9), rx: size * 0.07, ry: size * 0.08 })], BLACK);
  const cap = cornered([at(-0.09, 0.95), at(-0.07, 1.03), at(0.07, 1.03), at(0.09, 0.95)], BLACK);
  const pole = cornered([at(0.285, 0.5), at(0.275, 0.49), at(-0.31, 1.36), at(-0.3, 1.37)], BLACK);
  const rim = [
    sliver(at(-0.12, 0.77), at(-0.185, 0.28), 16),
    sliver(at(-0.125, 0.955), at(0.02, 0.935), 7),
    sliver(at(-0.066, 0.87), at(-0.05, 0.93), 8),
    sliver(at(0.27, 0.53), at(-0.29, 1.37), 6),
  ];
  const paws = p([-0.9, -2 * RISE, 2 * GOING + 0.2]);
  const cat = (x: number, y: number): Point => ({ x: paws.x + x, y: paws.y - y });
  const body = [cat(-70, 0), cat(-86, 80), cat(-40, 150), cat(30, 150), cat(78, 80), cat(70, 0)];
  const ears = [cat(-42, 210), cat(-46, 268), cat(-8, 236), cat(22, 236), cat(52, 268), cat(52, 206)];
  const skull = filled([ellipseSpine({ centre: cat(6, 190), rx: 52, ry: 46 })], BLACK);
  const eyes = [-14, 26].map((x) => filled([ellipseSpine({ centre: cat(x, 194), rx: 9, ry: 6 })], NICK));
  return [
    ...[cornered(coat, BLACK), hat, face, cap, pole, ...rim],
    ...[body, ears].map((ring) => cornered(ring, BLACK)),
    ...[skull, ...eyes],
  ];
}

/** The handrail on the dark side, a line of light that breaks at its posts. */
const handrail = (p: Project): Area[] =>
  Array.from({ length: Math.floor(STEPS / 2) + 1 }, (_, n) => {
    const at = (k: number, up: number): Place => [HALF - 0.16, -k * RISE + up, k * GOING];
    const k = 2 * n;
    const post = sliver(p(at(k, 0.05)), p(at(k, 0.93)), 9);
    return k + 2 <= STEPS ? [sliver(p(at(k + 0.12, 0.95)), p(at(k + 1.9, 0.95)), 12), post] : [post];
  }).flat();

/** A lamp: its lantern and rays of light, its post black before whatever is lit. */
function lamp(p: Project, [x, y, z]: Place): Area[] {
  const at = (dx: number, up: number, dz = 0) => p([x + dx, y + up, z + dz]);
  const tall = LAMP_HEIGHT;
  const post = cornered([at(-0.06, 0), at(0.06, 0), at(0.045, tall), at(-0.045, tall)], BLACK);
  const shine = sliver(at(-0.03, 0.2), at(-0.02, tall - 0.1), 6);
  const square = (half: number, up: number) => [
    at(-half, up, -half),
    at(half, up, -half),
    at(half, up, half),
    at(-half, up, half),
  ];
  const glass = [...square(0.11, tall + 0.03), ...square(0.19, tall + 0.44)];
  const { minX, maxX, minY, maxY } = boxOfPoints(glass);
  const glow = { x: (minX + maxX) / 2, y: (minY + maxY) / 2 };
  const reach = (maxY - minY) / 2;
  const pane = cornered(
    [
      { x: glow.x - 0.28 * (maxX - minX), y: maxY },
      { x: minX + 6, y: minY },
      { x: maxX - 6, y: minY },
      { x: glow.x + 0.28 * (maxX - minX), y: maxY },
    ],
    NICK,
  );
  const rays = Array.from({ length: 28 }, (_, k) => {
    const angle = (2 * Math.PI * k) / 28 + 0.05;
    const [from, to] = [1.5, k % 2 === 0 ? 5.2 : 3.4].map((r) => r * reach);
    const place = (r: number): Point => ({ x: glow.x + r * Math.cos(angle), y: glow.y + r * Math.sin(angle) });
    return sliver(place(from), place(to), k % 2 === 0 ? 0.2 * reach : 0.13 * reach, NICK, 0.22);
  });
  return [post, shine, pane, ...rays];
}
