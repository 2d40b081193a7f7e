import type { Point } from '@true-nib/core/math';
import { Sketch, type Mark } from './sketch';

type Half = readonly (readonly [number, number])[];

/** The lines of one half of the mask that other drawings of it go by, from its middle outward, y as on the page. */
export const HALVES = {
  BROW: [
    [0, 560],
    [180, 520],
    [420, 560],
    [640, 720],
    [720, 940],
  ],
  CHEEK: [
    [720, 940],
    [740, 1120],
    [660, 1300],
    [520, 1420],
    [360, 1540],
    [250, 1720],
  ],
  JAW: [
    [250, 1720],
    [190, 2000],
    [110, 2320],
    [0, 2640],
  ],
  BEAK: [
    [0, 1220],
    [70, 1300],
    [120, 1480],
    [130, 1760],
    [84, 2140],
    [0, 2640],
  ],
  BRIDGE: [
    [120, 1480],
    [40, 1440],
    [0, 1436],
  ],
  NOSTRIL: [
    [60, 1640],
    [92, 1600],
    [104, 1660],
  ],
  EYE: [
    [180, 1150],
    [280, 1060],
    [430, 1050],
    [540, 1120],
    [440, 1200],
    [300, 1210],
    [180, 1150],
  ],
  STRIPE_ABOVE: [
    [200, 1010],
    [360, 930],
    [560, 940],
    [720, 1010],
    [980, 880],
    [1180, 700],
  ],
  STRIPE_BELOW: [
    [540, 1130],
    [740, 1120],
    [960, 1010],
    [1180, 700],
  ],
  PLUME_OUT: [
    [40, 540],
    [90, 330],
    [220, 190],
    [420, 120],
  ],
  PLUME_IN: [
    [90, 528],
    [190, 380],
    [330, 290],
    [420, 120],
  ],
  WING_OUT: [
    [240, 530],
    [420, 400],
    [660, 330],
    [900, 330],
  ],
  WING_IN: [
    [320, 545],
    [480, 470],
    [690, 420],
    [900, 330],
  ],
  CREST: [
    [0, 420],
    [26, 260],
    [0, 80],
  ],
} as const satisfies Readonly<Record<string, Half>>;

/** Where the middle of the mask lies, and its irises to either side of it. */
export const MIDDLE = 1400;
export const IRIS = { x: 362, y: 1128, r: 74 } as const;

/** *The heron mask*: seen from the front, the same on both sides, 2800 × 2800 px. */
export function heronMask(): Sketch {
  const sketch = new Sketch();
  const centre = MIDDLE;
  const pale = { weight: 0.3, as: 'construction' as const };
  sketch.line({ x: centre, y: 60 }, { x: centre, y: 2740 }, pale);
  for (const y of [820, 1180, 1560]) sketch.line({ x: 240, y }, { x: 2560, y }, pale);
  sketch.ellipse({ x: centre, y: 1180 }, 760, 900, pale);
  const both = (half: Half, weight: number) => {
    const style: Partial<Mark> = { weight, as: 'pencil' };
    for (const side of [1, -1])
      sketch.curve(
        half.map(([x, y]): Point => ({ x: centre + side * x, y })),
        style,
      );
  };
  // The brow, the cheek and the long beak.
  both(HALVES.BROW, 1);
  both(HALVES.CHEEK, 1);
  both(HALVES.JAW, 1);
  both(HALVES.BEAK, 0.6);
  both(HALVES.BRIDGE, 0.4);
  both(HALVES.NOSTRIL, 0.5);
  // Eyes and the dark stripe that runs back from them.
  both(HALVES.EYE, 0.9);
  for (const side of [1, -1]) {
    sketch.ellipse({ x: centre + side * IRIS.x, y: IRIS.y }, IRIS.r, IRIS.r, { weight: 0.7 });
    sketch.ellipse({ x: centre + side * IRIS.x, y: IRIS.y }, 28, 28, { weight: 0.8 });
  }
  both(HALVES.STRIPE_ABOVE, 0.8);
  both(HALVES.STRIPE_BELOW, 0.8);
  // Crest plumes.
  both(HALVES.PLUME_OUT, 0.8);
  both(HALVES.PLUME_IN, 0.6);
  both(HALVES.WING_OUT, 0.8);
  both(HALVES.WING_IN, 0.6);
  both(HALVES.CREST, 0.7);
  for (let k = 0; k < 6; k++) {
    const y = 700 + k * 52;
    both(
      [
        [40 + k * 8, y],
        [100 + k * 16, y - 34],
        [170 + k * 22, y + 4],
      ],
      0.35,
    );
  }
  for (let k = 0; k < 7; k++)
    both(
      [
        [470 - k * 26, 1330 + k * 58],
        [410 - k * 24, 1392 + k * 58],
        [420 - k * 28, 1450 + k * 58],
      ],
      0.3,
    );
  // Cords.
  both(
    [
      [716, 1010],
      [860, 1180],
      [900, 1460],
      [840, 1720],
      [880, 1960],
    ],
    0.5,
  );
  both(
    [
      [740, 1040],
      [900, 1220],
      [936, 1470],
      [880, 1730],
      [920, 1950],
    ],
    0.4,
  );
  return sketch;
}
