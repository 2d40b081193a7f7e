import type { Point } from '@true-nib/core/math';
import { camera, face, type CameraOptions, type Place } from './camera';
import { bollard, lamp, ferryman, boat, heron, harbour, night } from './quayside';
import { Sketch } from './sketch';

/** Where the quay is seen from, and how far its houses are turned. */
export const QUAY_VIEW: CameraOptions = { centre: { x: 1325, y: 1980 }, focal: 2500, eye: [0, 3.1, 0] };
export const QUAY_TURN = (38 * Math.PI) / 180;

/** *Quay at low tide*: a corner house and a row of sheds above a harbour wall, two vanishing points, 2650 × 4100 px. */
export function quay(): Sketch {
  const sketch = new Sketch();
  const view = camera(QUAY_VIEW);
  const p = view.project;
  const turn = QUAY_TURN;
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
  for (let k = 1; k < 7; k++)
    line([ridge[0] + along[0] * k * 0.9, ridge[1], ridge[2] + along[2] * k * 0.9], right(k * 0.9, eaves), pencil(0.2));
  chimney(sketch, p, ridge, along);

  // The round window in the gable and a beam with a hoist.
  const ringOn = (wall: typeof left, s: number, t: number, r: number): Point[] =>
    Array.from({ length: 33 }, (_, k) =>
      p(wall(s + r * Math.cos((k * Math.PI) / 16), t + r * Math.sin((k * Math.PI) / 16))),
    );
  sketch.add(ringOn(left, deep / 2, eaves + 0.85, 0.44), ink(0.6));
  sketch.add(ringOn(left, deep / 2, eaves + 0.85, 0.34), ink(0.3));
  line(left(deep / 2 - 0.34, eaves + 0.85), left(deep / 2 + 0.34, eaves + 0.85), ink(0.3));
  line(left(deep / 2, eaves + 0.51), left(deep / 2, eaves + 1.19), ink(0.3));

  for (const [row, sill] of [3.45, 1.15].entries())
    for (let k = 0; k < 3; k++) {
      const s = 0.55 + k * 1.55;
      if (row === 1 && k === 1) continue;
      pane(line, left, [s, sill], [1.0, row === 0 ? 1.45 : 1.5], ink);
    }
  for (const sill of [3.45, 1.0])
    for (let k = 0; k < 4; k++) pane(line, right, [0.6 + k * 1.45, sill], [0.95, sill > 2 ? 1.45 : 1.7], pencil);
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
  shed(line, right, 7.1, [4.4, 4.3], pencil);
  shed(line, right, 12.2, [3.6, 6.4], pencil);
  shed(line, right, 16.4, [5.5, 4.9], pencil);

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

  const mooring = p(ground(-4.5, edge + 0.62));
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
/** A place on a wall, or how wide and tall something is on it. */
type Pair = readonly [number, number];
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

function pane(line: Line, wall: Wall, [s, t]: Pair, [wide, tall]: Pair, style: Style): void {
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

function shed(line: Line, wall: Wall, s: number, [wide, tall]: Pair, style: Style): void {
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
  sketch
    .line(at(2.4, -0.1), at(2.4, 1.2), style)
    .line(at(3.1, -0.1), at(3.1, 1.2), style)
    .line(at(2.3, 1.2), at(3.2, 1.2), style);
  const top = at(2.75, 1.5);
  sketch.curve(
    [top, { x: top.x + 60, y: top.y - 120 }, { x: top.x - 10, y: top.y - 230 }, { x: top.x + 110, y: top.y - 330 }],
    { weight: 0.3 },
  );
}
