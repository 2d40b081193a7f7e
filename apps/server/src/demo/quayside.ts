import type { Point } from '@true-nib/core/math';
import type { Sketch } from './sketch';

// What stands, sits, floats and hangs about the quay, at places in page px.

export function bollard(sketch: Sketch, foot: Point, size: number, as: 'ink' | 'pencil'): void {
  const [w, h] = [86 * size, 190 * size];
  const at = (x: number, y: number) => ({ x: foot.x + x * w, y: foot.y - y * h });
  sketch.ellipse(at(0, 1), w * 1.12, 30 * size, { weight: 0.8, as });
  sketch.ellipse(at(0, 0.84), w * 1.12, 30 * size, { weight: 0.6, as }, [0.05, Math.PI - 0.05]);
  sketch
    .line(at(-1.12, 1), at(-1.12, 0.84), { weight: 0.6, as })
    .line(at(1.12, 1), at(1.12, 0.84), { weight: 0.8, as });
  sketch.curve([at(-0.86, 0.72), at(-0.74, 0.4), at(-0.84, 0.02)], { weight: 0.8, as });
  sketch.curve([at(0.86, 0.72), at(0.74, 0.4), at(0.84, 0.02)], { weight: 1, as });
  sketch.ellipse(at(0, 0.02), w * 0.84, 26 * size, { weight: 0.9, as }, [0.02, Math.PI - 0.02]);
  for (let k = 0; k < 3; k++)
    sketch.ellipse(at(0, 0.5 - k * 0.1), w * 0.8, 26 * size, { weight: 0.5, as }, [0.1, Math.PI - 0.1]);
}

export function lamp(sketch: Sketch, foot: Point, head: Point): void {
  const style = { weight: 0.7, as: 'pencil' as const };
  sketch
    .line({ x: foot.x - 9, y: foot.y }, { x: head.x - 6, y: head.y }, style)
    .line({ x: foot.x + 9, y: foot.y }, { x: head.x + 6, y: head.y }, style);
  const at = (x: number, y: number) => ({ x: head.x + x, y: head.y + y });
  sketch.line(at(-26, 0), at(-40, -96), style).line(at(26, 0), at(40, -96), style).line(at(-26, 0), at(26, 0), style);
  sketch
    .line(at(-50, -96), at(50, -96), style)
    .line(at(-50, -96), at(0, -140), style)
    .line(at(50, -96), at(0, -140), style);
  for (let k = 0; k < 8; k++) {
    const angle = (k * Math.PI) / 4 + 0.2;
    sketch.line(
      at(90 * Math.cos(angle), -48 + 90 * Math.sin(angle)),
      at(150 * Math.cos(angle), -48 + 150 * Math.sin(angle)),
      { weight: 0.15 },
    );
  }
}

/** A figure in a long coat under an umbrella, `height` px tall. */
export function ferryman(sketch: Sketch, foot: Point, height: number): void {
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
  sketch.curve(
    [at(-0.2, 1.0), at(-0.08, 1.05), at(0.04, 1.01), at(0.17, 1.06), at(0.3, 1.01), at(0.43, 1.04), at(0.54, 0.98)],
    s,
  );
  sketch
    .curve([at(0.17, 1.2), at(0.06, 1.12), at(0.04, 1.01)], { weight: 0.3 })
    .curve([at(0.17, 1.2), at(0.29, 1.12), at(0.3, 1.01)], { weight: 0.3 });
}

/** The night ferry at her moorings, bow towards us, and the rope to the bollard. */
export function boat(sketch: Sketch, mooring: Point): void {
  const ink = (weight: number) => ({ weight, as: 'ink' as const });
  const pencil = (weight: number) => ({ weight, as: 'pencil' as const });
  sketch.curve(
    [
      { x: 1330, y: 3560 },
      { x: 1560, y: 3490 },
      { x: 1980, y: 3330 },
      { x: 2690, y: 3020 },
    ],
    pencil(0.9),
  );
  sketch.curve(
    [
      { x: 1330, y: 3560 },
      { x: 1392, y: 3660 },
      { x: 1445, y: 3800 },
    ],
    pencil(1),
  );
  sketch.curve(
    [
      { x: 1445, y: 3800 },
      { x: 1800, y: 3770 },
      { x: 2250, y: 3650 },
      { x: 2690, y: 3490 },
    ],
    pencil(0.8),
  );
  sketch.curve(
    [
      { x: 1348, y: 3610 },
      { x: 1600, y: 3540 },
      { x: 2010, y: 3385 },
      { x: 2690, y: 3085 },
    ],
    pencil(0.5),
  );
  sketch
    .line({ x: 1860, y: 3370 }, { x: 1850, y: 3110 }, pencil(0.7))
    .line({ x: 2420, y: 3135 }, { x: 2412, y: 2850 }, pencil(0.7));
  sketch.line({ x: 1828, y: 3120 }, { x: 2440, y: 2838 }, pencil(0.8));
  sketch
    .line({ x: 1828, y: 3120 }, { x: 1836, y: 3085 }, pencil(0.5))
    .line({ x: 1836, y: 3085 }, { x: 2446, y: 2806 }, pencil(0.5));
  for (let k = 0; k < 4; k++) {
    const x = 1915 + k * 130;
    const y = 3145 - k * 60;
    sketch.ellipse({ x, y: y + 50 }, 34, 40, pencil(0.5));
  }
  sketch
    .line({ x: 2180, y: 2925 }, { x: 2172, y: 2560 }, pencil(0.7))
    .line({ x: 2180, y: 2600 }, { x: 2440, y: 2740 }, pencil(0.3));
  const from = { x: mooring.x + 84, y: mooring.y - 96 };
  sketch.curve(
    [from, { x: from.x + 60, y: from.y + 260 }, { x: from.x + 330, y: from.y + 540 }, { x: 1330, y: 3572 }],
    ink(0.8),
  );
  for (let k = 0; k < 7; k++) {
    const y = 3760 + k * 52;
    const x = 180 + ((k * 397) % 520);
    sketch.curve(
      [
        { x, y },
        { x: x + 120, y: y - 14 },
        { x: x + 260, y: y + 6 },
        { x: x + 420, y: y - 8 },
      ],
      pencil(0.35),
    );
    sketch.curve(
      [
        { x: x + 900, y: y + 70 },
        { x: x + 1080, y: y + 58 },
        { x: x + 1300, y: y + 74 },
      ],
      pencil(0.3),
    );
  }
}

/** A heron on the bollard, waiting for the tide. */
export function heron(sketch: Sketch, foot: Point): void {
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
  sketch
    .curve([at(-60, 170), at(-10, 156), at(40, 168)], ink(0.35))
    .curve([at(-44, 196), at(4, 186), at(48, 200)], ink(0.3));
  sketch.curve([at(-84, 140), at(-52, 148), at(-20, 142)], ink(0.3));
}

/** Across the water: a headland with its light, and the masts of what is moored there. */
export function harbour(sketch: Sketch): void {
  const style = (weight: number) => ({ weight, as: 'pencil' as const });
  sketch.curve(
    [
      { x: -40, y: 1905 },
      { x: 130, y: 1880 },
      { x: 270, y: 1912 },
      { x: 420, y: 1935 },
      { x: 660, y: 1962 },
    ],
    style(0.5),
  );
  sketch
    .line({ x: 118, y: 1878 }, { x: 132, y: 1610 }, style(0.6))
    .line({ x: 190, y: 1884 }, { x: 178, y: 1610 }, style(0.6));
  sketch
    .line({ x: 116, y: 1610 }, { x: 194, y: 1610 }, style(0.6))
    .line({ x: 136, y: 1608 }, { x: 136, y: 1548 }, style(0.4));
  sketch.line({ x: 174, y: 1608 }, { x: 174, y: 1548 }, style(0.4)).curve(
    [
      { x: 128, y: 1548 },
      { x: 155, y: 1506 },
      { x: 182, y: 1548 },
    ],
    style(0.5),
  );
  sketch
    .line({ x: 210, y: 1570 }, { x: 640, y: 1452 }, style(0.15))
    .line({ x: 210, y: 1590 }, { x: 640, y: 1640 }, style(0.15));
  for (const [x, foot, top] of [
    [330, 2260, 1330],
    [470, 2230, 1480],
    [90, 2300, 1560],
  ]) {
    sketch.line({ x, y: foot }, { x: x - 8, y: top }, style(0.6));
    sketch
      .line({ x: x - 6, y: top + 60 }, { x: x - 150, y: foot - 60 }, style(0.2))
      .line({ x: x - 6, y: top + 60 }, { x: x + 140, y: foot - 40 }, style(0.2));
    sketch.line({ x: x - 70, y: top + 260 }, { x: x + 60, y: top + 236 }, style(0.4));
  }
  sketch.curve(
    [
      { x: -40, y: 2330 },
      { x: 160, y: 2352 },
      { x: 420, y: 2330 },
      { x: 600, y: 2270 },
    ],
    style(0.6),
  );
  sketch.curve(
    [
      { x: -40, y: 2262 },
      { x: 180, y: 2276 },
      { x: 400, y: 2258 },
      { x: 600, y: 2204 },
    ],
    style(0.5),
  );
}

/** A moon behind cloud, and gulls that do not sleep. */
export function night(sketch: Sketch): void {
  const style = { weight: 0.5, as: 'pencil' as const };
  sketch.ellipse({ x: 2140, y: 520 }, 190, 190, style);
  sketch.curve(
    [
      { x: 1650, y: 640 },
      { x: 1860, y: 590 },
      { x: 2050, y: 650 },
      { x: 2300, y: 600 },
      { x: 2580, y: 640 },
    ],
    style,
  );
  sketch.curve(
    [
      { x: 1780, y: 720 },
      { x: 2000, y: 690 },
      { x: 2240, y: 730 },
      { x: 2440, y: 700 },
    ],
    style,
  );
  for (const [x, y, s] of [
    [420, 560, 1],
    [640, 430, 0.7],
    [1560, 900, 0.6],
  ])
    sketch.curve(
      [
        { x: x - 90 * s, y: y - 20 * s },
        { x: x - 40 * s, y: y - 46 * s },
        { x, y },
        { x: x + 44 * s, y: y - 50 * s },
        { x: x + 96 * s, y: y - 26 * s },
      ],
      style,
    );
}
