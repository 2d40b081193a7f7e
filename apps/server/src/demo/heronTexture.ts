import { flatRing } from '@true-nib/core/area';
import { fitSpine } from '@true-nib/core/curve';
import type { Thing } from '@true-nib/core/drawn';
import type { Point } from '@true-nib/core/math';
import { INK_BLACK, type Nib } from '@true-nib/core/nib';
import { combRows, featherRows, spanRows, stipple } from '@true-nib/core/texture';
import { BLACK, curved, type Blacks } from './blacks';
import { across, between, SHADE, thinned, way, type Half, type Side } from './heronFinished';
import { HALVES, MIDDLE } from './heronMask';

const FINE: Nib = { name: 'Fine', size: 4, thinnest: 1, taperIn: 2, taperOut: 8, color: INK_BLACK };

/** Where the hatching of the cheek ends towards the beak, and the side of the brow that lies in shade. */
const LIGHT: Half = [
  [640, 900],
  [560, 1110],
  [470, 1250],
  [360, 1360],
  [270, 1490],
  [215, 1700],
];
const BROW_EDGE: Half = [
  [720, 940],
  [640, 720],
  [420, 560],
  [240, 528],
];
const BROW_LIGHT: Half = [
  [640, 900],
  [540, 740],
  [380, 640],
  [240, 590],
];

/** The greys of the heron mask: rows that grow out of its blacks, hatching, dots on the beak, a tone on the brow. */
export function heronTexture(): Blacks {
  const both = (made: (side: Side) => readonly Thing[]) => [...made(1), ...made(-1)];
  return {
    name: 'Texture',
    at: 'above',
    things: [tone(), ...both(cheek), ...both(barbs), ...both(plume), beak(-1), beak(1)],
  };
}

/** Hatching beside the shade of a cheek, crossed where it is darkest. */
function cheek(side: Side): Thing[] {
  const [dark, light] = [SHADE, LIGHT].map((half) => across(side, way(half)));
  const loop = [...dark, ...light.toReversed()];
  const ramp = { shape: 'straight', from: light[light.length >> 1], to: dark[dark.length >> 1] } as const;
  return combRows(
    loop,
    { kind: 'rails', x: MIDDLE, y: 1200, angle: side * 0.95 },
    {
      ...{ nib: FINE, spacing: 14, stray: 0.25, short: 0.15, across: [{ turn: side * -1.15, from: 0.3 }] },
      tone: { ramp, light: 0.1, dark: 0.42, by: 'weight' },
    },
    side + 31,
  );
}

/** Short rows out of the stripe behind the eye. */
function barbs(side: Side): Thing[] {
  const edge = across(side, way(HALVES.STRIPE_BELOW)).flatMap(({ x, y }) => [x, y]);
  const settings = { nib: { ...FINE, size: 7 }, length: 54, spacing: 13, slant: side * -0.4, uneven: 0.5 };
  return featherRows({ course: edge, side: side === 1 ? -1 : 1 }, settings, 5);
}

/** The barbs of a plume: rows between its two edges. */
function plume(side: Side): Thing[] {
  const inner = thinned(HALVES.PLUME_OUT, HALVES.PLUME_IN, 0.66);
  const [a, b] = [inner, HALVES.PLUME_IN].map((half) => fitSpine(across(side, way(half)), 0.3));
  const wide = ({ points }: ReturnType<typeof fitSpine>) => ({
    points: points.map((value, i) => (i % 3 === 2 ? 3.5 : value)),
    closed: false,
  });
  return spanRows([wide(a), wide(b)], { nib: FINE, rows: { count: 5 }, gather: -0.25 });
}

/** Dots along one side of the beak, fewer towards its ridge. */
function beak(side: Side): Thing {
  const loop = [...across(side, way(HALVES.BEAK)), { x: MIDDLE, y: 1220 }];
  const from = { x: MIDDLE + side * 130, y: 1700 };
  const ramp = { shape: 'straight', from, to: { x: MIDDLE, y: 1700 }, share: 0.01 } as const;
  return {
    dots: stipple(loop, { share: 0.2, ramp }, { size: 6, uneven: 0.4 }, 40 + side),
    fill: { as: 'colour', color: INK_BLACK },
  };
}

/** A tone on the brow, lighter towards its middle. */
function tone(): Thing {
  const places: Point[] = across(-1, between(BROW_EDGE, BROW_LIGHT));
  const area = curved(places, BLACK);
  const [x, y] = flatRing(area.rings[0]);
  const ramp = {
    shape: 'straight',
    from: { x: MIDDLE - 720, y: 900 },
    to: { x: MIDDLE - 240, y: 560 },
    share: 0,
  } as const;
  return {
    ...area,
    fill: {
      ...{ as: 'tone', color: INK_BLACK, screen: 'dots', period: 9, angle: Math.PI / 4 },
      at: { x, y },
      share: 0.42,
      ramp,
    },
  };
}
