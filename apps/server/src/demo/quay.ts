import type { Point } from '@true-nib/core/math';
import { camera, face, type Place } from './camera';
import { Sketch } from './sketch';

/** *Quay at low tide*: a corner house and a row of sheds above a harbour wall, two vanishing points, 2650 × 4100 px. */
export function quay(): Sketch {
  const sketch = new Sketch();
  const view = camera({ centre: { x: 1325, y: 1980 }, focal: 2500, eye: [0, 3.1, 0] });
  const p = view.project;
  const turn = (38 * Math.PI) / 180;
  const along: Place = [Math.cos(turn), 0, Math.sin(turn)];
  const aside: Place = [-Math.sin(turn), 0, Math.cos(turn)];
  const up: Place = [0, 1, 0];
  const corner: Place = [-0.35, 0, 10.4];
  const right = face(corner, along, up);
  const left = face(corner, aside, up);
  const ground = face(corner, along, aside);
  const ink = (weight: number) => ({ weight, as: 'ink' as const });
  const pencil = (weight: number) => ({ weight, as: 'pencil' as const });
  const line = (a: Place, b: Place, style: { weight: number; as: 'ink' | 'pencil' }) => sketch.line(p(a), p(b), style);

  construction(sketch, view.vanishing(along), view.vanishing(aside), p(right(0, 0)));

  // The corner house: left wall with its gable and door, right wall with shop windows.
  const [deep, long, eaves] = [5.2, 6.4, 5.6];
  line(left(0, 0), left(0, eaves), ink(1));
  line(left(deep, 0), left(deep, eaves), ink(0.9));
  line(left(0, 0), left(deep, 0), ink(0.9));
  line(left(-0.12, eaves), left(deep + 0.12, eaves), ink(0.65));
  const ridge = left(deep / 2, eaves + 2.3);
  line(left(-0.22, eaves - 0.15), ridge, ink(0.95));
  line(ridge, left(deep + 0.22, eaves - 0.15), ink(0.95));
  line(left(0.1, eaves + 0.05), left(deep / 2, eaves + 2.05), ink(0.35));
  line(left(deep - 0.1, eaves + 0.05), left(deep / 2, eaves + 2.05), ink(0.35));
  line(right(0, 0), right(long, 0), pencil(0.9));
  line(right(long, 0), right(long, eaves), pencil(0.9));
  line(right(-0.1, eaves), right(long, eaves), pencil(0.9));
  const ridgeFar: Place = [ridge[0] + along[0] * long, ridge[1], ridge[2] + along[2] * long];
  line(ridge, ridgeFar, pencil(0.9));
  line(ridgeFar, right(long, eaves), pencil(0.7));
  for (let k = 1; k < 7; k++) line([ridge[0] + along[0] * k * 0.9, ridge[1], ridge[2] + along[2] * k * 0.9], right(k * 0.9, eaves), pencil(0.2));
  chimney(sketch, p, ridge, along);

  // The round window in the gable and a beam with a hoist.
  const ringOn = (wall: typeof left, s: number, t: number, r: number): Point[] =>
    Array.from({ length: 33 }, (_, k) => p(wall(s + r * Math.cos((k * Math.PI) / 16), t + r * Math.sin((k * Math.PI) / 16))));
  sketch.add(ringOn(left, deep / 2, eaves + 0.85, 0.44), ink(0.6));
  sketch.add(ringOn(left, deep / 2, eaves + 0.85, 0.34), ink(0.3));
  line(left(deep / 2 - 0.34, eaves + 0.85), left(deep / 2 + 0.34, eaves + 0.85), ink(0.3));
  line(left(deep / 2, eaves + 0.51), left(deep / 2, eaves + 1.19), ink(0.3));

  for (const [row, sill] of [3.45, 1.15].entries())
    for (let k = 0; k < 3; k++) {
      const s = 0.55 + k * 1.55;
      if (row === 1 && k === 1) continue;
      pane(line, left, s, sill, 1.0, row === 0 ? 1.45 : 1.5, ink);
    }
  for (const sill of [3.45, 1.0]) for (let k = 0; k < 4; k++) pane(line, right, 0.6 + k * 1.45, sill, 0.95, sill > 2 ? 1.45 : 1.7, pencil);
  door(line, left, 2.05, ink);
  // Courses of stone by the corner, and clapboards between the storeys.
  for (let k = 0; k < 9; k++) {
    const y = 0.32 + k * 0.62;
    line(left(0.02, y), left(k % 2 ? 0.34 : 0.22, y), ink(0.25));
    line(right(0.02, y), right(k % 2 ? 0.22 : 0.34, y), ink(0.25));
  }
  for (let k = 0; k < 17; k++) {
    const s = 0.3 + k * 0.285;
    if (s > 1.95 && s < 3.15) continue;
    line(left(s, 0.05), left(s, 0.62 + (k % 3) * 0.06), ink(0.22));
  }
  sign(line, right, ink);

  // The sheds behind, each a little different.
  shed(line, right, 7.1, 4.4, 4.3, pencil);
  shed(line, right, 12.2, 3.6, 6.4, pencil);
  shed(line, right, 16.4, 5.5, 4.9, pencil);

  // The quay: coping stones along the edge, the wall below, rungs of a ladder.
  const edge = -2.3;
  const coping = (s: number, drop: number): Place => {
    const [x, , z] = ground(s, edge);
    return [x, -drop, z];
  };
  line(coping(-6.2, 0), coping(9.5, 0), ink(1));
  line(coping(9.5, 0), coping(32, 0), pencil(0.9));
  line(coping(-6.2, 0.34), coping(9.5, 0.34), ink(0.7));
  line(coping(9.5, 0.34), coping(32, 0.34), pencil(0.6));
  line(ground(-6, edge + 0.55), ground(9.5, edge + 0.55), ink(0.35));
  for (let s = -5.2; s < 9; s += 1.25) {
    line(coping(s, 0), coping(s, 0.34), ink(0.4));
    line(ground(s, edge), ground(s, edge + 0.55), ink(0.25));
  }
  for (let row = 0; row < 4; row++) {
    const y = 0.85 + row * 0.55;
    line(coping(-6 + row * 0.4, y), coping(4.5 - row * 0.9, y), pencil(0.3));
    for (let s = -5 + (row % 2) * 0.6; s < 3.4; s += 1.35) line(coping(s, y - 0.5), coping(s, y), pencil(0.25));
  }
  for (const s of [2.3, 2.75]) line(coping(s, -0.5), coping(s, 3), pencil(0.6));
  for (let y = 0; y < 2.9; y += 0.36) line(coping(2.3, y), coping(2.75, y), pencil(0.5));

  const mooring = p(ground(-3.1, edge + 0.62));
  bollard(sketch, mooring, 1.25, 'ink');
  bollard(sketch, p(ground(4.6, edge + 0.62)), 0.66, 'pencil');
  lamp(sketch, p(ground(5.9, edge + 0.9)), p(face(ground(5.9, edge + 0.9), up, along)(4.4, 0)));
  ferryman(sketch, p(ground(1.55, edge + 1.0)), 620);
  boat(sketch, mooring);
  heron(sketch, mooring);
  harbour(sketch);
  night(sketch);
  return sketch;
}

type Wall = ReturnType<typeof face>;
type Style = (weight: number) => { weight: number; as: 'ink' | 'pencil' };
type Line = (a: Place, b: Place, style: { weight: number; as: 'ink' | 'pencil' }) => unknown;

function construction(sketch: Sketch, right: Point, left: Point, foot: Point): void {
  const pale = { weight: 0.3, as: 'construction' as const };
  sketch.line({ x: -40, y: 1980 }, { x: 2690, y: 1980 }, pale);
  for (const rise of [-2100, -1420, -760, 0, 330, 760]) {
    const from = { x: foot.x, y: foot.y + rise };
    sketch.line(from, { x: 2690, y: from.y + ((right.y - from.y) * (2690 - from.x)) / (right.x - from.x) }, pale);
    sketch.line(from, { x: -40, y: from.y + ((left.y - from.y) * (-40 - from.x)) / (left.x - from.x) }, pale);
  }
}

function pane(line: Line, wall: Wall, s: number, t: number, wide: number, tall: number, style: Style): void {
  line(wall(s, t), wall(s, t + tall), style(0.6));
  line(wall(s + wide, t), wall(s + wide, t + tall), style(0.6));
  line(wall(s - 0.06, t), wall(s + wide + 0.06, t), style(0.75));
  line(wall(s, t + tall), wall(s + wide, t + tall), style(0.6));
  line(wall(s + wide / 2, t), wall(s + wide / 2, t + tall), style(0.28));
  for (const part of [1 / 3, 2 / 3]) line(wall(s, t + tall * part), wall(s + wide, t + tall * part), style(0.24));
}

function door(line: Line, wall: Wall, s: number, style: Style): void {
  line(wall(s, 0), wall(s, 2.45), style(0.75));
  line(wall(s + 1.15, 0), wall(s + 1.15, 2.45), style(0.75));
  line(wall(s - 0.1, 2.45), wall(s + 1.25, 2.45), style(0.8));
  line(wall(s + 0.575, 0), wall(s + 0.575, 1.95), style(0.35));
  line(wall(s, 1.95), wall(s + 1.15, 1.95), style(0.4));
  line(wall(s + 0.44, 0.95), wall(s + 0.44, 1.12), style(0.6));
}

function sign(line: Line, wall: Wall, style: Style): void {
  const [x, y, z] = wall(0.25, 3.2);
  const out = (s: number, t: number): Place => [x - 0.62 * s, y + t, z - 0.79 * s];
  line(out(0, 0), out(1.15, 0), style(0.6));
  line(out(0, -0.45), out(0.5, 0), style(0.35));
  for (const s of [0.42, 1.1]) line(out(s, -0.18), out(s, -0.82), style(0.5));
  for (const t of [-0.18, -0.82]) line(out(0.42, t), out(1.1, t), style(0.5));
  for (const s of [0.52, 1.0]) line(out(s, 0), out(s, -0.18), style(0.25));
  line(out(0.52, -0.62), out(0.78, -0.36), style(0.3));
  line(out(0.78, -0.36), out(1.0, -0.62), style(0.3));
}

function shed(line: Line, wall: Wall, s: number, wide: number, tall: number, style: Style): void {
  line(wall(s, 0), wall(s, tall), style(0.8));
  line(wall(s + wide, 0), wall(s + wide, tall), style(0.7));
  line(wall(s, 0), wall(s + wide, 0), style(0.7));
  line(wall(s, tall), wall(s + wide / 2, tall + 1.5), style(0.8));
  line(wall(s + wide / 2, tall + 1.5), wall(s + wide, tall), style(0.8));
  line(wall(s + wide * 0.25, 0), wall(s + wide * 0.25, 2.4), style(0.5));
  line(wall(s + wide * 0.62, 0), wall(s + wide * 0.62, 2.4), style(0.5));
  line(wall(s + wide * 0.25, 2.4), wall(s + wide * 0.62, 2.4), style(0.5));
  line(wall(s + wide * 0.4, tall - 1.2), wall(s + wide * 0.6, tall - 1.2), style(0.4));
  line(wall(s + wide * 0.4, tall - 0.4), wall(s + wide * 0.6, tall - 0.4), style(0.4));
}

function chimney(sketch: Sketch, p: (place: Place) => Point, ridge: Place, along: Place): void {
  const at = (s: number, t: number) => p([ridge[0] + along[0] * s, ridge[1] + t, ridge[2] + along[2] * s]);
  const style = { weight: 0.7, as: 'pencil' as const };
  sketch.line(at(2.4, -0.1), at(2.4, 1.2), style).line(at(3.1, -0.1), at(3.1, 1.2), style).line(at(2.3, 1.2), at(3.2, 1.2), style);
  const top = at(2.75, 1.5);
  sketch.curve([top, { x: top.x + 60, y: top.y - 120 }, { x: top.x - 10, y: top.y - 230 }, { x: top.x + 110, y: top.y - 330 }], { weight: 0.3 });
}

function bollard(sketch: Sketch, foot: Point, size: number, as: 'ink' | 'pencil'): void {
  const [w, h] = [86 * size, 190 * size];
  const at = (x: number, y: number) => ({ x: foot.x + x * w, y: foot.y - y * h });
  sketch.ellipse(at(0, 1), w * 1.12, 30 * size, { weight: 0.8, as });
  sketch.ellipse(at(0, 0.84), w * 1.12, 30 * size, { weight: 0.6, as }, 0.05, Math.PI - 0.05);
  sketch.line(at(-1.12, 1), at(-1.12, 0.84), { weight: 0.6, as }).line(at(1.12, 1), at(1.12, 0.84), { weight: 0.8, as });
  sketch.curve([at(-0.86, 0.72), at(-0.74, 0.4), at(-0.84, 0.02)], { weight: 0.8, as });
  sketch.curve([at(0.86, 0.72), at(0.74, 0.4), at(0.84, 0.02)], { weight: 1, as });
  sketch.ellipse(at(0, 0.02), w * 0.84, 26 * size, { weight: 0.9, as }, 0.02, Math.PI - 0.02);
  for (let k = 0; k < 3; k++) sketch.ellipse(at(0, 0.5 - k * 0.1), w * 0.8, 26 * size, { weight: 0.5, as }, 0.1, Math.PI - 0.1);
}

function lamp(sketch: Sketch, foot: Point, head: Point): void {
  const style = { weight: 0.7, as: 'pencil' as const };
  sketch.line({ x: foot.x - 9, y: foot.y }, { x: head.x - 6, y: head.y }, style).line({ x: foot.x + 9, y: foot.y }, { x: head.x + 6, y: head.y }, style);
  const at = (x: number, y: number) => ({ x: head.x + x, y: head.y + y });
  sketch.line(at(-26, 0), at(-40, -96), style).line(at(26, 0), at(40, -96), style).line(at(-26, 0), at(26, 0), style);
  sketch.line(at(-50, -96), at(50, -96), style).line(at(-50, -96), at(0, -140), style).line(at(50, -96), at(0, -140), style);
  for (let k = 0; k < 8; k++) {
    const angle = (k * Math.PI) / 4 + 0.2;
    sketch.line(at(90 * Math.cos(angle), -48 + 90 * Math.sin(angle)), at(150 * Math.cos(angle), -48 + 150 * Math.sin(angle)), { weight: 0.15 });
  }
}

/** A figure in a long coat under an umbrella, `height` px tall. */
function ferryman(sketch: Sketch, foot: Point, height: number): void {
  const at = (x: number, y: number) => ({ x: foot.x + x * height, y: foot.y - y * height });
  const s = { weight: 0.7, as: 'pencil' as const };
  sketch.ellipse(at(0.01, 0.88), 0.062 * height, 0.078 * height, s);
  sketch.curve([at(-0.07, 0.93), at(0.0, 0.965), at(0.08, 0.925)], s);
  sketch.curve([at(-0.02, 0.8), at(-0.13, 0.74), at(-0.15, 0.5), at(-0.19, 0.16)], s);
  sketch.curve([at(0.03, 0.8), at(0.13, 0.73), at(0.15, 0.48), at(0.2, 0.15)], s);
  sketch.curve([at(-0.19, 0.16), at(0, 0.12), at(0.2, 0.15)], s);
  sketch.line(at(-0.06, 0.13), at(-0.08, 0), s).line(at(0.07, 0.13), at(0.09, 0), s);
  sketch.line(at(0.01, 0.74), at(0.0, 0.16), { weight: 0.4 });
  sketch.curve([at(0.12, 0.7), at(0.2, 0.6), at(0.16, 0.72), at(0.17, 0.86)], s);
  sketch.line(at(0.165, 0.7), at(0.175, 1.2), s);
  sketch.curve([at(-0.2, 1.0), at(-0.06, 1.15), at(0.17, 1.2), at(0.42, 1.14), at(0.54, 0.98)], { weight: 0.9 });
  sketch.curve([at(-0.2, 1.0), at(-0.08, 1.05), at(0.04, 1.01), at(0.17, 1.06), at(0.3, 1.01), at(0.43, 1.04), at(0.54, 0.98)], s);
  sketch.curve([at(0.17, 1.2), at(0.06, 1.12), at(0.04, 1.01)], { weight: 0.3 }).curve([at(0.17, 1.2), at(0.29, 1.12), at(0.3, 1.01)], { weight: 0.3 });
}

/** The night ferry at her moorings, bow towards us, and the rope to the bollard. */
function boat(sketch: Sketch, mooring: Point): void {
  const ink = (weight: number) => ({ weight, as: 'ink' as const });
  const pencil = (weight: number) => ({ weight, as: 'pencil' as const });
  sketch.curve([{ x: 1330, y: 3560 }, { x: 1560, y: 3490 }, { x: 1980, y: 3330 }, { x: 2690, y: 3020 }], pencil(0.9));
  sketch.curve([{ x: 1330, y: 3560 }, { x: 1392, y: 3660 }, { x: 1445, y: 3800 }], pencil(1));
  sketch.curve([{ x: 1445, y: 3800 }, { x: 1800, y: 3770 }, { x: 2250, y: 3650 }, { x: 2690, y: 3490 }], pencil(0.8));
  sketch.curve([{ x: 1348, y: 3610 }, { x: 1600, y: 3540 }, { x: 2010, y: 3385 }, { x: 2690, y: 3085 }], pencil(0.5));
  sketch.line({ x: 1860, y: 3370 }, { x: 1850, y: 3110 }, pencil(0.7)).line({ x: 2420, y: 3135 }, { x: 2412, y: 2850 }, pencil(0.7));
  sketch.line({ x: 1828, y: 3120 }, { x: 2440, y: 2838 }, pencil(0.8));
  sketch.line({ x: 1828, y: 3120 }, { x: 1836, y: 3085 }, pencil(0.5)).line({ x: 1836, y: 3085 }, { x: 2446, y: 2806 }, pencil(0.5));
  for (let k = 0; k < 4; k++) {
    const x = 1915 + k * 130;
    const y = 3145 - k * 60;
    sketch.ellipse({ x, y: y + 50 }, 34, 40, pencil(0.5));
  }
  sketch.line({ x: 2180, y: 2925 }, { x: 2172, y: 2560 }, pencil(0.7)).line({ x: 2180, y: 2600 }, { x: 2440, y: 2740 }, pencil(0.3));
  const from = { x: mooring.x + 84, y: mooring.y - 96 };
  sketch.curve([from, { x: from.x + 60, y: from.y + 260 }, { x: from.x + 330, y: from.y + 540 }, { x: 1330, y: 3572 }], ink(0.8));
  for (let k = 0; k < 7; k++) {
    const y = 3760 + k * 52;
    const x = 180 + ((k * 397) % 520);
    sketch.curve([{ x, y }, { x: x + 120, y: y - 14 }, { x: x + 260, y: y + 6 }, { x: x + 420, y: y - 8 }], pencil(0.35));
    sketch.curve([{ x: x + 900, y: y + 70 }, { x: x + 1080, y: y + 58 }, { x: x + 1300, y: y + 74 }], pencil(0.3));
  }
}

/** A heron on the bollard, waiting for the tide. */
function heron(sketch: Sketch, foot: Point): void {
  const at = (x: number, y: number) => ({ x: foot.x + x * 1.25, y: foot.y - 246 - y * 1.25 });
  const ink = (weight: number) => ({ weight, as: 'ink' as const });
  sketch.line(at(-6, 6), at(-2, 120), ink(0.5)).line(at(18, 6), at(20, 118), ink(0.4));
  sketch.line(at(-34, 2), at(2, 10), ink(0.4)).line(at(2, 10), at(26, 0), ink(0.35));
  sketch.curve([at(-86, 150), at(-40, 116), at(30, 112), at(74, 160), at(78, 214)], ink(0.9));
  sketch.curve([at(-120, 108), at(-86, 158), at(-30, 226), at(34, 250), at(58, 262)], ink(0.85));
  sketch.curve([at(-120, 108), at(-84, 116), at(-52, 130)], ink(0.6));
  sketch.curve([at(78, 214), at(66, 264), at(28, 310), at(34, 364), at(70, 392)], ink(0.75));
  sketch.curve([at(58, 262), at(40, 284), at(6, 316), at(12, 382), at(52, 418)], ink(0.75));
  sketch.curve([at(52, 418), at(84, 424), at(108, 404)], ink(0.7));
  sketch.curve([at(70, 392), at(92, 386), at(106, 392)], ink(0.5));
  sketch.line(at(108, 404), at(214, 376), ink(0.6)).line(at(104, 391), at(214, 376), ink(0.6));
  sketch.ellipse(at(86, 406), 6, 6, ink(0.4));
  sketch.curve([at(58, 418), at(16, 430), at(-44, 412)], ink(0.45));
  sketch.curve([at(-60, 170), at(-10, 156), at(40, 168)], ink(0.35)).curve([at(-44, 196), at(4, 186), at(48, 200)], ink(0.3));
  sketch.curve([at(-84, 140), at(-52, 148), at(-20, 142)], ink(0.3));
}

/** Across the water: a headland with its light, and the masts of what is moored there. */
function harbour(sketch: Sketch): void {
  const style = (weight: number) => ({ weight, as: 'pencil' as const });
  sketch.curve([{ x: -40, y: 1905 }, { x: 130, y: 1880 }, { x: 270, y: 1912 }, { x: 420, y: 1935 }, { x: 660, y: 1962 }], style(0.5));
  sketch.line({ x: 118, y: 1878 }, { x: 132, y: 1610 }, style(0.6)).line({ x: 190, y: 1884 }, { x: 178, y: 1610 }, style(0.6));
  sketch.line({ x: 116, y: 1610 }, { x: 194, y: 1610 }, style(0.6)).line({ x: 136, y: 1608 }, { x: 136, y: 1548 }, style(0.4));
  sketch.line({ x: 174, y: 1608 }, { x: 174, y: 1548 }, style(0.4)).curve([{ x: 128, y: 1548 }, { x: 155, y: 1506 }, { x: 182, y: 1548 }], style(0.5));
  sketch.line({ x: 210, y: 1570 }, { x: 640, y: 1452 }, style(0.15)).line({ x: 210, y: 1590 }, { x: 640, y: 1640 }, style(0.15));
  for (const [x, foot, top] of [
    [330, 2260, 1330],
    [470, 2230, 1480],
    [90, 2300, 1560],
  ]) {
    sketch.line({ x, y: foot }, { x: x - 8, y: top }, style(0.6));
    sketch.line({ x: x - 6, y: top + 60 }, { x: x - 150, y: foot - 60 }, style(0.2)).line({ x: x - 6, y: top + 60 }, { x: x + 140, y: foot - 40 }, style(0.2));
    sketch.line({ x: x - 70, y: top + 260 }, { x: x + 60, y: top + 236 }, style(0.4));
  }
  sketch.curve([{ x: -40, y: 2330 }, { x: 160, y: 2352 }, { x: 420, y: 2330 }, { x: 600, y: 2270 }], style(0.6));
  sketch.curve([{ x: -40, y: 2262 }, { x: 180, y: 2276 }, { x: 400, y: 2258 }, { x: 600, y: 2204 }], style(0.5));
}

/** A moon behind cloud, and gulls that do not sleep. */
function night(sketch: Sketch): void {
  const style = { weight: 0.5, as: 'pencil' as const };
  sketch.ellipse({ x: 2140, y: 520 }, 190, 190, style);
  sketch.curve([{ x: 1650, y: 640 }, { x: 1860, y: 590 }, { x: 2050, y: 650 }, { x: 2300, y: 600 }, { x: 2580, y: 640 }], style);
  sketch.curve([{ x: 1780, y: 720 }, { x: 2000, y: 690 }, { x: 2240, y: 730 }, { x: 2440, y: 700 }], style);
  for (const [x, y, s] of [
    [420, 560, 1],
    [640, 430, 0.7],
    [1560, 900, 0.6],
  ])
    sketch.curve([{ x: x - 90 * s, y: y - 20 * s }, { x: x - 40 * s, y: y - 46 * s }, { x, y }, { x: x + 44 * s, y: y - 50 * s }, { x: x + 96 * s, y: y - 26 * s }], style);
}
