import { nested, type Screen } from '@true-nib/core/area';
import { outlineOf } from '@true-nib/core/ink';
import type { Point } from '@true-nib/core/math';
import { INK_BLACK, type Nib } from '@true-nib/core/nib';
import { polylineSpine } from '@true-nib/core/shapes';
import { combRows, stipple, toneDots, type CombSettings, type DotTone } from '@true-nib/core/texture';
import { discRing } from '@true-nib/core/tone';

/** The size of a picture, its own px. */
export const PICTURE = { width: 44, height: 30 } as const;

const SEED = 11;
const NIB: Nib = { name: 'Picture', size: 1.4, thinnest: 1, taperIn: 0, taperOut: 0, color: INK_BLACK };

/** The box that is filled in a picture. */
const BOX: readonly Point[] = [
  { x: 1, y: 1 },
  { x: PICTURE.width - 1, y: 1 },
  { x: PICTURE.width - 1, y: PICTURE.height - 1 },
  { x: 1, y: PICTURE.height - 1 },
];
const WAY = { from: { x: 1, y: 15 }, to: { x: 43, y: 15 } } as const;

/** Rows as path data, as the comb itself lays them. */
export function combPicture(
  { across = [], ...settings }: Partial<CombSettings>,
  toned?: 'weight' | 'closer' | 'broken',
): string {
  const tone = toned && {
    tone: { ramp: { shape: 'straight', ...WAY }, light: 0.04, dark: 0.6, by: toned } as const,
  };
  const rows = combRows(
    BOX,
    { kind: 'rails', x: 0, y: 0, angle: -0.9 },
    { nib: NIB, spacing: toned ? 2.8 : 4.2, ...settings, across, ...tone },
    SEED,
  );
  return rows.map((row) => words(outlineOf(row, 0.1).rings)).join('');
}

/** A screen as path data. */
export function tonePicture(screen: Screen, share: number, far?: number): string {
  const rings = nested([polylineSpine(BOX, true)]);
  return words(
    toneDots(
      {
        ...{ as: 'tone', color: INK_BLACK, screen, period: 5.2, angle: Math.PI / 4, at: { x: 22, y: 15 }, share },
        ...(far !== undefined && { ramp: { shape: 'straight', ...WAY, share: far } }),
      },
      { rings },
      0.1,
    ),
  );
}

/** Strewn dots as path data. */
export function dotPicture(tone: DotTone): string {
  const dots = stipple(BOX, tone, { size: 1.6, uneven: 0.3 }, SEED);
  return words(
    Array.from({ length: dots.length / 3 }, (_, k) => discRing(dots[3 * k], dots[3 * k + 1], dots[3 * k + 2] / 2, 0.1)),
  );
}

const words = (rings: readonly Float64Array[]): string =>
  rings
    .map((ring) => {
      let path = '';
      for (let i = 0; i < ring.length; i += 2)
        path += `${i === 0 ? 'M' : 'L'}${ring[i].toFixed(1)} ${ring[i + 1].toFixed(1)}`;
      return `${path}Z`;
    })
    .join('');
