import type { Point } from '@true-nib/core/math';
import { Sketch, type Mark } from './sketch';

type Half = readonly (readonly [number, number])[];

/** *The heron mask*: seen from the front, the same on both sides, 2800 × 2800 px. */
export function heronMask(): Sketch {
  const sketch = new Sketch();
  const centre = 1400;
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
  both(
    [
      [0, 560],
      [180, 520],
      [420, 560],
      [640, 720],
      [720, 940],
    ],
    1,
  );
  both(
    [
      [720, 940],
      [740, 1120],
      [660, 1300],
      [520, 1420],
      [360, 1540],
      [250, 1720],
    ],
    1,
  );
  both(
    [
      [250, 1720],
      [190, 2000],
      [110, 2320],
      [0, 2640],
    ],
    1,
  );
  both(
    [
      [0, 1220],
      [70, 1300],
      [120, 1480],
      [130, 1760],
      [84, 2140],
      [0, 2640],
    ],
    0.6,
  );
  both(
    [
      [120, 1480],
      [40, 1440],
      [0, 1436],
    ],
    0.4,
  );
  both(
    [
      [60, 1640],
      [92, 1600],
      [104, 1660],
    ],
    0.5,
  );
  // Eyes and the dark stripe that runs back from them.
  both(
    [
      [180, 1150],
      [280, 1060],
      [430, 1050],
      [540, 1120],
      [440, 1200],
      [300, 1210],
      [180, 1150],
    ],
    0.9,
  );
  for (const side of [1, -1]) {
    sketch.ellipse({ x: centre + side * 362, y: 1128 }, 74, 74, { weight: 0.7 });
    sketch.ellipse({ x: centre + side * 362, y: 1128 }, 28, 28, { weight: 0.8 });
  }
  both(
    [
      [200, 1010],
      [360, 930],
      [560, 940],
      [720, 1010],
      [980, 880],
      [1180, 700],
    ],
    0.8,
  );
  both(
    [
      [540, 1130],
      [740, 1120],
      [960, 1010],
      [1180, 700],
    ],
    0.8,
  );
  // Crest plumes.
  both(
    [
      [40, 540],
      [90, 330],
      [220, 190],
      [420, 120],
    ],
    0.8,
  );
  both(
    [
      [90, 528],
      [190, 380],
      [330, 290],
      [420, 120],
    ],
    0.6,
  );
  both(
    [
      [240, 530],
      [420, 400],
      [660, 330],
      [900, 330],
    ],
    0.8,
  );
  both(
    [
      [320, 545],
      [480, 470],
      [690, 420],
      [900, 330],
    ],
    0.6,
  );
  both(
    [
      [0, 420],
      [26, 260],
      [0, 80],
    ],
    0.7,
  );
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
