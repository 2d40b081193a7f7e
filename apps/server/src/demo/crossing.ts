import type { Point } from '@true-nib/core/math';
import { Sketch } from './sketch';

/** Where things stand on the scroll. */
export const LIGHTHOUSE = { x: 420, y: 2900 } as const;
export const DECK = { x: 800, y: 5900 } as const;
export const LANTERN = { x: 900, y: 9000 } as const;
export const MOON = { x: 1040, y: 780 } as const;
const WAVES = { top: 6350, rows: 22, apart: 105 } as const;

const from =
  (x: number, y: number) =>
  (dx: number, dy: number): Point => ({ x: x + dx, y: y + dy });

function sky(sketch: Sketch): void {
  sketch.ellipse(MOON, 330, 330, { weight: 0.9 }).ellipse({ x: 1130, y: 720 }, 260, 270, { weight: 0.2 });
  for (const [x, y, wide] of [
    [180, 1180, 900],
    [520, 1330, 940],
    [60, 1500, 700],
  ])
    sketch.curve(
      [0, 0.2, 0.45, 0.7, 1].map((t, k) => ({ x: x + wide * t, y: y + (k % 2 ? -46 : 12) })),
      { weight: 0.5 },
    );
  for (let k = 0; k < 16; k++) {
    const at = from(90 + ((k * 613) % 1420), 160 + ((k * 379) % 1500));
    sketch.line(at(-16, 0), at(16, 0), { weight: 0.2 }).line(at(0, -16), at(0, 16), { weight: 0.2 });
  }
}

function lighthouse(sketch: Sketch, top: number): void {
  const at = from(LIGHTHOUSE.x, top);
  sketch.line(at(-110, 0), at(-210, 1500), { weight: 0.9 }).line(at(110, 0), at(210, 1500), { weight: 0.9 });
  for (const y of [260, 560, 880, 1220]) {
    const half = 110 + (100 * y) / 1500;
    sketch.curve([at(-half, y), at(0, y + 42), at(half, y)], { weight: 0.6 });
  }
  sketch
    .ellipse(at(0, 0), 170, 38, { weight: 0.8 })
    .line(at(-96, -6), at(-96, -230), { weight: 0.6 })
    .line(at(96, -6), at(96, -230), { weight: 0.6 });
  for (const x of [-40, 30]) sketch.line(at(x, -6), at(x, -230), { weight: 0.3 });
  sketch
    .curve([at(-130, -230), at(-60, -340), at(0, -390), at(60, -340), at(130, -230)], { weight: 0.9 })
    .ellipse(at(0, -230), 130, 26, { weight: 0.6 });
  sketch.line(at(120, -170), at(1200, -420), { weight: 0.4 }).line(at(120, -70), at(1200, 190), { weight: 0.4 });
  sketch.curve([at(-480, 1620), at(-260, 1480), at(0, 1520), at(240, 1480), at(460, 1640), at(760, 1700)], {
    weight: 0.8,
  });
  for (const y of [420, 740, 1060])
    sketch.ring([at(-22, y), at(22, y), at(22, y + 80), at(-22, y + 80)], { weight: 0.5 });
}

function ferry(sketch: Sketch, deck: number): void {
  const at = from(DECK.x, deck);
  sketch
    .curve([at(-640, 0), at(-560, 210), at(-480, 330)], { weight: 1 })
    .curve([at(640, -60), at(590, 180), at(520, 330)], { weight: 1 });
  sketch
    .curve([at(-640, 0), at(-200, 50), at(260, 30), at(640, -60)], { weight: 1 })
    .curve([at(-480, 330), at(0, 360), at(520, 330)], { weight: 0.7 });
  sketch.ring([at(-380, 30), at(-360, -230), at(330, -250), at(350, 20)], { weight: 0.8 });
  sketch.ring([at(-240, -236), at(-226, -430), at(150, -446), at(160, -246)], { weight: 0.8 });
  for (let k = 0; k < 5; k++) sketch.ellipse(at(-280 + k * 135, -110), 42, 46, { weight: 0.6 });
  for (let k = 0; k < 3; k++)
    sketch.ring(
      [at(-190 + k * 110, -390), at(-110 + k * 110, -394), at(-110 + k * 110, -300), at(-190 + k * 110, -298)],
      { weight: 0.5 },
    );
  sketch
    .line(at(220, -250), at(240, -560), { weight: 0.8 })
    .line(at(360, -254), at(366, -560), { weight: 0.8 })
    .ellipse(at(303, -560), 64, 18, { weight: 0.7 });
  sketch.curve([at(300, -600), at(250, -760), at(360, -900), at(240, -1060), at(380, -1260)], { weight: 0.4 });
  sketch
    .line(at(-460, 20), at(-440, -620), { weight: 0.6 })
    .line(at(-440, -600), at(-226, -430), { weight: 0.25 })
    .line(at(-440, -600), at(-640, 0), { weight: 0.25 });
}

function wave(sketch: Sketch, y: number, row: number): void {
  const shift = (row * 271) % 300;
  const height = 26 + row * 1.6;
  const places: Point[] = [];
  for (let x = -60 - shift; x < 1680; x += 110) places.push({ x, y: y + (places.length % 2 ? -height : height * 0.4) });
  sketch.curve(places, { weight: 0.3 + (row % 3) * 0.18 });
}

function lantern(sketch: Sketch, top: number): void {
  const at = from(LANTERN.x, top);
  sketch.curve([at(-60, -240), at(-30, 0), at(-90, 300), at(-20, 620)], { weight: 0.5 });
  sketch.ring([at(-120, 620), at(80, 620), at(120, 900), at(-150, 900)], { weight: 0.9 });
  sketch
    .curve([at(-120, 620), at(-20, 520), at(80, 620)], { weight: 0.8 })
    .ellipse(at(-20, 770), 46, 76, { weight: 0.6 });
  for (let k = 0; k < 10; k++) {
    const angle = (k * Math.PI) / 5;
    sketch.line(
      at(-20 + 220 * Math.cos(angle), 770 + 220 * Math.sin(angle)),
      at(-20 + 330 * Math.cos(angle), 770 + 330 * Math.sin(angle)),
      { weight: 0.2 },
    );
  }
}

function deep(sketch: Sketch): void {
  for (let k = 0; k < 12; k++) {
    const at = from(150 + ((k * 487) % 1300), 10400 + ((k * 761) % 2100));
    const size = 60 + ((k * 37) % 90);
    sketch.curve(
      [at(-size, 0), at(-size * 0.3, -size * 0.38), at(size * 0.6, -size * 0.1), at(size * 1.1, -size * 0.36)],
      { weight: 0.5 },
    );
    sketch.curve(
      [at(-size, 0), at(-size * 0.3, size * 0.36), at(size * 0.6, size * 0.08), at(size * 1.1, size * 0.34)],
      { weight: 0.5 },
    );
    sketch.ellipse(at(-size * 0.66, -size * 0.05), size * 0.06, size * 0.06, { weight: 0.4 });
  }
  for (let k = 0; k < 14; k++) {
    const x = 40 + k * 118;
    sketch.curve(
      [
        { x, y: 13900 },
        { x: x + 50, y: 13600 },
        { x: x - 36, y: 13300 },
        { x: x + 40, y: 12980 + ((k * 97) % 260) },
      ],
      { weight: 0.6 },
    );
  }
  sketch.curve(
    [
      { x: -40, y: 13820 },
      { x: 400, y: 13700 },
      { x: 860, y: 13840 },
      { x: 1640, y: 13720 },
    ],
    { weight: 0.8 },
  );
  const at = from(1010, 13330);
  sketch
    .line(at(0, -420), at(60, 220), { weight: 0.9 })
    .line(at(34, -424), at(94, 216), { weight: 0.9 })
    .ellipse(at(14, -470), 52, 56, { weight: 0.9 });
  sketch
    .line(at(-150, -320), at(190, -352), { weight: 0.8 })
    .curve([at(-170, 60), at(-60, 240), at(78, 300), at(200, 210), at(280, 20)], { weight: 1 });
}

/** The parts of *The crossing*, a tall scroll of 1600 × 14000 px, from the moon down to the bottom of the channel. */
export const CROSSING = {
  sky: drawn(sky),
  lighthouse: drawn((sketch) => lighthouse(sketch, LIGHTHOUSE.y)),
  ferry: drawn((sketch) => ferry(sketch, DECK.y)),
  waves: drawn((sketch) => {
    for (let row = 0; row < WAVES.rows; row++) wave(sketch, WAVES.top + row * WAVES.apart, row);
  }),
  lantern: drawn((sketch) => lantern(sketch, LANTERN.y)),
  deep: drawn(deep),
} as const;

/** All of it, as it is pencilled. */
export const crossing = (): Sketch =>
  drawn((sketch) => {
    for (const { marks } of Object.values(CROSSING)) for (const mark of marks) sketch.add(mark.points, mark);
  });

function drawn(draw: (sketch: Sketch) => void): Sketch {
  const sketch = new Sketch();
  draw(sketch);
  return sketch;
}
